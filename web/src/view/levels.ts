/** How much of the full resolution the smoke is drawn at. */
const SMOKE = [1, 0.75, 0.5, 0.35, 0.25, 0.16];
/** The whole picture at each of them while things move, and how long steps are, cells. */
const PICTURES = [1, 1, 0.5, 0.5, 0.4, 0.25];
const PACES = [0.8, 0.8, 1.3, 1.3, 1.3, 2.8];

/** How coarse pictures are while things move. */
export class Levels {
  private level = 0;
  private urgent = false;

  /** How much of the full resolution the smoke is drawn at. */
  get smoke() {
    return SMOKE[this.level];
  }

  /** The size of the whole picture, as a part of the full one. */
  get picture() {
    return PICTURES[this.level];
  }

  /** How long a step through the smoke is, cells, and one through fog. */
  get pace() {
    return PACES[this.level];
  }
  get fogPace() {
    return this.level > 1 ? 4 : 1;
  }

  /** Whether the machine keeps up with all that a picture has while things move. */
  get quick() {
    return this.level < 2;
  }

  /** Whether pictures are drawn as quickly as can be. */
  get hasty() {
    return this.level === SMOKE.length - 1;
  }

  coarser() {
    this.level = Math.min(this.level + 1, this.coarsest);
  }

  finer() {
    this.level = Math.max(this.level - 1, 0);
  }

  /** Begins as coarse as it gets. */
  coarsen() {
    this.level = this.coarsest;
  }

  /** Whether it is about what comes anew again and again, for which alone the last one is. */
  hurry(urgent: boolean) {
    this.urgent = urgent;
    if (urgent && this.level === SMOKE.length - 2) this.level += 1;
    this.level = Math.min(this.level, this.coarsest);
  }

  private get coarsest() {
    return SMOKE.length - (this.urgent ? 1 : 2);
  }
}
