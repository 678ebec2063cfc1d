/** Numbers of a corner: its place, its normal, its colour. */
const WIDTH = 9;
/** Sheets that go farther than that are cut up, metres. */
const FAR = 60;
/** Cells along each side, and how much closer they are about the middle. */
const CELLS = 24;
const CLOSER = 3.5;
/** Corners of one that is. */
const CUT = 6 * CELLS * CELLS;

/** Places of lines from one side of a sheet to the other, 0 to 1. */
const lines = Array.from({ length: CELLS + 1 }, (_, n) => {
  const off = (2 * n) / CELLS - 1;
  return 0.5 + 0.5 * Math.sign(off) * Math.abs(off) ** CLOSER;
});

const alike = (corners: Float32Array, a: number, b: number) =>
  [0, 1, 2].every((c) => corners[a * WIDTH + c] === corners[b * WIDTH + c]);

/** A ground that goes to the horizon, of two triangles, is cut up, finely about its middle: where the processor draws,
 * places on triangles of kilometres are off by centimetres. All else stays as it is. */
export function cutFarSheet(corners: Float32Array): Float32Array {
  // Corners a, b, c and a, c, d.
  if (corners.length !== 6 * WIDTH || !alike(corners, 0, 3) || !alike(corners, 2, 4)) return corners;
  const across = [0, 1, 2].map((c) => corners[2 * WIDTH + c] - corners[c]);
  return Math.hypot(...across) < FAR ? corners : spread(corners, WIDTH);
}

/** What goes with each of so many corners: a sheet that is cut up has it of its six, spread between them.
 * @param width numbers of a corner; @return nothing where it belongs to another shape */
export function spreadOver<T extends Float32Array | Uint8Array>(
  rows: T,
  width: number,
  corners: number,
): T | null {
  if (rows.length === width * corners) return rows;
  return corners === CUT && rows.length === 6 * width ? spread(rows, width) : null;
}

function spread<T extends Float32Array | Uint8Array>(rows: T, width: number): T {
  const [a, b, c, d] = [0, 1, 2, 5].map((corner) => rows.subarray(corner * width, (corner + 1) * width));
  const out = new (rows.constructor as new (count: number) => T)(CUT * width);
  let next = 0;
  const put = (s: number, t: number) => {
    for (let n = 0; n < width; n++)
      out[next++] = (1 - s) * ((1 - t) * a[n] + t * b[n]) + s * ((1 - t) * d[n] + t * c[n]);
  };
  for (let i = 0; i < CELLS; i++)
    for (let j = 0; j < CELLS; j++) {
      const [[s0, s1], [t0, t1]] = [i, j].map((n) => [lines[n], lines[n + 1]]);
      for (const [s, t] of [
        [s0, t0],
        [s0, t1],
        [s1, t1],
        [s0, t0],
        [s1, t1],
        [s1, t0],
      ])
        put(s, t);
    }
  return out;
}
