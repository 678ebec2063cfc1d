/** How much of the full resolution the smoke is drawn at. */
const SMOKE = [1, 0.75, 0.5, 0.35, 0.25, 0.16];
/** The whole picture at each of them while things move, and how long steps are, cells. */
const PICTURES = [1, 1, 0.5, 0.5, 0.4, 0.25];
const PACES = [0.8, 0.8, 1.3, 1.3, 1.3, 2.8];

/** How coarse pictures are while things move. */
export class Levels {
  private level = 0;
  /** The level of before what is urgent. */
  private before = 0;
  /** Whether pictures come anew again and again, of which the last one alone is worth anything. */
  urgent = false;

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

  /** What comes anew again and again stays as it began, for it has to share the machine with what makes it. */
  finer() {
    if (this.urgent && this.hasty) return;
    this.level = Math.max(this.level - 1, 0);
  }

  /** Begins as coarse as it gets. */
  coarsen() {
    this.level = this.coarsest;
  }

  /** Where the machine does not keep up anyway, what is urgent is drawn as quickly as can be, and then as before. */
  hurry(urgent: boolean) {
    if (urgent === this.urgent) return;
    this.urgent = urgent;
    if (urgent) {
      this.before = this.level;
      if (!this.quick) this.coarsen();
    } else if (this.hasty) this.level = this.before;
  }

  private get coarsest() {
    return SMOKE.length - (this.urgent ? 1 : 2);
  }
}
