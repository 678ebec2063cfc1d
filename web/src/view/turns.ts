import type { Levels } from "./levels";
import type { Pace } from "./pace";

/** Milliseconds without a change until the picture is drawn at full resolution. */
const QUIET = 200;
/** The same on a machine that needs long for it. */
const SLOW_QUIET = 450;
/** So long until it is asked again whether a part of it is drawn, milliseconds. */
const SOON = 4;
/** So many parts of a fine picture are handed over before the one that is drawn is done: nothing stands idle. */
const AHEAD = 1;

/** When what draws does so: at the screen's turns, once something has changed; finely once nothing moves any more;
 * aside, under what lies over it. */
export abstract class Turns {
  /** Called after each picture. */
  drawn: () => void = () => {};
  protected pace!: Pace;
  /** Whether what is shown is as fine as it gets. */
  protected fine = false;
  protected alive = true;
  private lies = { covered: false, resting: false, hurried: false, plays: false };
  /** Whether it was playing up to now: who stops it wants to look at what is there. */
  private stopped = false;
  private dirty = true;
  /** Whether the screen's next turn is asked for. */
  private asked = false;
  private refining: Generator<void> | null = null;
  /** Whether it is to be asked again soon if a part of it is drawn. */
  private asking = false;
  /** Since when nothing moved. */
  private quiet = 0;
  /** Told when the picture that is drawn under a kept one is there. */
  private aside: ((canvas: HTMLCanvasElement) => void) | null = null;

  protected abstract get canvas(): HTMLCanvasElement;
  protected abstract get levels(): Levels;
  /** Draws it as coarse as pictures are now. @param corner whether a corner of the canvas will do for a hasty one */
  protected abstract sketched(corner: boolean): void;
  /** Draws it at full resolution, a part at a time. */
  protected abstract parts(): Generator<void>;
  /** Draws lines and marks over it. */
  protected abstract drawOverlay(): void;

  /** A kept picture lies over the view, so nothing is drawn under it. */
  get covered() {
    return this.lies.covered;
  }
  set covered(whether: boolean) {
    this.lies.covered = whether;
    this.wake();
  }

  /** Whether something finer lies over it that is worth all the machine can do. */
  get resting() {
    return this.lies.resting;
  }
  set resting(whether: boolean) {
    this.lies.resting = whether;
    this.wake();
  }

  /** Frame after frame is shown: nothing else is to take its share of the machine meanwhile. */
  get plays() {
    return this.lies.plays;
  }
  set plays(whether: boolean) {
    this.stopped = this.lies.plays && !whether;
    this.lies.plays = whether;
    this.wake();
  }

  /** The next picture is on its way: this one need not become finer. */
  get hurried() {
    return this.lies.hurried;
  }
  set hurried(whether: boolean) {
    this.lies.hurried = whether;
    this.wake();
  }

  /** Pictures come anew again and again: rather coarse than late. */
  set urgent(urgent: boolean) {
    const over = this.levels.urgent && !urgent;
    this.levels.hurry(urgent);
    // What was drawn in a hurry is not kept, and what plays waits for what is: it is drawn once more.
    if (over && !this.fine) this.next();
  }

  /** Whether what is on the screen is not worth keeping. */
  get hasty() {
    return this.levels.urgent;
  }

  /** How much of the full resolution the smoke on the screen has. */
  get resolution() {
    return this.fine ? 1 : this.levels.smoke;
  }

  /** Asks for a new picture: of another frame, or because something else has changed, and may go on changing. */
  next(changed = false) {
    if (changed) this.stopped = false;
    this.dirty = true;
    this.wake();
  }

  /** Draws what is set now at full resolution, under the kept picture that lies over the view. Anything else that is
   * asked for gives it up. */
  drawAside(done: (canvas: HTMLCanvasElement) => void) {
    this.refining = null;
    this.fine = false;
    this.aside = done;
    this.wake();
  }

  /** @return whether something was being drawn aside */
  giveUpAside(): boolean {
    const was = !!this.aside;
    this.aside = null;
    return was;
  }

  /** Draws what has changed without waiting for the screen's next turn, which comes late where much else goes on. */
  now() {
    if (!this.dirty || this.covered || this.pace.busy()) return;
    const from = performance.now();
    this.draw(true);
    if (this.plays) this.pace.wait(from);
    else this.pace.await(from);
    this.quiet = performance.now();
    this.drawn();
    this.wake();
  }

  /** Draws what is set at once, as fine as things are while they move, whatever lies over the view.
   * @return the canvas that it is on */
  sketch(): HTMLCanvasElement {
    const from = performance.now();
    this.draw(false);
    this.pace.wait(from);
    this.wake();
    return this.canvas;
  }

  /** Draws what is set at once and whole, without lines. @return the canvas that it is on */
  snap(): HTMLCanvasElement {
    this.dirty = false;
    this.refining = null;
    for (const parts = this.parts(); !parts.next().done;);
    return this.canvas;
  }

  /** The screen's turns are asked for only while there is something to do: each costs the whole page a round. */
  protected wake() {
    if (this.asked || !this.alive) return;
    this.asked = true;
    requestAnimationFrame(this.tick);
  }

  private tick = () => {
    this.asked = false;
    if (!this.alive) return;
    this.step();
    if (this.busy) this.wake();
  };

  /** Whether there is anything to do at the screen's next turn. */
  private get busy(): boolean {
    if (this.pace.waits) return true;
    if (this.resting && !this.dirty) return false;
    if (this.covered) return !!this.aside;
    return this.dirty || (!this.fine && !this.hurried);
  }

  /** Does what is to be done next, if what was handed over is drawn. */
  private step() {
    if (!this.alive || this.pace.busy(this.refining && !this.dirty ? AHEAD : 0)) return;
    if (this.resting && !this.dirty) return;
    if (this.covered) return this.aside ? this.refine() : undefined;
    if (this.dirty) return this.now();
    const quiet = this.stopped ? 0 : this.levels.quick ? QUIET : SLOW_QUIET;
    if (!this.fine && !this.hurried && performance.now() - this.quiet > quiet) this.refine();
  }

  /** Goes on with the picture at full resolution once nothing moves any more, a part at a time: the next one when
   * the last is done, so that there is never much to wait for. */
  private refine() {
    this.refining ??= this.parts();
    if (!this.refining.next().done) {
      this.pace.await();
      // The screen's next turn may come late where the processor draws.
      return this.soon();
    }
    // The lines are drawn with the last part: what the canvas shows is shown at the end of a turn, and gone.
    this.refining = null;
    this.fine = true;
    this.stopped = false;
    const told = this.aside;
    this.drawOverlay();
    if (!told) return this.drawn();
    this.aside = null;
    told(this.canvas);
  }

  private soon() {
    if (this.asking) return;
    this.asking = true;
    setTimeout(() => {
      this.asking = false;
      if (!this.refining) return;
      this.step();
      if (this.refining && this.pace.waits) this.soon();
    }, SOON);
  }

  private draw(corner: boolean) {
    this.dirty = this.fine = false;
    this.refining = null;
    this.sketched(corner);
    this.drawOverlay();
  }
}
