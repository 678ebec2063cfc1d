import { describe, expect, it } from "vitest";
import { gathered } from "../src/view/fireLamps";

/** A lamp at a height, of so much light. */
const lamp = (y: number, light: number, x = 0) => [1.1, x, y, 0, light, 0.5 * light, 0.1 * light, 1];
const light = (rows: number[][]) => rows.reduce((sum, row) => sum + row[4], 0);

describe("lamps that stand for a fire", () => {
  const fire = [lamp(1.2, 40), lamp(1.4, 30), lamp(0.2, 8), lamp(0.3, 4), lamp(0.1, 2)];

  it("are as they are where they are few", () => {
    expect(gathered(fire, 5)).toBe(fire);
    expect(gathered([], 2)).toEqual([]);
  });

  it("give what all would, however few they are", () => {
    for (const most of [1, 2, 3, 4]) {
      const kept = gathered(fire, most);
      expect(kept).toHaveLength(most);
      expect(light(kept)).toBeCloseTo(light(fire), 6);
    }
  });

  it("stand where their light does, the weak ones below too", () => {
    const [high, low] = gathered(fire, 2);
    expect(high[2]).toBeCloseTo((40 * 1.2 + 30 * 1.4) / 70, 6);
    expect(high[4]).toBeCloseTo(70, 6);
    expect(low[2]).toBeCloseTo((8 * 0.2 + 4 * 0.3 + 2 * 0.1) / 14, 6);
    expect(low[4]).toBeCloseTo(14, 6);
  });

  it("keep what else is said of the lamp they begin with", () => {
    const [first] = gathered(fire, 1);
    expect([first[0], first[7]]).toEqual([1.1, 1]);
  });

  it("are fewer where several lie at one place", () => {
    expect(gathered([lamp(1, 3), lamp(1, 2), lamp(1, 1)], 2)).toHaveLength(1);
    expect(light(gathered([lamp(1, 3), lamp(1, 2), lamp(1, 1)], 2))).toBeCloseTo(6, 6);
  });

  it("do not leave their places for light that is none", () => {
    const dark = gathered([lamp(1, 0), lamp(2, 0), lamp(3, 0)], 2);
    expect(dark.flat().every(Number.isFinite)).toBe(true);
  });
});
