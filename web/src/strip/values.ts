import type { Dial, Value } from "../api/types";
import { plain } from "../lib/numbers";

/** What a dial is varied by, as the server takes it. */
export interface Course {
  values?: Value[];
  from?: number;
  to?: number;
  times?: number;
  count?: number;
}

const NUMBER = "(-?[\\d.]+(?:e-?\\d+)?)";
const EVEN = new RegExp(`^${NUMBER}\\s*to\\s*${NUMBER}\\s*in\\s*(\\d+)$`);
const FACTOR = new RegExp(`^${NUMBER}\\s*times\\s*${NUMBER}\\s*in\\s*(\\d+)$`);

const numeric = (dial: Dial) => dial.type === "number" || dial.type === "whole";

/** Whether a strip can go through the values of a dial. */
export const varies = (dial: Dial) => numeric(dial) || dial.type === "choice" || dial.type === "switch";

/** Reads what was typed: a list, "0 to 3 in 4" or "1 times 2 in 4". Nothing where it does not read. */
export function read(dial: Dial, text: string): Course | null {
  const typed = text.trim().toLowerCase();
  if (dial.type === "choice") {
    const names = Object.entries(dial.choices ?? {});
    const values = typed
      .split(",")
      .map((part) => names.find(([name, words]) => [name, words.toLowerCase()].includes(part.trim()))?.[0]);
    return values.every((value) => value !== undefined) ? { values: values as string[] } : null;
  }
  if (dial.type === "switch") {
    const values = typed.split(",").map((part) => ({ on: true, off: false })[part.trim()]);
    return values.every((value) => value !== undefined) ? { values: values as boolean[] } : null;
  }
  const even = EVEN.exec(typed);
  if (even) return { from: Number(even[1]), to: Number(even[2]), count: Number(even[3]) };
  const factor = FACTOR.exec(typed);
  if (factor) return { from: Number(factor[1]), times: Number(factor[2]), count: Number(factor[3]) };
  const values = typed.split(",").map((part) => (part.trim() ? Number(part) : NaN));
  return values.length && values.every(Number.isFinite) ? { values } : null;
}

/** What a dial that was just chosen is varied by: around what it is, or all that it can be. */
export function suggested(dial: Dial, value: Value): string {
  if (dial.type === "choice") return Object.values(dial.choices ?? {}).join(", ");
  if (dial.type === "switch") return "off, on";
  const number = value as number;
  const [low, high] = dial.slider ?? dial.range ?? [0, 1];
  if (dial.type === "whole") return [0, 1, 2, 3].map((n) => number + n).join(", ");
  const around = number
    ? [0.5, 1, 2].map((times) => number * times)
    : [0, 1, 2].map((n) => low + (n / 4) * (high - low));
  return around.map((one) => plain(one)).join(", ");
}

/** Values around one of several: halfway to the ones beside it. */
export function around(values: number[], at: number, whole = false): string {
  const here = values[at];
  const before = values[at - 1] ?? here - ((values[at + 1] ?? here + 1) - here);
  const after = values[at + 1] ?? here + (here - before);
  const three = [0.5 * (before + here), here, 0.5 * (here + after)];
  const said = three.map((one) => (whole ? String(Math.round(one)) : plain(Number(one.toPrecision(5)))));
  return [...new Set(said)].join(", ");
}
