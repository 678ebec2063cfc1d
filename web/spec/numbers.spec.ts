import { describe, expect, it } from "vitest";
import {
  bytes,
  duration,
  hexOf,
  length,
  linearOf,
  plain,
  snap,
  stepOf,
  widthOf,
  written,
} from "../src/lib/numbers";

describe("numbers as the desk shows them", () => {
  it("have as many digits as tell something", () => {
    expect([1234.56, 12.345, 1.23456, 0.123456, 0.0123456].map(plain)).toEqual([
      "1235",
      "12.3",
      "1.23",
      "0.123",
      "0.0123",
    ]);
    expect([0, -0.5, 3e-5, 2e7, NaN, Infinity].map(plain)).toEqual([
      "0",
      "-0.5",
      "3.00e-5",
      "2.00e+7",
      "–",
      "–",
    ]);
  });

  it("are written out for assistive programs", () => {
    expect([0.25, 1e-7, 12].map(written)).toEqual(["0.25", "0.0000001", "12"]);
  });

  it("go by round steps, and keep to them without the dust of binary fractions", () => {
    expect(
      [
        [0, 1],
        [0, 4],
        [0, 60],
        [-10, 10],
      ].map(([low, high]) => Number(stepOf(low, high).toPrecision(6))),
    ).toEqual([0.01, 0.05, 0.5, 0.2]);
    expect(stepOf(3, 3)).toBeGreaterThan(0);
    expect(snap(0.30000000000000004, 0.1)).toBe(0.3);
    expect(snap(-0.26, 0.05)).toBe(-0.25);
  });

  it("are sizes, times and lengths in words", () => {
    expect([12, 2048, 3.5 * 1024 ** 2, 2 * 1024 ** 3].map(bytes)).toEqual([
      "12 B",
      "2 KB",
      "3.5 MB",
      "2.00 GB",
    ]);
    expect([0.44, 12.4, 89, 150].map(duration)).toEqual(["0.4 s", "12 s", "89 s", "3 min"]);
    expect([0.048, 0.5, 2.34].map(length)).toEqual(["4.8 cm", "50 cm", "2.3 m"]);
    expect(["a", "a name of twenty two", "x".repeat(60)].map(widthOf)).toEqual(["76px", "168px", "168px"]);
  });

  it("are colours of light, and come back from what a page shows", () => {
    expect(hexOf([0, 0.216, 1])).toBe("#0080ff");
    expect(hexOf([-1, 0.5, 9])).toBe("#00bcff");
    for (const hex of ["#000000", "#0d4f9a", "#7f8081", "#ffffff"]) expect(hexOf(linearOf(hex))).toBe(hex);
  });
});
