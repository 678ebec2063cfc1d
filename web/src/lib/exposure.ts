/** What a print's pixels say of its light, as the screen shows them. */

/** How bright a pixel is, 0 to 1. */
export const bright = (pixels: Uint8ClampedArray, at: number) =>
  (0.2126 * pixels[at] + 0.7152 * pixels[at + 1] + 0.0722 * pixels[at + 2]) / 255;

/** Up to where a colour stands for a brightness: black, deep, dark, middle grey, light, bright, white. */
export const bands: [number, string, number[] | null][] = [
  [0.02, "black", [92, 44, 140]],
  [0.12, "deep", [48, 84, 190]],
  [0.42, "dark", null],
  [0.5, "middle grey", [70, 160, 84]],
  [0.88, "light", null],
  [0.97, "bright", [235, 205, 70]],
  [2, "white", [225, 62, 50]],
];

/** Paints brightness by the colours of its bands; what has none stays grey. */
export function falseColours(pixels: Uint8ClampedArray) {
  for (let at = 0; at < pixels.length; at += 4) {
    const value = bright(pixels, at);
    const colour = bands.find(([top]) => value <= top)![2];
    const grey = Math.round(255 * value);
    pixels.set(colour ?? [grey, grey, grey], at);
  }
}

/** How far two pictures are apart, four times as bright as it is. */
export function apart(pixels: Uint8ClampedArray, others: Uint8ClampedArray) {
  for (let at = 0; at < pixels.length; at += 4)
    for (let c = 0; c < 3; c++) pixels[at + c] = 4 * Math.abs(pixels[at + c] - others[at + c]);
}

/** How many pixels are how bright, in 64 even steps, the most of them 1. */
export function histogram(pixels: Uint8ClampedArray): number[] {
  const counts = new Array(64).fill(0);
  for (let at = 0; at < pixels.length; at += 4) counts[Math.min(63, Math.floor(64 * bright(pixels, at)))]++;
  // One flat background shall not press the rest to the ground.
  const most = [...counts].sort((a, b) => b - a)[2] || 1;
  return counts.map((count) => Math.min(1, count / most));
}
