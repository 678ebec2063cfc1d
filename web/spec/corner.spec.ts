import { afterEach, describe, expect, it, vi } from "vitest";
import type * as THREE from "three";
import { Corner } from "../src/view/corner";

function renderer() {
  const style = new Map<string, string>();
  const setProperty = vi.fn((name: string, value: string) => style.set(name, value));
  const setViewport = vi.fn();
  const canvas = { style: { getPropertyValue: (name: string) => style.get(name) ?? "", setProperty } };
  const made = { setViewport, domElement: canvas } as unknown as THREE.WebGLRenderer;
  return { made, style, setViewport, setProperty };
}

describe("the corner of the canvas that hasty pictures are drawn into", () => {
  afterEach(() => vi.unstubAllGlobals());

  it("is shown as large as the canvas, and given up for all other pictures", () => {
    vi.stubGlobal("CSS", { supports: () => true });
    const { made, style, setViewport, setProperty } = renderer();
    const corner = new Corner();
    corner.take(true);
    corner.show(made, [763, 512]);
    expect(setViewport).toHaveBeenLastCalledWith(0, 0, 382, 256);
    // From the top, right, bottom and left.
    expect(style.get("object-view-box")).toBe("inset(256px 381px 0px 0px)");
    corner.show(made, [763, 512]);
    expect(setProperty).toHaveBeenCalledTimes(1);
    corner.take(false);
    corner.show(made, [763, 512]);
    expect(setViewport).toHaveBeenLastCalledWith(0, 0, 763, 512);
    expect(style.get("object-view-box")).toBe("");
  });

  it("is not used where the browser cannot show a part of a canvas", () => {
    vi.stubGlobal("CSS", { supports: () => false });
    const { made, setViewport, setProperty } = renderer();
    const corner = new Corner();
    corner.take(true);
    corner.show(made, [763, 512]);
    expect(setViewport).toHaveBeenLastCalledWith(0, 0, 763, 512);
    expect(setProperty).not.toHaveBeenCalled();
  });
});
