// What the server sends. Dials are declared by the server; nothing here describes one.

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

export interface Key {
  frame: number;
  value: number | number[] | boolean;
  ease: string;
  /** How steeply the course comes and goes, a frame, where that was set by hand. */
  arrive?: Slope;
  leave?: Slope;
}

export type Slope = number | (number | null)[] | null;

export interface ShotNode {
  id: string;
  kind: string;
  name: string;
  dials: Record<string, Value>;
  keys: Record<string, Key[]>;
  /** What courses do before their first key and after their last. */
  beyond?: Record<string, [string, string]>;
  /** Formulas: of a number, or part by part. */
  formulas?: Record<string, string | (string | null)[]>;
  off?: boolean;
  only?: boolean;
  locked?: boolean;
}

export interface TimelineRow {
  node: string;
  dial: string;
  name: string;
  tint: string;
  values: number[];
  /** What vectors and switches are at each frame. */
  raw: (number[] | boolean)[] | null;
  /** What it belongs to is switched off or left out. */
  off: boolean;
  peak: number;
  keys: Key[];
  kind: string;
  /** Frames among its dials. */
  spans?: { dial: string; label: string; at: "from" | "to" | "at"; frame: number }[];
  /** How steeply the course comes to each key and goes from it; of vectors part by part. */
  slopes?: [Slope, Slope][];
  beyond?: [string, string];
  formula?: string | (string | null)[];
  /** A formula of a dial that does not change over time. */
  fixed?: boolean;
}

export interface Scene {
  rig: { lamps: number[][]; albedo: number[]; thickness: number; shadow: number };
  camera: {
    position: number[];
    target: number[];
    focal: number;
    /** How far it leans to the right, degrees. */
    roll?: number;
    aperture: number;
    /** Nearest, sharpest and farthest that is sharp, metres ahead; null: as far as one sees. */
    sharp: (number | null)[];
  };
  /** Light from above and below, haze, and the sky's model, as numbers for the shaders. */
  sky: number[];
  /** Into which far things go over, in 32 directions. */
  horizon: number[];
  /** Gains, curve, contrast and grain. */
  film: number[];
}

export interface Job {
  id: number;
  kind: string;
  shot: string | null;
  state: "queued" | "running" | "done" | "failed" | "cancelled";
  done: number;
  total: number;
  note: string | null;
  error: string | null;
  code: string | null;
  result: Record<string, unknown> | null;
  stopping: boolean;
  left: number | null;
  seconds: number | null;
  /** Waits until it is let go on. */
  held: boolean;
  /** Makes way for what somebody asked for. */
  background: boolean;
  /** Cut off by a stop, and taken up again. */
  resumed: boolean;
}

/** A job among all others. */
export interface QueuedJob extends Job {
  /** Of its shot. */
  name: string | null;
  lane: string;
  /** Seconds since 1970. */
  asked: number;
  attempts: number;
  /** The one elsewhere that does it, or did. */
  machine: string | null;
}

/** A machine that works for this data folder; the first one is this machine itself, without an id. */
export interface Machine {
  id: string | null;
  name: string;
  cores: number;
  memory: number;
  /** Millions of voxels a second. */
  speed: number | null;
  state: "here" | "working" | "paused" | "silent";
  /** Seconds since its last sign of life. */
  seen: number;
  /** How many jobs it has done. */
  done: number | null;
  trouble: string | null;
  doing: { id: number; kind: string; part: string | null; name: string | null; note: string | null }[];
}

export interface Machines {
  machines: Machine[];
  /** The share of what they make that is made twice and compared. */
  twice: number;
  engine: "own" | "redis";
  trouble: string | null;
}

/** Dials of a thing under a name. */
export interface Preset {
  id: string;
  kind: string;
  name: string;
  dials: number;
  picture: boolean;
}

/** What the data folder holds. */
export interface Room {
  parts: { name: string; label: string; bytes: number; again: boolean }[];
  limit: number | null;
  free: number | null;
  stale: { frames: number; bytes: number };
}

/** Something that would go wrong, and what would mend it. */
export interface Finding {
  code: string;
  node?: string;
  dial?: string;
  text: string;
  remedy?: { label: string; edits: Edit[] };
}

export interface ShotAnswer {
  id: string;
  name: string;
  head: number;
  /** The newest event when this was answered. */
  event: number;
  document: { name: string; nodes: ShotNode[] };
  steps: { undo: string | null; redo: string | null };
  timeline: TimelineRow[];
  scene: Scene;
  /** Names all that the props' bodies depend on. */
  bodies: string;
  /** Where everything but props that goes with one is at each frame. */
  led: Record<string, number[][]>;
  /** Where the camera is at each frame, if it moves. */
  eye: { position: number[]; target: number[]; focal: number; roll?: number }[];
  jobs: Job[];
  /** Why nothing goes on, where that is so. */
  trouble: string | null;
}

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
  cells: StripCell[];
}

/** A body of a prop: nine numbers for where it stands (position, turn, scale), still or frame by frame. */
export interface Body {
  prop: string;
  outline: Record<string, Value>;
  pose?: number[] | null;
  first?: number;
  /** Position, turn and scale; of one that moves by its file also the frame of it. */
  poses?: (number[] | null)[];
  /** Of one that shows the liquid of a kept run: what of it is seen at each frame. */
  waters?: (string | null)[];
  /** Of one that shows a liquid: what operations do to it at each frame. */
  altered?: (string | null)[];
  /** Whether the colours of its corners are seen. */
  dyed?: boolean;
  /** Of a piece: its number, and its first triangle that was inside before. */
  piece?: number;
  inside?: number;
}

export interface FrameFacts {
  seconds: number;
  /** Neither for what was built without a run. */
  speed?: number;
  substeps?: number;
  bytes: number;
  peak?: number;
  fuel?: number;
  left?: number;
  residual?: number;
  smoke?: number;
  limited?: boolean;
  /** Of liquids: particles, and cubic metres. */
  drops?: number;
  volume?: number;
  /** Joules for each kilogram; particles of spray, foam and bubbles. */
  energy?: number;
  sprayed?: number;
  iterations?: number;
  swell_limited?: boolean;
  /** The chamber could not grow as far as its content. */
  full?: boolean;
  size?: [number, number, number];
  /** Where they are not the run's. */
  voxel?: number;
}

export interface FrameRow {
  frame: number;
  /** still: nothing feeds the shot, so there is nothing to run. */
  state: "fresh" | "stale" | "none" | "still";
  key: string | null;
  light: string | null;
  lit: boolean | null;
  /** The frame of the shot's liquid. */
  liquid?: string | null;
  facts?: FrameFacts;
}

/** A frame of a draft that runs while a dial is under the hand. */
export interface LiveFrame {
  job: number;
  frame: number;
  key: string;
  light: string;
  facts: FrameFacts;
}

/** A frame of an earlier run that was lit. */
export interface LitFrame {
  run: number;
  frame: number;
  light: string;
}

/** A frame of a run, as it is made: of the gas, or of the liquid. */
export interface FrameTold {
  frame: number;
  key?: string;
  liquid?: string;
  quality: Quality;
  run: number;
  facts: FrameFacts;
}

export interface Forecast {
  cells: number;
  memory: number;
  seconds: number;
  disk: number;
  measured: boolean;
}

/** A chamber as it stands: lowest corner in metres, voxels along x, y, z. */
export interface ChamberBox {
  node: string;
  corner: number[];
  size: number[];
}

export interface FramesAnswer {
  forecast: Record<Quality, Forecast>;
  /** How right the forecast of the last run was. */
  foreseen: { frames: number; seconds: number; forecast: number } | null;
  quality: Quality;
  size: [number, number, number];
  voxel: number;
  corner: number[];
  /** Every chamber: the first and the further ones. */
  boxes: ChamberBox[];
  memory: number;
  run: number | null;
  rows: FrameRow[];
}

export type Quality = "draft" | "full";

export interface Print {
  number: number;
  frame: number;
  quality: Quality;
  width: number;
  height: number;
  seconds: number;
  changed: string;
  starred: boolean;
  name: string;
  note: string;
}

export interface Difference {
  node: string;
  name: string;
  dial?: string;
  label?: string;
  before?: string;
  after?: string;
  text: string;
}

export interface Mesh {
  digest: string;
  name: string;
  facts: {
    triangles: number;
    points: number;
    parts: string[];
    open_edges: number;
    outlines?: number;
    frames?: number;
    coloured?: boolean;
    placed?: boolean;
    left_out?: string[];
    rate?: number | null;
    flat?: boolean;
    others?: { name: string; kind: string }[];
    low?: number[];
    high?: number[];
    width?: number;
    height?: number;
    size?: number[];
    voxel?: number;
    range?: number[];
  };
}

export interface ExportRow {
  name: string;
  files: string[];
  bytes: number;
}

export interface ShotRow {
  id: string;
  name: string;
  changed: number;
  print: number | null;
  jobs: Job[];
}

/** A shot that was taken off the shelf. */
export interface AwayRow {
  id: string;
  name: string;
  away_at: number;
}

/** What there is of a shot on disk: frames as it stands, of how many, and all its bytes. */
export interface Holdings {
  frames: number;
  of: number;
  quality: Quality;
  bytes: number;
}

export interface Starter {
  name: string;
  help: string;
  /** What it takes on this machine; nothing where nothing runs. */
  costs: Record<Quality, Forecast> | null;
}

export type Edit = Record<string, unknown> & { do: string };
