// Frames of runs, and what they cost.

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
  /** Of finer detail: how much finer than the run. */
  finer?: number;
}

export interface FrameRow {
  frame: number;
  /** still: nothing feeds the shot, so there is nothing to run. */
  state: "fresh" | "stale" | "none" | "still";
  /** Of the shot as it stands, but for its finer detail. */
  rough?: boolean;
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
  light?: string;
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
