import { describe, expect, it } from "vitest";
import type { Dial, Histogram, Stop } from "../src/api/types";
import { bars, course, inserted, moved, rampAt, spanOf } from "../src/dials/fields/ramps";

const stop = (at: number, value: number | number[], pass: Stop["pass"] = "smooth") =>
  ({ at, value, pass }) as Stop;
const dial = { range: [0, 100], values: [0, 2] } as unknown as Dial;
const held: Histogram = { low: 0, high: 40, counts: [100, 10, 1, 0] } as unknown as Histogram;

describe("a ramp", () => {
  const stops = [stop(10, 0, "linear"), stop(20, 1, "smooth"), stop(40, 0.5, "held"), stop(50, 2)];

  it("passes straight, smoothly or not at all, and stays at its ends", () => {
    expect([0, 10, 15, 20].map((at) => rampAt(stops, at))).toEqual([0, 0, 0.5, 1]);
    expect(rampAt(stops, 30)).toBeCloseTo(0.75, 10);
    expect(rampAt(stops, 25)).toBeCloseTo(1 - 0.5 * (0.0625 * 2.5), 10);
    expect([40, 49.9, 50, 90].map((at) => rampAt(stops, at))).toEqual([0.5, 0.5, 2, 2]);
  });

  it("passes between colours part by part", () => {
    expect(rampAt([stop(0, [0, 1, 0.5], "linear"), stop(1, [1, 0, 0.5])], 0.25)).toEqual([0.25, 0.75, 0.5]);
  });

  it("shows all stops and all that the volume holds", () => {
    expect(spanOf(stops, null)).toEqual([0, 52]);
    expect(spanOf([stop(-5, 0), stop(80, 1)], held)).toEqual([-5, -5 + 85 * 1.04]);
    expect(spanOf([stop(0, 0)], null)).toEqual([0, 1.04]);
  });

  it("keeps its stops in order as one is moved, within what the dial allows", () => {
    const { stops: next, index } = moved(stops, 0, 45, 1.5, dial);
    expect([next.map(({ at }) => at), index]).toEqual([[20, 40, 45, 50], 2]);
    expect(next[2].value).toBe(1.5);
    expect(moved(stops, 3, 400, 9, dial).stops[3]).toMatchObject({ at: 100, value: 2 });
    expect(moved(stops, 0, -3, null, dial).stops[0]).toMatchObject({ at: 0, value: 0 });
    // What was there is left as it was.
    expect(stops.map(({ at }) => at)).toEqual([10, 20, 40, 50]);
  });

  it("takes one more on the course as it is", () => {
    const { stops: next, index } = inserted(stops, 15, dial);
    expect([index, next[1]]).toEqual([1, { at: 15, value: 0.5, pass: "smooth" }]);
    expect([12, 18, 30].map((at) => typeof rampAt(next, at))).toEqual(["number", "number", "number"]);
  });

  it("is drawn from end to end, over bars whose heights go by their logarithm", () => {
    const line = course(stops, [0, 50], 100, (value) => 10 * (value as number));
    expect(line.startsWith("M0.0 0.0L")).toBe(true);
    expect(line.endsWith("100.0 20.0")).toBe(true);
    expect(line.split("L")).toHaveLength(121);
    const heights = [...bars(held, [0, 40], 100, 50).matchAll(/L[\d.]+ ([\d.]+)L/g)].map((found) =>
      Number(found[1]),
    );
    expect(heights[0]).toBeCloseTo(4, 1);
    expect(heights[0]).toBeLessThan(heights[1]);
    expect(course([], [0, 1], 10, () => 0)).toBe("");
  });
});
