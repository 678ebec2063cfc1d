import * as THREE from "three";
import type { Scene as Rig } from "../api/types";
import type { PropLight } from "./propLight";
import { tints } from "../theme";
import { pixelsWide, screenBox } from "./screenBox";
import { lightTarget, pass, screenMaterial, vary } from "./screen";
import { march } from "./shaders/march";
import { tileVertex } from "./shaders/tiles";
import { texture3d, Uploads, type Upload } from "./textures";
import type { Fog } from "./decode";
import { Bands, within } from "./bands";
import type { Levels } from "./levels";
import type { Standing } from "./standing";
import { Tiles } from "./tiles";
import type { Channel, Volume } from "./volumes";

/** Into so many bands a picture at full resolution is divided at most. */
const BANDS = 48;
/** How long a step is in the finest pictures, cells, and where a cell hides much. */
const FINEST = 0.9;
const THICK_FINEST = 0.7;
/** From this optical depth on one does. */
const THICK = 0.5;
/** How far apart the places are, pixels, at which smoke is looked at first. */
const APART = [4, 2];
/** So many of them lie within a voxel at least. */
const DENSE = 0.5;

const middle = new THREE.Vector3();

/** Draws the smoke, at a resolution of its own. */
export class Marcher {
  private uploads = new Uploads();
  /** What is there before any frame. */
  private nothing: Upload = {
    lit: texture3d(THREE.RGBAFormat),
    hot: texture3d(THREE.RGBAFormat),
    busy: texture3d(THREE.RedFormat),
  };
  private seen = texture3d(THREE.RedFormat);
  private marching: THREE.ShaderMaterial;
  /** The same, where what was seen beside a place does not tell what is seen there. */
  private again: THREE.ShaderMaterial;
  /** The smoke's light, and how much it hides. */
  readonly target = lightTarget();
  /** What is seen at fewer places, farthest apart first. */
  private fewer = APART.map((apart) => ({ apart, target: lightTarget(), bands: new Bands(BANDS) }));
  private bands = new Bands(BANDS);
  private tiles = new Tiles();
  private empty = true;
  private foggy = false;
  /** Whether lamps that stand at a place have yet to light the fog. */
  private lampsLeft = false;

  /** @param light the lamps, which shine through fog too */
  constructor(private light: PropLight) {
    const heat = new THREE.Color(tints.heat).convertSRGBToLinear();
    const uniforms = {
      lit: { value: this.nothing.lit },
      hot: { value: this.nothing.hot },
      seen: { value: this.seen },
      busy: { value: this.nothing.busy },
      seenLow: { value: new THREE.Vector3() },
      seenHigh: { value: new THREE.Vector3(1, 1, 1) },
      seenTint: { value: new THREE.Vector3() },
      seenZero: { value: 0 },
      depths: { value: null as THREE.Texture | null },
      toWorld: { value: new THREE.Matrix4() },
      eye: { value: new THREE.Vector3() },
      low: { value: new THREE.Vector3() },
      high: { value: new THREE.Vector3(1, 1, 1) },
      voxel: { value: 1 },
      pace: { value: 0.8 },
      thickness: { value: 1 },
      peaks: { value: new THREE.Vector4(1, 1, 1, 0) },
      albedo: { value: new THREE.Vector3(1, 1, 1) },
      heatTint: { value: new THREE.Vector3(heat.r, heat.g, heat.b) },
      shown: { value: new THREE.Vector3(1, 0, 1) },
      fogLit: { value: this.nothing.lit },
      fogHot: { value: this.nothing.hot },
      fogWays: { value: this.nothing.hot },
      fogLow: { value: new THREE.Vector3() },
      fogHigh: { value: new THREE.Vector3(1, 1, 1) },
      fogVoxel: { value: 0 },
      fogPace: { value: 1 },
      fogForward: { value: 0 },
      fogColour: { value: new THREE.Vector3() },
      ...light.around,
      fogEndless: { value: new THREE.Vector2() },
      before: { value: null as THREE.Texture | null },
      bright: { value: 1 },
      span: { value: new THREE.Vector2() },
    };
    this.marching = screenMaterial(march, uniforms);
    this.again = screenMaterial(march, { ...uniforms, ...this.tiles.own }, tileVertex);
    vary(this.again, "AGAIN", true);
  }

  setRig(rig: Rig) {
    const march = this.marching.uniforms;
    march.thickness.value = rig.rig.thickness;
    march.albedo.value.fromArray(rig.rig.albedo);
    march.bright.value = Math.max(...rig.film.slice(0, 3));
  }

  private vary(part: string, has: boolean) {
    for (const material of [this.marching, this.again]) vary(material, part, has);
  }

  setShown(smoke: boolean, heat: boolean, fire: boolean) {
    const shown = this.marching.uniforms.shown.value;
    shown.set(smoke ? 1 : 0, heat ? 1 : 0, fire ? 1 : 0);
  }

  /** One more quantity as a tinted haze: its size, not its light. */
  setChannel(channel: Channel | null, tint: string) {
    const march = this.marching.uniforms;
    this.vary("SEEN", !!channel);
    if (!channel) return;
    const [x, y, z] = channel.size;
    const image = this.seen.image;
    // Storage of another size must be made anew; the same is written over.
    if (image.width !== x || image.height !== y || image.depth !== z) this.seen.dispose();
    this.seen.image = { data: channel.data, width: x, height: y, depth: z };
    this.seen.needsUpdate = true;
    march.seenLow.value.fromArray(channel.corner);
    march.seenHigh.value.set(x, y, z).multiplyScalar(channel.voxel).add(march.seenLow.value);
    const colour = new THREE.Color(tint).convertSRGBToLinear();
    march.seenTint.value.set(colour.r, colour.g, colour.b);
    march.seenZero.value = Math.min(Math.max(-channel.low / (channel.high - channel.low || 1), 0), 1);
  }

  setVolume(volume: Volume | null) {
    this.empty = !volume;
    if (!volume) return void this.marching.uniforms.low.value.copy(this.marching.uniforms.high.value);
    const [x, y, z] = volume.size;
    const march = this.marching.uniforms;
    const { lit, hot, busy } = this.uploads.of(volume);
    march.lit.value = lit;
    march.hot.value = hot;
    march.busy.value = busy;
    march.low.value.fromArray(volume.corner);
    march.high.value.set(x, y, z).multiplyScalar(volume.voxel).add(march.low.value);
    march.voxel.value = volume.voxel;
    march.peaks.value.fromArray(volume.peaks);
  }

  /** Fogs and beams of the frame; nothing where there are none. */
  setFog(fog: Fog | null) {
    const march = this.marching.uniforms;
    for (const [uniform, none] of [
      ["fogLit", this.nothing.lit],
      ["fogHot", this.nothing.hot],
      ["fogWays", this.nothing.hot],
    ] as const) {
      if (march[uniform].value !== none) march[uniform].value.dispose();
      march[uniform].value = none;
    }
    this.foggy = !!fog;
    this.vary("FOG", this.foggy);
    this.lampsLeft = !!fog?.placed;
    this.light.uniforms.fogThick.value = fog?.thick ?? 0;
    if (!fog) return;
    march.fogVoxel.value = fog.voxel;
    march.fogEndless.value.set(fog.endless?.reach ?? 0, fog.endless?.thins ?? 0);
    march.fogLit.value = texture3d(THREE.RGBAFormat, fog.lit, fog.size);
    march.fogHot.value = texture3d(THREE.RGBAFormat, fog.hot, fog.size);
    march.fogWays.value = texture3d(THREE.RGBAFormat, fog.ways, fog.size);
    march.fogLow.value.fromArray(fog.corner);
    march.fogHigh.value
      .set(...fog.size)
      .multiplyScalar(fog.voxel)
      .add(march.fogLow.value);
    march.fogForward.value = fog.forward;
    march.fogColour.value.fromArray(fog.colour);
  }

  /** Whether there is nothing to march through. */
  private get still() {
    return this.empty && !this.foggy;
  }

  /** What props need to be shaded by the smoke. */
  get smoke() {
    const { lit, low, high, voxel, peaks } = this.marching.uniforms;
    return {
      lit: lit.value as THREE.Data3DTexture,
      low: low.value as THREE.Vector3,
      high: high.value as THREE.Vector3,
      voxel: voxel.value as number,
      // What is not shown throws no shadow either.
      peak: this.empty || !this.marching.uniforms.shown.value.x ? 0 : (peaks.value as THREE.Vector4).x,
    };
  }

  /** @param standing what the smoke is before */
  draw(
    renderer: THREE.WebGLRenderer,
    camera: THREE.PerspectiveCamera,
    full: number[],
    standing: Standing,
    levels: Levels,
  ) {
    this.look(camera, standing);
    this.size(levels.smoke, full);
    this.marching.uniforms.pace.value = levels.pace;
    this.marching.uniforms.fogPace.value = levels.fogPace;
    this.clear(renderer);
    if (!this.still) pass(renderer, this.marching);
  }

  /** The same at full resolution, a band at a time. */
  *refine(
    renderer: THREE.WebGLRenderer,
    camera: THREE.PerspectiveCamera,
    full: number[],
    standing: Standing,
  ): Generator<void> {
    this.look(camera, standing);
    this.size(1, full);
    const { before, pace, fogPace, thickness, peaks, voxel } = this.marching.uniforms;
    pace.value = thickness.value * peaks.value.x * voxel.value > THICK ? THICK_FINEST : FINEST;
    fogPace.value = FINEST;
    this.clear(renderer);
    if (this.still) return;
    before.value = null;
    const where = this.where(camera);
    const wide = this.voxelSeen(camera, full);
    for (const { apart, target, bands } of this.fewer) {
      if (apart * DENSE > wide) continue;
      const [width, height] = full.map((count) => Math.ceil(count / apart));
      if (target.width !== width || target.height !== height) target.setSize(width, height);
      this.clear(renderer, target);
      yield* this.over(renderer, target, bands, where);
      before.value = target.texture;
    }
    yield* this.over(renderer, this.target, this.bands, where);
  }

  /** Where anything can be seen, in parts of the picture. */
  private where(camera: THREE.Camera): number[] {
    const { low, high } = this.marching.uniforms;
    return this.foggy ? [0, 0, 1, 1] : screenBox(camera, low.value, high.value);
  }

  /** Marches for each pixel of a target, or for those that what was seen before tells nothing of. */
  private over(
    renderer: THREE.WebGLRenderer,
    target: THREE.WebGLRenderTarget,
    bands: Bands,
    where: number[],
  ): Generator<void> {
    const { before, bright } = this.marching.uniforms;
    const { width, height } = target;
    // One more all round: what lies beside is looked at as well.
    const [left, first] = [where[0] * width, where[1] * height].map((at) => Math.max(Math.floor(at) - 1, 0));
    const right = Math.min(Math.ceil(where[2] * width) + 1, width);
    const last = Math.min(Math.ceil(where[3] * height) + 1, height);
    if (before.value) {
      const find = () => this.tiles.find(renderer, target, before.value, bright.value);
      within(target, first, last, find, [left, right]);
    }
    const draw = (from: number, to: number) => {
      const march = () => {
        renderer.setRenderTarget(target);
        if (before.value) this.tiles.draw(renderer, this.again, from, to);
        else pass(renderer, this.marching);
      };
      within(target, from, to, march, [left, right]);
    };
    return bands.over(height, draw, first, last);
  }

  /** How many pixels wide a voxel of the smoke is seen; one of fog, where there is no smoke. */
  private voxelSeen(camera: THREE.Camera, [, height]: number[]): number {
    const { low, high, fogLow, fogHigh, voxel, fogVoxel } = this.marching.uniforms;
    const [from, to, size] = this.empty ? [fogLow, fogHigh, fogVoxel] : [low, high, voxel];
    return pixelsWide(
      camera,
      height,
      middle.addVectors(from.value, to.value).multiplyScalar(0.5),
      size.value,
    );
  }

  private look(camera: THREE.PerspectiveCamera, standing: Standing) {
    this.vary("LAMPS", this.lampsLeft && this.light.stands);
    const { eye, toWorld, depths, span } = this.marching.uniforms;
    span.value.set(camera.near, camera.far);
    eye.value.setFromMatrixPosition(camera.matrixWorld);
    toWorld.value.copy(camera.matrixWorld).multiply(camera.projectionMatrixInverse);
    depths.value = standing.sight;
  }

  private size(scale: number, full: number[]) {
    const [width, height] = full.map((count) => Math.max(8, Math.round(count * scale)));
    if (this.target.width !== width || this.target.height !== height) this.target.setSize(width, height);
  }

  private clear(renderer: THREE.WebGLRenderer, target = this.target) {
    renderer.setRenderTarget(target);
    const alpha = renderer.getClearAlpha();
    const colour = renderer.getClearColor(new THREE.Color());
    renderer.setClearColor(0x000000, 0);
    renderer.clear();
    renderer.setClearColor(colour, alpha);
  }

  dispose() {
    const { uploads, nothing, seen, marching, again, tiles, target, fewer } = this;
    const targets = [target, ...fewer.map((each) => each.target)];
    for (const thing of [uploads, ...Object.values(nothing), seen, marching, again, tiles, ...targets])
      thing.dispose();
  }
}
