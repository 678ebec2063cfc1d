import type * as THREE from "three";

/** So long one band of a picture should take, seconds: what is turned meanwhile waits for no more. */
const SHORT = 0.04;

/** So many times as much as at first one band may be: after a quick sky comes a slow middle. */
const FAR = 5;

/** A picture drawn a band of rows at a time, each about as quick as the hand wants it, whatever the machine: more rows
 * at once where the band before was quick, fewer where it was slow. */
export class Bands {
  /** The first band's part of the picture's height. */
  private least: number;

  /** @param most into so many bands a picture is divided at most */
  constructor(
    public most: number,
    private now = () => performance.now(),
  ) {
    this.least = 1 / most;
  }

  /** Draws from the last row to the first; goes on when the band before is done.
   * @param draw gets the first row and the row after the last one
   * @param first only rows from this one on, and before the last one */
  *over(height: number, draw: (from: number, to: number) => void, first = 0, last = height): Generator<void> {
    // As small as the last whole picture asked for where it took longest.
    let part = Math.max(this.least, 1 / this.most);
    let least = 1;
    for (let to = last; to > first;) {
      const from = Math.max(first, to - Math.max(1, Math.round(part * height)));
      const since = this.now();
      draw(from, to);
      yield;
      const seconds = Math.max((this.now() - since) / 1000, 1e-4);
      part *= Math.min(Math.max(SHORT / seconds, 0.4), 2);
      part = Math.min(Math.max(part, 1 / this.most), FAR * this.least, 1);
      least = Math.min(least, part);
      to = from;
    }
    this.least = least;
  }
}

/** Draws within some rows of a target, and some columns. */
export function within(
  target: THREE.WebGLRenderTarget,
  from: number,
  to: number,
  draw: () => void,
  [left, right] = [0, target.width],
) {
  target.scissor.set(left, from, right - left, to - from);
  target.scissorTest = true;
  draw();
  target.scissorTest = false;
}
