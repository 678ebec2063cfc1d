import type * as THREE from "three";

/** The canvas beside its corner, each way. */
const TIMES = 2;

/** Where the processor draws, filling the canvas takes as long as all else of a hasty picture. It is drawn into a corner
 * of it then, and the browser shows that corner in the canvas's place, as large as the canvas: another size of the
 * canvas itself would wait for all that is drawn. */
export class Corner {
  private small = false;
  private readonly able = typeof CSS !== "undefined" && CSS.supports?.("object-view-box", "inset(0px)");

  /** Whether the next picture is drawn into the corner. */
  take(small: boolean) {
    this.small = small && this.able;
  }

  /** Makes ready for what is drawn onto the canvas. @param full its size, pixels */
  show(renderer: THREE.WebGLRenderer, full: number[]) {
    const [width, height] = this.small ? full.map((count) => Math.ceil(count / TIMES)) : full;
    renderer.setViewport(0, 0, width, height);
    const box = this.small ? `inset(${full[1] - height}px ${full[0] - width}px 0px 0px)` : "";
    const { style } = renderer.domElement;
    if (style.getPropertyValue("object-view-box") === box) return;
    style.setProperty("object-view-box", box);
  }
}
