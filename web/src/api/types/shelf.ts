// The shelf, and what is kept of a shot.

import type { Forecast, Quality } from "./frames";
import type { Job } from "./work";

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
  /** The span that a mesh gets that is brought along, metres. */
  fit: number;
}
