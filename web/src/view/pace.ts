import type { Levels } from "./levels";
import { Pending } from "./pending";

/** A picture that takes so long is not waited for twice, seconds. */
const LONG = 0.2;

/** Waits for what was handed to the graphics card without holding up anything else, and lowers the smoke's resolution
 * while pictures take long, and raises it when they do not. */
export class Pace {
  private pending: Pending[] = [];
  /** Since when, if it is timed, and for how many turns of the screen. */
  private since = 0;
  private turns = 0;
  private slow = 0;

  constructor(
    private gl: WebGL2RenderingContext,
    private levels: Levels,
  ) {}

  /** Something is handed over now. @param since when it was begun, if its time counts */
  await(since = 0) {
    this.pending.push(new Pending(this.gl));
    this.since = since;
    this.turns = 0;
  }

  /** Whether anything was handed over that was not there when last asked. */
  get waits(): boolean {
    return this.pending.length > 0;
  }

  /** Whether more than so many of what was handed over are still being drawn. */
  busy(ahead = 0): boolean {
    this.turns += 1;
    if (!this.waits) return false;
    while (this.waits && !this.pending[0].busy()) this.pending.shift();
    if (this.waits) return this.pending.length > ahead;
    // There by the screen's next turn is as quick as it gets.
    if (this.since) this.adapt(this.turns > 1 ? (performance.now() - this.since) / 1000 : 0);
    return false;
  }

  /** Waits until what is drawn is there, whatever that holds up. @param since when it was begun */
  wait(since: number) {
    const { gl } = this;
    // Reading one pixel waits for the picture.
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
    this.adapt((performance.now() - since) / 1000);
  }

  private adapt(seconds: number) {
    if (seconds > 0.05) this.slow += seconds > LONG ? 2 : 1;
    else if (seconds < 0.012) this.slow -= 1;
    else this.slow = 0;
    if (this.slow > 1) {
      this.levels.coarser();
      this.slow = 0;
    } else if (this.slow < -24) {
      this.levels.finer();
      this.slow = 0;
    }
  }
}
