import { describe, expect, it } from "vitest";
import { Bands } from "../src/view/bands";

/** Draws a picture of so many rows on a machine that needs so long for each; gives the bands. */
function drawn(bands: Bands, clock: { now: number }, height: number, slow: (row: number) => number) {
  const found: [number, number][] = [];
  for (const parts = bands.over(height, (from, to) => found.push([from, to])); !parts.next().done;) {
    const [from, to] = found.at(-1)!;
    for (let row = from; row < to; row++) clock.now += slow(row);
  }
  return found;
}

const took = (bands: [number, number][], slow: (row: number) => number) =>
  bands.map(([from, to]) =>
    Array.from({ length: to - from }, (_, n) => slow(from + n)).reduce((a, b) => a + b, 0),
  );

describe("bands of a picture", () => {
  const made = (most: number) => {
    const clock = { now: 0 };
    return { clock, bands: new Bands(most, () => clock.now) };
  };

  it("cover every row once, from the last to the first", () => {
    const { clock, bands } = made(20);
    const found = drawn(bands, clock, 503, (row) => (row % 7 ? 0.5 : 3));
    expect(found[0][1]).toBe(503);
    expect(found.at(-1)![0]).toBe(0);
    found.slice(1).forEach(([, to], n) => expect(to).toBe(found[n][0]));
  });

  it("are soon the whole picture where that is quick", () => {
    const { clock, bands } = made(32);
    const counts = Array.from({ length: 8 }, () => drawn(bands, clock, 512, () => 0.005).length);
    expect(counts[0]).toBeLessThan(12);
    expect(counts.at(-1)).toBe(1);
  });

  it("are short where that is slow, and begin so the next time", () => {
    const { clock, bands } = made(80);
    const slow = (row: number) => (row > 150 && row < 400 ? 8 : 0.2);
    drawn(bands, clock, 512, slow);
    const times = took(drawn(bands, clock, 512, slow), slow);
    const middle = times.slice(0, -1).sort((a, b) => a - b)[Math.floor(times.length / 2)];
    expect(middle).toBeGreaterThan(20);
    expect(middle).toBeLessThan(60);
  });

  it("are never more than was said, and what was given up teaches nothing", () => {
    const { clock, bands } = made(8);
    expect(drawn(bands, clock, 512, () => 50)).toHaveLength(8);
    const given = bands.over(512, () => {});
    given.next();
    expect(drawn(bands, clock, 512, () => 50)).toHaveLength(8);
  });

  it("draws some rows alone, and no more bands than are wanted", () => {
    const rows: number[][] = [];
    const bands = new Bands(16, () => 0);
    bands.most = 2;
    for (const _ of bands.over(100, (from, to) => rows.push([from, to]), 20, 80)) void _;
    expect(rows).toEqual([
      [30, 80],
      [20, 30],
    ]);
  });
});
