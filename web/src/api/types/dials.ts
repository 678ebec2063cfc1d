// Dials and what declares them.

export type DialType =
  | "number"
  | "whole"
  | "switch"
  | "choice"
  | "vector"
  | "colour"
  | "node"
  | "nodes"
  | "mesh"
  | "picture"
  | "drawing"
  | "volume"
  | "strokes"
  | "words"
  | "text"
  | "ramp"
  | "places"
  | "pieces"
  | "variations"
  | "overrides"
  | "plate"
  | "table"
  | "shot";

/** A dial that differs from copy to copy, or that one copy has otherwise. */
export interface Varied {
  dial: string;
  by?: number;
  copy?: number;
  value?: Value;
}

/** One stop of a ramp: where it stands, what it has there, and how it goes on to the next. */
export interface Stop {
  at: number;
  value: number | number[];
  pass: string;
}

export type Value = number | boolean | string | number[] | string[] | number[][] | Stop[] | Varied[] | null;

export interface Dial {
  name: string;
  label: string;
  type: DialType;
  unit?: string;
  default: Value;
  range?: [number, number];
  slider?: [number, number];
  keyed: boolean;
  help: string;
  group?: string;
  choices?: Record<string, string>;
  of?: string | string[];
  only?: Record<string, Value[] | "set">;
  /** Not there while another dial has one of these. */
  except?: Record<string, Value[]>;
  touches: "run" | "surface" | "sculpt" | "light" | "picture" | "finish" | "view";
  /** It is a frame of the shot, or a number of frames. */
  time?: "from" | "to" | "at" | "length";
  zero?: string;
  /** A rate, whose half-life is shown beside it. */
  half_life?: boolean;
  /** Taken by the metre: how far light goes on average is shown beside it. */
  mean_path?: boolean;
  /** Where the unit depends on another dial: its units by that one's values. */
  units?: Record<string, Record<string, string>>;
  /** Of a ramp: what its stops may have, and the quantity that it goes over. */
  values?: [number, number];
  over?: string;
  /** Another dial, which names the texture that this one goes by. */
  driven?: string;
  /** Of a formula: the dials that its own names stand for, in order. */
  named?: string[];
}

export interface Kind {
  name: string;
  label: string;
  plural: string;
  chapter: string;
  /** The dial that names what one of these belongs to. */
  owner?: string | null;
  help: string;
  single: boolean;
  /** How many of it a shot may have. */
  most?: number | null;
  /** Every shot has one, called like the kind, and may have more. */
  first: boolean;
  /** Its things can be switched off, left alone and locked. */
  switched: boolean;
  dials: Dial[];
}

export interface Catalog {
  /** Words that a formula knows already. */
  formula: string[];
  /** Bytes that a file may have. */
  limits: { file: number; shot: number };
  kinds: Kind[];
  /** How a course goes on from a key, and beyond its first and last. */
  eases: Record<string, string>;
  beyond: Record<string, string>;
  exports: Record<string, string>;
  /** Metres in each unit that a mesh may be in. */
  units: Record<string, number>;
  meshes: string[];
  /** Endings of plates. */
  plates: string[];
  seen: Record<string, string>;
  /** How a ramp's stop goes on to the next. */
  passes: Record<string, string>;
  looks: { name: string; label: string; help: string }[];
  passes_of_exr: Record<string, string>;
  exports_of_props: string[];
  materials: { name: string; label: string; help: string }[];
}

/** How often each value of a quantity is met in a frame, in even bins. */
export interface Histogram {
  low: number;
  high: number;
  unit: string;
  counts: number[];
}
