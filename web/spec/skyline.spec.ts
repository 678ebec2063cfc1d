import { describe, expect, it } from "vitest";
import { Skyline } from "../src/view/skyline";
import type { BufferGeometry, Mesh, Scene, ShaderMaterial, WebGLRenderer } from "three";

/** The sky's numbers with hills so high, of such a number. */
function sky(high: number, which: number) {
  const numbers = new Array(40).fill(0);
  numbers[15] = high;
  numbers[16] = which;
  return numbers;
}

function drawn() {
  const skyline = new Skyline();
  const passes: number[] = [];
  const targets: unknown[] = [];
  const renderer = {
    setRenderTarget: (target: unknown) => targets.push(target),
    render: (scene: Scene) => {
      const { material } = scene.children[0] as Mesh<BufferGeometry, ShaderMaterial>;
      passes.push(material.uniforms.which.value);
    },
  } as unknown as WebGLRenderer;
  const draw = (high: number, which: number) => skyline.draw(renderer, sky(high, which));
  return { skyline, passes, targets, draw };
}

describe("the skyline", () => {
  it("is drawn once for each number, however high it stands", () => {
    const { passes, draw } = drawn();
    draw(0.07, 3);
    draw(0.07, 3);
    draw(0.2, 3);
    expect(passes).toEqual([3]);
    draw(0.2, 4);
    draw(0.2, 3);
    expect(passes).toEqual([3, 4, 3]);
  });

  it("is not drawn without hills", () => {
    const { passes, targets, draw } = drawn();
    draw(0, 3);
    expect(passes).toEqual([]);
    expect(targets).toEqual([]);
    draw(0.07, 3);
    draw(0, 5);
    draw(0.07, 3);
    expect(passes).toEqual([3]);
  });

  it("is drawn to its own strip, which shaders look up all around", () => {
    const { skyline, targets, draw } = drawn();
    draw(0.07, 1);
    expect(targets).toHaveLength(1);
    const strip = (targets[0] as { texture: unknown; height: number }).texture;
    expect(strip).toBe(skyline.uniforms.crests.value);
    expect((targets[0] as { height: number }).height).toBe(3);
  });
});
