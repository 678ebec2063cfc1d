import { describe, expect, it } from "vitest";
import type { Strip } from "../src/api/types";
import { laidOut } from "../src/strip/layout";

/** A strip whose dials have so many values each. */
function strip(...counts: number[]): Strip {
  const axes = counts.map((count, n) => ({
    node: "chamber",
    dial: `dial_${n}`,
    label: `Dial ${n}`,
    values: Array.from({ length: count }, (_, k) => k),
    shown: Array.from({ length: count }, (_, k) => `${n}:${k}`),
  }));
  return { axes, size: counts.reduce((a, b) => a * b), together: 64 } as unknown as Strip;
}

describe("where variations stand", () => {
  it("is nowhere without a strip", () => {
    expect(laidOut(null, 0)).toMatchObject({ rows: [], across: [], pages: [], from: 0 });
  });

  it("is one line for one dial, and lines for two", () => {
    expect(laidOut(strip(3), 0)).toMatchObject({
      rows: [[0, 1, 2]],
      across: ["0:0", "0:1", "0:2"],
      named: false,
    });
    const two = laidOut(strip(3, 2), 0);
    expect(two.rows).toEqual([
      [0, 1, 2],
      [3, 4, 5],
    ]);
    expect(two.down).toEqual(["1:0", "1:1"]);
    expect(two.pages).toEqual([]);
  });

  it("turns pages by the third dial", () => {
    const three = strip(2, 2, 3);
    expect(laidOut(three, 2).rows).toEqual([
      [8, 9],
      [10, 11],
    ]);
    expect(laidOut(three, 2)).toMatchObject({ pages: ["2:0", "2:1", "2:2"], from: 0 });
  });

  it("takes as many as are looked at together of very many, each with its own name", () => {
    const many = strip(10, 15);
    const first = laidOut(many, 0);
    expect(first).toMatchObject({ from: 0, named: true, pages: ["1–64", "65–128", "129–150"], down: [] });
    expect(first.rows.flat()).toEqual(Array.from({ length: 64 }, (_, n) => n));
    expect(first.rows.every((row) => row.length === first.across.length)).toBe(true);
    const last = laidOut(many, 2);
    expect(last.from).toBe(128);
    expect(last.rows.flat()).toEqual(Array.from({ length: 22 }, (_, n) => 128 + n));
    expect(last.rows.at(-1)).toHaveLength(6);
  });

  it("has the last page where there are no more", () => {
    expect(laidOut(strip(100), 7).from).toBe(64);
    expect(laidOut(strip(64), 0)).toMatchObject({ named: false, from: 0 });
    expect(laidOut(strip(65), 1).rows).toEqual([[64]]);
  });
});
