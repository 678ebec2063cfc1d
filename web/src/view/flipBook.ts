/** A picture of the view at one frame. */
interface Page {
  picture: ImageBitmap;
  /** Whether it is as fine as it gets. */
  fine: boolean;
}

/** So much is kept, bytes. */
const MEMORY = 400e6;

const size = (picture: ImageBitmap) => 4 * picture.width * picture.height;

/** Pictures of frames as they were drawn from one place. While nothing but the frame changes, they are shown again as
 * they are, at any rate and on any machine. */
export class FlipBook {
  private pages = new Map<string, Page>();
  private edition = 0;
  private bytes = 0;
  /** Called when pages have come or gone. */
  changed: () => void = () => {};

  get size() {
    return this.pages.size;
  }

  has(name: string | null): boolean {
    return !!name && this.pages.has(name);
  }

  /** Whether there is a page as fine as it gets. */
  fine(name: string | null): boolean {
    return !!name && !!this.pages.get(name)?.fine;
  }

  /** Whether one more page of a size would push another out. */
  full(width: number, height: number): boolean {
    return this.bytes + 4 * width * height > MEMORY;
  }

  /** Whether so many pages of a size have room together. */
  holds(count: number, width: number, height: number): boolean {
    return 4 * count * width * height <= MEMORY;
  }

  /** @param fine whether only the finest will do */
  get(name: string | null, fine: boolean): ImageBitmap | null {
    const page = name ? this.pages.get(name) : undefined;
    return page && (page.fine || !fine) ? page.picture : null;
  }

  /** Takes what a canvas shows now, unless there is as fine a page already. */
  async take(name: string, canvas: HTMLCanvasElement, fine: boolean) {
    const before = this.pages.get(name);
    if (before && (before.fine || !fine)) return;
    const { edition } = this;
    // The canvas is read at once; what it gives comes later.
    const picture = await createImageBitmap(canvas);
    if (edition !== this.edition) return picture.close();
    this.drop(name);
    this.pages.set(name, { picture, fine });
    this.bytes += size(picture);
    for (const old of this.pages.keys()) {
      if (this.bytes <= MEMORY) break;
      this.drop(old);
    }
    this.changed();
  }

  private drop(name: string) {
    const page = this.pages.get(name);
    if (!page) return;
    this.bytes -= size(page.picture);
    page.picture.close();
    this.pages.delete(name);
  }

  clear() {
    this.edition += 1;
    if (!this.pages.size) return;
    for (const name of [...this.pages.keys()]) this.drop(name);
    this.changed();
  }
}
