import { describe, expect, it } from "vitest";
import { Levels } from "../src/view/levels";

describe("how coarse pictures are", () => {
  it("begins whole, and goes down no further than pictures that are worth keeping", () => {
    const levels = new Levels();
    expect([levels.smoke, levels.picture, levels.quick]).toEqual([1, 1, true]);
    for (let n = 0; n < 12; n++) levels.coarser();
    expect(levels.smoke).toBe(0.25);
    expect(levels.hasty).toBe(false);
    expect(levels.quick).toBe(false);
  });

  it("has one more for what is under the hand, and leaves it after that", () => {
    const levels = new Levels();
    levels.coarsen();
    levels.hurry(true);
    expect(levels.hasty).toBe(true);
    levels.hurry(false);
    expect(levels.hasty).toBe(false);
    expect(levels.smoke).toBe(0.25);
  });

  it("stays as quick as it began while it is about what is urgent, and goes on as before", () => {
    const levels = new Levels();
    for (let n = 0; n < 3; n++) levels.coarser();
    const before = levels.smoke;
    levels.hurry(true);
    levels.finer();
    levels.hurry(true);
    expect([levels.hasty, levels.urgent]).toEqual([true, true]);
    levels.hurry(false);
    expect([levels.smoke, levels.urgent]).toEqual([before, false]);
    // What was coarse for want of a quicker machine may become finer again.
    levels.finer();
    expect(levels.smoke).toBeGreaterThan(before);
  });

  it("hurries a machine that keeps up no more than it has to", () => {
    const levels = new Levels();
    levels.coarser();
    levels.hurry(true);
    expect(levels.smoke).toBe(0.75);
  });

  it("is never finer than whole, and takes longer steps the coarser it is", () => {
    const levels = new Levels();
    levels.finer();
    expect(levels.smoke).toBe(1);
    const [fine, fog] = [levels.pace, levels.fogPace];
    levels.coarsen();
    expect(levels.pace).toBeGreaterThan(fine);
    expect(levels.fogPace).toBeGreaterThan(fog);
  });
});
