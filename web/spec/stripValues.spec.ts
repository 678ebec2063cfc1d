import { describe, expect, it } from "vitest";
import type { Dial } from "../src/api/types";
import { around, read, suggested, varies } from "../src/strip/values";

const number = { type: "number", slider: [0, 8] } as unknown as Dial;
const whole = { type: "whole" } as unknown as Dial;
const choice = { type: "choice", choices: { soft: "soft", sharp: "Sharp edges" } } as unknown as Dial;
const onOff = { type: "switch" } as unknown as Dial;

describe("values of a strip", () => {
  it("are read as a list, even steps or a factor", () => {
    expect(read(number, " 1, 2.5,-3e-2 ")).toEqual({ values: [1, 2.5, -0.03] });
    expect(read(number, "0 to 3 in 4")).toEqual({ from: 0, to: 3, count: 4 });
    expect(read(number, "0.5 TIMES 2 in 5")).toEqual({ from: 0.5, times: 2, count: 5 });
  });

  it("are nothing where they do not read", () => {
    for (const text of ["", "1,,2", "one", "0 to 3", "1, 2 in 3"]) expect(read(number, text)).toBeNull();
    expect(read(choice, "soft, hard")).toBeNull();
    expect(read(onOff, "on, perhaps")).toBeNull();
  });

  it("are words of a choice or a switch", () => {
    expect(read(choice, "sharp edges, soft")).toEqual({ values: ["sharp", "soft"] });
    expect(read(choice, "sharp")).toEqual({ values: ["sharp"] });
    expect(read(onOff, "off, on")).toEqual({ values: [false, true] });
  });

  it("are proposed around what the dial is, or over all that it can be", () => {
    expect(suggested(number, 3)).toBe("1.5, 3, 6");
    expect(suggested(number, 0)).toBe("0, 2, 4");
    expect(suggested(whole, 5)).toBe("5, 6, 7, 8");
    expect(suggested(choice, "soft")).toBe("soft, Sharp edges");
    expect(suggested(onOff, true)).toBe("off, on");
  });

  it("close in around one of several, halfway to those beside it", () => {
    expect(around([1, 2, 4], 1)).toBe("1.5, 2, 3");
    expect(around([1, 2, 4], 0)).toBe("0.5, 1, 1.5");
    expect(around([1, 2, 4], 2)).toBe("3, 4, 5");
    // Whole numbers that come out the same are told once.
    expect(around([4, 5, 6], 1, true)).toBe("5, 6");
  });

  it("can be of numbers, choices and switches alone", () => {
    expect([number, whole, choice, onOff].every(varies)).toBe(true);
    expect(varies({ type: "colour" } as unknown as Dial)).toBe(false);
  });
});
