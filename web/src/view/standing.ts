import * as THREE from "three";

/** What is kept of surfaces, in this order. */
export const KEPT = ["still", "sunned", "albedo", "shape"] as const;

/** Keeps depths alone. */
const depthTarget = () =>
  new THREE.WebGLRenderTarget(4, 4, { format: THREE.RedFormat, depthTexture: new THREE.DepthTexture(4, 4) });

/** What stands still of a picture while one looks from one place: the surfaces of props, the ground and the sky, as
 * far as no frame's smoke and fire change them. It is drawn once, whatever plays before it. */
export class Standing {
  readonly target = new THREE.WebGLRenderTarget(4, 4, {
    type: THREE.HalfFloatType,
    depthTexture: new THREE.DepthTexture(4, 4),
    count: 4,
    samples: 0,
  });
  /** How far smoke is seen through clear things, where there are any. */
  readonly through = depthTarget();
  /** Whether there are any. */
  clear = false;
  private solid: Standing | null = null;
  private from = new THREE.Matrix4();
  private lens = new THREE.Matrix4();
  private edition = -1;
  private fine = false;

  /** All of it that is not clear, which is kept while water changes before it. */
  get bare(): Standing {
    return (this.solid ??= new Standing());
  }

  /** The depths up to which smoke and fire are seen. */
  get sight(): THREE.DepthTexture | null {
    return (this.clear ? this.through : this.target).depthTexture;
  }

  /** Whether it is what a camera sees, in this edition of the props and at least as fine. */
  fits(camera: THREE.Camera, edition: number, fine: boolean): boolean {
    const seen = this.from.equals(camera.matrixWorld) && this.lens.equals(camera.projectionMatrix);
    return seen && this.edition === edition && (this.fine || !fine);
  }

  /** Begins anew, in another size if that is wanted; until it is done it fits nothing. */
  begin(renderer: THREE.WebGLRenderer, width: number, height: number) {
    this.edition = -1;
    this.clear = false;
    this.setSize(width, height);
    renderer.setRenderTarget(this.target);
    renderer.clear();
  }

  done(camera: THREE.Camera, edition: number, fine: boolean) {
    this.from.copy(camera.matrixWorld);
    this.lens.copy(camera.projectionMatrix);
    this.edition = edition;
    this.fine = fine;
  }

  /** Another size is nothing that was drawn. */
  setSize(width: number, height: number) {
    if (this.target.width === width && this.target.height === height) return;
    this.target.setSize(width, height);
    this.edition = -1;
  }

  dispose() {
    this.target.dispose();
    this.through.dispose();
    this.solid?.dispose();
  }
}
