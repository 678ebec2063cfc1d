// Test strips.

import type { Value } from "./dials";
import type { Quality } from "./frames";
import type { Edit } from "./shot";

/** A test strip on the list. */
export interface StripRow {
  number: number;
  quality: Quality;
  dials: string[];
  runs: number;
  there: number;
  of: number;
  marked: number;
  job: number | null;
}

/** What a strip would cost. */
export interface StripForecast {
  runs: number;
  frames: number;
  new: number;
  seconds: number;
  disk: number;
  cells: number;
  /** Whether it is more than one would ask for by the way. */
  many: boolean;
}

/** One variation: its values, its frames, and what one judges it by. */
export interface StripCell {
  values: Value[];
  shown: string[];
  edits: Edit[];
  rows: { frame: number; key: string | null; light: string; lit: boolean; liquid: string | null }[];
  done: number;
  figures: Partial<
    Record<
      "peak" | "top" | "spread" | "left" | "fuel" | "smoke" | "seconds" | "fastest" | "volume" | "sprayed",
      number
    >
  >;
}

export interface Strip {
  number: number;
  quality: Quality;
  first: number;
  job: number | null;
  axes: { node: string; dial: string; label: string; values: Value[]; shown: string[] }[];
  marked: number[];
  dropped: number[];
  /** How many variations there are, and how many frames each has; how many of all frames there are and will be. */
  size: number;
  frames: number;
  there: number;
  of: number;
  /** The first that is told of here; those that are not are null. */
  from: number;
  /** So many are looked at together at most. */
  together: number;
  cells: (StripCell | null)[];
}
