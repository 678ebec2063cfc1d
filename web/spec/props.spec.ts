import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Body } from "../src/api/types";
import { UNPAINTED, type Paint } from "../src/view/paint";
import { PropShelf } from "../src/view/props";

vi.mock("../src/api/client", () => ({ api: { shapeUrl: () => "/shape" } }));

const pose = (x: number) => [x, 0, 0, 0, 0, 0, 1, 1, 1];

/** A box that stands somewhere else in the second frame, or always at the same place. */
const box = (prop: string, ...at: number[]) =>
  ({ prop, outline: { shape: "box" }, first: 1, poses: at.map(pose), pose: pose(at[0]) }) as unknown as Body;

const glass: Paint = { ...UNPAINTED, clear: 1 };

/** A shelf with such bodies at the first frame. @return it, and what is drawn anew at the second */
async function second(bodies: Body[], paints: Record<string, Paint>) {
  const shelf = new PropShelf();
  await shelf.set(bodies, new Map(Object.entries(paints)), []);
  shelf.go(1);
  shelf.light.shadowStale = false;
  const { edition, solid } = shelf;
  expect(shelf.go(2)).toBe(true);
  return {
    all: shelf.edition > edition,
    solid: shelf.solid > solid,
    shadow: shelf.light.shadowStale,
  };
}

describe("props that move", () => {
  beforeEach(() => {
    vi.stubGlobal(
      "fetch",
      vi.fn(async () => new Response(new Float32Array(18).buffer)),
    );
  });

  it("are drawn anew, with their shadow", async () => {
    expect(await second([box("a", 0, 1), box("b", 0, 0)], {})).toEqual({
      all: true,
      solid: true,
      shadow: true,
    });
  });

  it("leave what stands behind them as it was drawn where they are clear", async () => {
    const moved = await second([box("water", 0, 1), box("trough", 0, 0)], { water: glass });
    expect(moved).toEqual({ all: true, solid: false, shadow: false });
  });

  it("throw a shadow where they are hardly clear", async () => {
    const murky = { ...glass, clear: 0.3 };
    expect(await second([box("water", 0, 1)], { water: murky })).toEqual({
      all: true,
      solid: true,
      shadow: true,
    });
  });

  it("are drawn anew before what moves behind them", async () => {
    const moved = await second([box("water", 0, 0), box("trough", 0, 1)], { water: glass });
    expect(moved.solid).toBe(true);
  });

  it("are nothing new where they come and go unseen", async () => {
    const gone = { ...box("a", 0, 0), poses: [null, null] } as unknown as Body;
    expect((await second([gone], {})).solid).toBe(false);
    const comes = { ...box("a", 0, 0), poses: [null, pose(0)] } as unknown as Body;
    expect((await second([comes], {})).solid).toBe(true);
  });
});
