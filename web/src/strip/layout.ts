import type { Strip } from "../api/types";

/** So many of very many stand beside each other. */
const BESIDE = 8;

/** Which variations stand where. */
export interface Layout {
  /** The number of each variation, line by line. */
  rows: number[][];
  /** What stands above each column, and before each line. */
  across: string[];
  down: string[];
  /** What the pages are called. */
  pages: string[];
  /** The first variation of this page that the server is asked for. */
  from: number;
  /** Whether each variation carries its own name. */
  named: boolean;
}

/** The first dial goes across, the second down, the third page by page; very many stand in lines, as many as fit. */
export function laidOut(strip: Strip | null, page: number): Layout {
  if (!strip) return { rows: [], across: [], down: [], pages: [], from: 0, named: false };
  if (strip.size > strip.together) return inLines(strip, page);
  const [across, down, pages] = [0, 1, 2].map((n) => strip.axes[n]?.shown ?? []);
  const lines = Math.max(down.length, 1);
  const rows = Array.from({ length: lines }, (_, j) =>
    across.map((_, i) => i + across.length * (j + lines * page)),
  );
  return { rows, across, down, pages, from: 0, named: false };
}

function inLines({ size, together }: Strip, page: number): Layout {
  const count = Math.ceil(size / together);
  const from = together * Math.min(page, count - 1);
  const here = Array.from({ length: Math.min(together, size - from) }, (_, n) => from + n);
  const rows = Array.from({ length: Math.ceil(here.length / BESIDE) }, (_, j) =>
    here.slice(BESIDE * j, BESIDE * (j + 1)),
  );
  const pages = Array.from(
    { length: count },
    (_, n) => `${together * n + 1}–${Math.min(together * (n + 1), size)}`,
  );
  return { rows, across: new Array(BESIDE).fill(""), down: [], pages, from, named: true };
}
