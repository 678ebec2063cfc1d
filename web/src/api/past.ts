import { ask, shot } from "./client";
import type { Difference, Edit, FrameRow, Quality, ShotAnswer } from "./types";

/** A run as it was, with what of it there is still. */
export interface PastRun {
  number: number;
  quality: Quality;
  at: number;
  changed: string;
  there: number;
  of: number;
  picture: boolean;
  /** What keeps it, if it is kept. */
  cache: string | null;
}

/** A run, or a variation of a test strip, that is kept under a name. */
export interface Cache {
  digest: string;
  name: string;
  note: string;
  shot: string;
  quality: Quality;
  first: number;
  last: number;
  there: number;
  /** "gas", "liquid". */
  holds: string[];
  voxel: number;
  run: number | null;
  strip: number | null;
  cell: number | null;
}

/** A point of the shot's history, with the steps that led there from the one before. */
export interface Point {
  number: number;
  parent: number | null;
  labels: string[];
  at: number;
  by: string | null;
  runs: number[];
  prints: number[];
  line: number;
}

const differences = (path: string) =>
  ask<{ differences: Difference[] }>("GET", path).then((answer) => answer.differences);
export const whole = (rows: Difference[]) => rows.map(({ node, dial }) => ({ node, dial }));

/** What was: runs, kept runs, the history. */
export const past = {
  runs: (id: string) => ask<{ runs: PastRun[] }>("GET", `${shot(id)}/runs`).then((answer) => answer.runs),
  pictureUrl: (id: string, run: PastRun) => `/api${shot(id)}/runs/${run.number}.png`,
  rows: (id: string, number: number) =>
    ask<{ rows: FrameRow[] }>("GET", `${shot(id)}/runs/${number}/frames`).then((answer) => answer.rows),
  light: (id: string, number: number, frame: number) =>
    ask<{ job: number }>("POST", `${shot(id)}/runs/${number}/light`, { frame }),
  /** @param other another run, or else the shot as it stands */
  differences: (id: string, number: number, other: number | null = null) =>
    differences(`${shot(id)}/runs/${number}/differences${other === null ? "" : `?other=${other}`}`),
  /** All that is not as it comes. */
  set: (id: string) => differences(`${shot(id)}/set`),
  exportDifferences: (id: string, name: string) =>
    differences(`${shot(id)}/exports/${encodeURIComponent(name)}/differences`),
  bringExportBack: (id: string, name: string) =>
    ask<ShotAnswer>("POST", `${shot(id)}/exports/${encodeURIComponent(name)}/bring_back`, { follow: true }),
  bringBack: (id: string, number: number, rows?: Pick<Difference, "node" | "dial">[]) =>
    ask<ShotAnswer>("POST", `${shot(id)}/runs/${number}/bring_back`, { follow: true, rows }),
  takeAway: (id: string, number: number) => ask<{ given: number }>("DELETE", `${shot(id)}/runs/${number}`),
  caches: () => ask<{ caches: Cache[] }>("GET", "/caches").then((answer) => answer.caches),
  keep: (id: string, number: number) => ask<Cache>("POST", `${shot(id)}/runs/${number}/keep`, {}),
  keepCells: (id: string, strip: number, cells: number[]) =>
    ask<{ caches: Cache[] }>("POST", `${shot(id)}/strips/${strip}/keep`, { cells }),
  tell: (digest: string, said: { name?: string; note?: string }) =>
    ask<Cache>("POST", `/caches/${digest}`, said),
  letGo: (digest: string) => ask<{ given: number }>("DELETE", `/caches/${digest}`),
  placing: (digest: string) =>
    ask<{ edits: Edit[] }>("GET", `/caches/${digest}/placing`).then((answer) => answer.edits),
  export: (caches: string[], as: string) =>
    ask<{ jobs: number[] }>("POST", "/caches/exports", { caches, as }),
  /** Puts pictures together as a movie. */
  clip: (files: string[], rate: number) => ask<{ job: number }>("POST", "/clips", { files, rate }),
  clipUrl: (name: string, title: string) => `/api/clips/${name}.mp4?title=${encodeURIComponent(title)}`,
  history: (id: string) => ask<{ head: number; points: Point[] }>("GET", `${shot(id)}/history`),
  sinceThen: (id: string, point: number) => differences(`${shot(id)}/history/${point}/differences`),
  go: (id: string, point: number) =>
    ask<ShotAnswer & { label: string }>("POST", `${shot(id)}/history/${point}/go`, { follow: true }),
};
