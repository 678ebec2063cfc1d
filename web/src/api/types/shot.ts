// A shot: its nodes, what follows from them, and what is said of them.

import type { Value } from "./dials";
import type { Job } from "./work";

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
    /** How high its picture is for its width. */
    shape: number;
  };
  /** Light from above and below, haze, and the sky's model, as numbers for the shaders. */
  sky: number[];
  /** Into which far things go over, in 32 directions. */
  horizon: number[];
  /** Gains, curve, contrast and grain. */
  film: number[];
}

/** Dials of a thing under a name. */
export interface Preset {
  id: string;
  kind: string;
  name: string;
  dials: number;
  picture: boolean;
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
  /** Whether its light, look or film are others at other frames. */
  lights_change: boolean;
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

export interface Difference {
  node: string;
  name: string;
  dial?: string;
  label?: string;
  before?: string;
  after?: string;
  text: string;
}

export type Edit = Record<string, unknown> & { do: string };
