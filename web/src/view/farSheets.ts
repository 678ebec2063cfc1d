/** Numbers of a corner: its place, its normal, its colour. */
const WIDTH = 9;
/** Sheets that go farther than that are cut up, metres. */
const FAR = 60;
/** Cells along each side, and how much closer they are about the middle. */
const CELLS = 24;
const CLOSER = 3.5;

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
  const at = (corner: number) => corners.subarray(corner * WIDTH, corner * WIDTH + 3);
  const [a, b, c, d] = [0, 1, 2, 5].map(at);
  if (Math.hypot(c[0] - a[0], c[1] - a[1], c[2] - a[2]) < FAR) return corners;
  const out = new Float32Array(CELLS * CELLS * 6 * WIDTH);
  let next = 0;
  const put = (s: number, t: number) => {
    const place = [0, 1, 2].map((n) => a[n] + s * (d[n] - a[n]) + t * (b[n] - a[n]));
    out.set(place, next);
    out.set(corners.subarray(3, WIDTH), next + 3);
    next += WIDTH;
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
