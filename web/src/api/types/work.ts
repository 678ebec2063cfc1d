// Jobs, and where and with what room they are done.

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

/** What the data folder holds. */
export interface Room {
  parts: { name: string; label: string; bytes: number; again: boolean }[];
  limit: number | null;
  free: number | null;
  stale: { frames: number; bytes: number };
}
