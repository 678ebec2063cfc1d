import type * as THREE from "three";
import type { Scene as Rig } from "../api/types";
import { Backdrop } from "./backdrop";
import { Bands, within } from "./bands";
import { Composer } from "./composer";
import { Levels } from "./levels";
import { Marcher } from "./marcher";
import type { PropShelf } from "./props";
import { Standing } from "./standing";

/** Into so many bands what stands still is divided at most. */
const BANDS = 8;
/** Each band goes through all corners of the props: so many triangles in all bands are worth it. */
const TRIANGLES = 150_000;

/** Draws the shot: what stands still where it is not there already, and the frame's smoke and fire over it. */
export class Drawing {
  readonly levels = new Levels();
  readonly marcher: Marcher;
  private composer: Composer;
  private backdrop = new Backdrop();
  /** What stands still, at full resolution, and as it is seen while things move: by what part of that it has. */
  private whole = new Standing();
  private smaller = new Map<number, Standing>();
  private bands = { solid: new Bands(BANDS), clear: new Bands(BANDS) };

  constructor(
    private renderer: THREE.WebGLRenderer,
    private camera: THREE.PerspectiveCamera,
    private props: PropShelf,
  ) {
    props.scene.add(this.backdrop.mesh);
    Backdrop.shownTo(camera);
    this.marcher = new Marcher(props.light);
    this.composer = new Composer(props.light, this.marcher.target);
  }

  setRig(rig: Rig) {
    this.props.setRig(rig);
    if (this.backdrop.setRig(rig)) this.props.stale();
    this.props.light.uniforms.skyTable.value = this.backdrop.table;
    this.marcher.setRig(rig);
    this.composer.setRig(rig);
  }

  setPlate(picture: ImageBitmap | null, share: number) {
    this.backdrop.setPlate(picture, share);
  }

  /** Draws a picture as coarse as pictures are now. @param full the canvas's size
   * @param corner whether a corner of the canvas will do for a hasty one */
  draw(full: number[], corner: boolean) {
    const { renderer, camera, levels } = this;
    const standing = this.stand(full);
    this.marcher.draw(renderer, camera, full, standing, levels);
    this.composer.draw(renderer, camera, full, standing, levels, corner);
  }

  /** Draws one at full resolution, a part at a time. */
  *refine(full: number[]): Generator<void> {
    const { renderer, camera, whole } = this;
    this.prepare(full[1], true);
    if (!this.fits(whole, full, true)) {
      const { solid, clear } = this.bands;
      yield* this.stands(whole, full, true, (target, isClear) => {
        const bands = isClear ? clear : solid;
        bands.most = Math.max(Math.min(Math.round(TRIANGLES / triangles(this.props, isClear)), BANDS), 1);
        return bands.over(full[1], (from, to) =>
          within(target, from, to, () => this.props.part(isClear, () => this.render(target))),
        );
      });
    }
    yield* this.marcher.refine(renderer, camera, full, whole);
    yield* this.composer.refine(renderer, camera, full, whole);
  }

  /** What stands still, at the size of pictures while things move; anew if it is not as it was drawn. */
  private stand(full: number[]): Standing {
    const scale = this.levels.picture;
    const standing = scale === 1 ? this.whole : (this.smaller.get(scale) ?? new Standing());
    if (scale < 1) this.smaller.set(scale, standing);
    const size = full.map((count) => Math.max(Math.round(count * scale), 4));
    this.prepare(size[1], false);
    if (this.fits(standing, size, false)) return standing;
    // Each layer takes as long as all that is not clear.
    const deep = this.levels.quick ? undefined : 1;
    const all = (target: THREE.WebGLRenderTarget, clear: boolean) =>
      void this.props.part(clear, () => this.render(target));
    for (const parts = this.stands(standing, size, false, all, deep); !parts.next().done;);
    return standing;
  }

  /** Draws what stands still: what is solid, where that has changed, and then what is clear, a layer at a time.
   * @param draw draws what is clear or what is not into a target, in parts or at once
   * @param deep so many clear things behind each other; nothing: as many as there can be */
  private *stands(
    standing: Standing,
    size: number[],
    fine: boolean,
    draw: (target: THREE.WebGLRenderTarget, clear: boolean) => Generator<void> | void,
    deep?: number,
  ): Generator<void> {
    const { renderer, camera, props } = this;
    const { edition, solid } = props;
    const clear = props.clear.length > 0;
    const bare = clear ? standing.bare : standing;
    standing.begin(renderer, size[0], size[1]);
    if (!clear || !this.fits(bare, size, fine, solid)) {
      if (clear) bare.begin(renderer, size[0], size[1]);
      yield* draw(bare.target, false) ?? [];
      if (clear) bare.done(camera, solid, fine);
    }
    if (clear)
      for (const target of props.clearThings.layers(renderer, props, camera, standing, deep))
        yield* draw(target, true) ?? [];
    standing.done(camera, edition, fine);
  }

  private fits(
    standing: Standing,
    [width, height]: number[],
    fine: boolean,
    edition = this.props.edition,
  ): boolean {
    standing.setSize(width, height);
    return standing.fits(this.camera, edition, fine);
  }

  private render(target: THREE.WebGLRenderTarget) {
    this.renderer.setRenderTarget(target);
    this.renderer.render(this.props.scene, this.camera);
  }

  private prepare(height: number, fine: boolean) {
    const { renderer, props, camera } = this;
    camera.updateMatrixWorld();
    props.light.prepare(camera, height, this.marcher.smoke, fine);
    props.light.castShadow(renderer, props.scene, props.group);
    this.backdrop.prepare(renderer, camera, height, !fine && this.levels.hasty);
  }

  dispose() {
    const { marcher, composer, backdrop, whole, smaller } = this;
    for (const each of [marcher, composer, backdrop, whole, ...smaller.values()]) each.dispose();
  }
}

/** How many triangles clear things have, or all others. */
function triangles({ group, clear }: PropShelf, isClear: boolean): number {
  const chosen = new Set<THREE.Object3D>(clear);
  const seen = (group.children as THREE.Mesh[]).filter(
    (mesh) => mesh.visible && chosen.has(mesh) === isClear,
  );
  return seen.reduce((sum, { geometry }) => {
    const corners = geometry.index ?? geometry.getAttribute("position");
    return sum + (corners?.count ?? 0) / 3;
  }, 0);
}
