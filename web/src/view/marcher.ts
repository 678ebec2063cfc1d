import * as THREE from "three";
import type { Scene as Rig } from "../api/types";
import { tints } from "../theme";
import { compose, develop, enlarge } from "./shaders/finish";
import { fullScreen, march } from "./shaders/march";
import { Skyline } from "./skyline";
import { SkyTable } from "./skyTable";
import { Halo } from "./halo";
import { texture3d, Uploads, type Upload } from "./textures";
import type { Fog } from "./decode";
import { Bands, within } from "./bands";
import type { Channel, Volume } from "./volumes";

const SCALES = [1, 0.75, 0.5, 0.35, 0.25, 0.16];
/** The whole picture at each of them while things move, and how long steps are, cells. */
const PICTURES = [1, 1, 0.5, 0.5, 0.4, 0.25];
const PACES = [0.8, 0.8, 1.3, 1.3, 1.3, 2.8];
/** Into so many bands a picture at full resolution is divided at most. */
const BANDS = 48;

/** Draws the smoke, at a resolution of its own, and puts the whole picture together. */
export class Marcher {
  private screen = new THREE.Scene();
  private lens = new THREE.OrthographicCamera();
  private quad = new THREE.Mesh(new THREE.PlaneGeometry(2, 2));
  private uploads = new Uploads();
  /** What is there before any frame. */
  private nothing: Upload = {
    lit: texture3d(THREE.RGBAFormat),
    hot: texture3d(THREE.RGBAFormat),
    busy: texture3d(THREE.RedFormat),
  };
  private seen = texture3d(THREE.RedFormat);
  private marching: THREE.ShaderMaterial;
  private composing: THREE.ShaderMaterial;
  private developing: THREE.ShaderMaterial;
  private enlarging: THREE.ShaderMaterial;
  private volumeTarget = new THREE.WebGLRenderTarget(4, 4, {
    type: THREE.HalfFloatType,
    depthBuffer: false,
    magFilter: THREE.LinearFilter,
  });
  private lightTarget = new THREE.WebGLRenderTarget(4, 4, {
    type: THREE.HalfFloatType,
    depthBuffer: false,
    magFilter: THREE.LinearFilter,
  });
  /** A smaller picture as the screen shows it. */
  private shownTarget = new THREE.WebGLRenderTarget(4, 4, {
    depthBuffer: false,
    magFilter: THREE.LinearFilter,
  });
  private halo = new Halo();
  private sky = new SkyTable();
  private skyline = new Skyline();
  private plate = new THREE.Texture();
  private level = 0;
  private urgent = false;
  private bands = new Bands(BANDS);
  private empty = true;
  private foggy = false;

  constructor(private props: THREE.WebGLRenderTarget) {
    this.quad.frustumCulled = false;
    this.screen.add(this.quad);
    const heat = new THREE.Color(tints.heat).convertSRGBToLinear();
    this.marching = new THREE.ShaderMaterial({
      glslVersion: THREE.GLSL3,
      vertexShader: fullScreen,
      fragmentShader: march,
      depthTest: false,
      depthWrite: false,
      uniforms: {
        lit: { value: this.nothing.lit },
        hot: { value: this.nothing.hot },
        seen: { value: this.seen },
        busy: { value: this.nothing.busy },
        seenLow: { value: new THREE.Vector3() },
        seenHigh: { value: new THREE.Vector3(1, 1, 1) },
        seenTint: { value: new THREE.Vector3() },
        seenZero: { value: 0 },
        depths: { value: props.depthTexture },
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
        shown: { value: new THREE.Vector4(1, 0, 0, 1) },
        fogLit: { value: this.nothing.lit },
        fogHot: { value: this.nothing.hot },
        fogLow: { value: new THREE.Vector3() },
        fogHigh: { value: new THREE.Vector3(1, 1, 1) },
        fogVoxel: { value: 0 },
        fogPace: { value: 1 },
        fogSun: { value: new THREE.Vector4(0, 1, 0, 0) },
        fogEndless: { value: new THREE.Vector2() },
      },
    });
    this.composing = new THREE.ShaderMaterial({
      glslVersion: THREE.GLSL3,
      vertexShader: fullScreen,
      fragmentShader: compose,
      depthTest: false,
      depthWrite: false,
      uniforms: {
        props: { value: props.texture },
        volume: { value: this.volumeTarget.texture },
        depths: { value: props.depthTexture },
        hasty: { value: false },
        small: { value: new THREE.Vector2(1, 1) },
        toWorld: { value: new THREE.Matrix4() },
        eye: { value: new THREE.Vector3() },
        span: { value: new THREE.Vector2() },
        plate: { value: this.plate },
        plated: { value: 0 },
        plateGain: { value: new THREE.Vector3(1, 1, 1) },
        ...this.sky.uniforms,
        ...this.skyline.uniforms,
      },
    });
    this.developing = new THREE.ShaderMaterial({
      glslVersion: THREE.GLSL3,
      vertexShader: fullScreen,
      fragmentShader: develop,
      depthTest: false,
      depthWrite: false,
      uniforms: {
        light: { value: this.lightTarget.texture },
        halo0: { value: this.halo.spread[0].texture },
        halo1: { value: this.halo.spread[1].texture },
        halo2: { value: this.halo.spread[2].texture },
        film: { value: [1, 1, 1, 0, 1, 0, 0, 0] },
        bloom: { value: 0 },
        hasty: { value: false },
      },
    });
    this.enlarging = new THREE.ShaderMaterial({
      glslVersion: THREE.GLSL3,
      vertexShader: fullScreen,
      fragmentShader: enlarge,
      depthTest: false,
      depthWrite: false,
      uniforms: { shown: { value: this.shownTarget.texture } },
    });
  }

  /** How much of the full resolution the smoke is drawn at. */
  get scale() {
    return SCALES[this.level];
  }

  coarser() {
    this.level = Math.min(this.level + 1, this.coarsest);
  }

  /** Begins as coarse as it gets. */
  coarsen() {
    this.level = this.coarsest;
  }

  /** The last resolution is for what is under the hand and comes anew again and again. */
  private get coarsest() {
    return SCALES.length - (this.urgent ? 1 : 2);
  }

  /** Whether it is about what comes anew again and again. */
  hurry(urgent: boolean) {
    this.urgent = urgent;
    if (urgent && this.level === SCALES.length - 2) this.level += 1;
    this.level = Math.min(this.level, this.coarsest);
  }

  finer() {
    this.level = Math.max(this.level - 1, 0);
  }

  setRig(rig: Rig) {
    const march = this.marching.uniforms;
    march.thickness.value = rig.rig.thickness;
    march.albedo.value.fromArray(rig.rig.albedo);
    this.sky.set(rig.sky);
    this.developing.uniforms.film.value = rig.film;
    this.composing.uniforms.plateGain.value.fromArray(rig.film.slice(0, 3).map((gain) => 1 / (gain || 1)));
  }

  /** A plate that stands behind everything.
   * @param share how much of the view's height it takes */
  setPlate(picture: ImageBitmap | null, share = 1) {
    this.composing.uniforms.plated.value = picture ? share : 0;
    if (!picture || this.plate.image === picture) return;
    this.plate.dispose();
    this.plate.image = picture;
    this.plate.colorSpace = THREE.SRGBColorSpace;
    this.plate.minFilter = THREE.LinearFilter;
    this.plate.generateMipmaps = false;
    this.plate.needsUpdate = true;
  }

  setShown(smoke: boolean, heat: boolean, fire: boolean) {
    const shown = this.marching.uniforms.shown.value;
    shown.set(smoke ? 1 : 0, heat ? 1 : 0, shown.z, fire ? 1 : 0);
  }

  /** One more quantity as a tinted haze: its size, not its light. */
  setChannel(channel: Channel | null, tint: string) {
    const march = this.marching.uniforms;
    march.shown.value.z = channel ? 1 : 0;
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
    ] as const) {
      if (march[uniform].value !== none) march[uniform].value.dispose();
      march[uniform].value = none;
    }
    this.foggy = !!fog;
    march.fogVoxel.value = fog?.voxel ?? 0;
    march.fogEndless.value.set(fog?.endless?.reach ?? 0, fog?.endless?.thins ?? 0);
    if (!fog) return;
    march.fogLit.value = texture3d(THREE.RGBAFormat, fog.lit, fog.size);
    march.fogHot.value = texture3d(THREE.RGBAFormat, fog.hot, fog.size);
    march.fogLow.value.fromArray(fog.corner);
    march.fogHigh.value
      .set(...fog.size)
      .multiplyScalar(fog.voxel)
      .add(march.fogLow.value);
    march.fogSun.value.fromArray([...fog.towards, fog.forward]);
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

  /** Whether pictures are drawn as quickly as can be. */
  get hasty() {
    return this.level === SCALES.length - 1;
  }

  draw(renderer: THREE.WebGLRenderer, camera: THREE.PerspectiveCamera, full: number[]) {
    this.look(camera);
    this.size(this.scale, full);
    this.marching.uniforms.pace.value = PACES[this.level];
    this.marching.uniforms.fogPace.value = this.level > 1 ? 4 : 1;
    this.clear(renderer, this.volumeTarget);
    if (!this.still) this.pass(renderer, this.marching);
    this.compose(renderer, this.hasty);
    this.develop(renderer, full, this.hasty, this.quick && this.bloom(renderer));
  }

  /** Draws the smoke at full resolution, a band at a time, and then the picture, which is on the canvas once all is
   * done. */
  *refine(renderer: THREE.WebGLRenderer, camera: THREE.PerspectiveCamera, full: number[]): Generator<void> {
    const { volumeTarget } = this;
    this.look(camera);
    this.size(1, full);
    this.marching.uniforms.pace.value = 0.7;
    this.marching.uniforms.fogPace.value = 0.7;
    this.clear(renderer, volumeTarget);
    if (!this.still)
      yield* this.bands.over(volumeTarget.height, (from, to) =>
        within(volumeTarget, from, to, () => {
          renderer.setRenderTarget(volumeTarget);
          this.pass(renderer, this.marching);
        }),
      );
    this.compose(renderer, false);
    yield;
    const blooms = this.bloom(renderer);
    if (blooms) yield;
    this.develop(renderer, full, false, blooms);
  }

  private look(camera: THREE.PerspectiveCamera) {
    const march = this.marching.uniforms;
    march.eye.value.setFromMatrixPosition(camera.matrixWorld);
    march.toWorld.value.copy(camera.matrixWorld).multiply(camera.projectionMatrixInverse);
    const { eye, toWorld, span } = this.composing.uniforms;
    eye.value.copy(march.eye.value);
    toWorld.value.copy(march.toWorld.value);
    span.value.set(camera.near, camera.far);
    this.skyline.uniforms.wide.value = (2 * Math.tan((camera.fov * Math.PI) / 360)) / this.props.height;
  }

  private size(scale: number, full: number[]) {
    const { props, lightTarget, volumeTarget } = this;
    const width = Math.max(8, Math.round(full[0] * scale));
    const height = Math.max(8, Math.round(full[1] * scale));
    if (volumeTarget.width !== width || volumeTarget.height !== height) volumeTarget.setSize(width, height);
    this.composing.uniforms.small.value.set(width, height);
    if (lightTarget.width !== props.width || lightTarget.height !== props.height) {
      lightTarget.setSize(props.width, props.height);
      this.halo.setSize(props.width, props.height);
    }
  }

  private clear(renderer: THREE.WebGLRenderer, target: THREE.WebGLRenderTarget) {
    renderer.setRenderTarget(target);
    const alpha = renderer.getClearAlpha();
    const colour = renderer.getClearColor(new THREE.Color());
    renderer.setClearColor(0x000000, 0);
    renderer.clear();
    renderer.setClearColor(colour, alpha);
  }

  /** Whether the machine keeps up with all that a picture has while things move. */
  get quick() {
    return this.level < 2;
  }

  /** The size of the whole picture while things move, as a part of the full one. */
  get pictureScale() {
    return PICTURES[this.level];
  }

  /** Smoke, props and what stands behind them, in light. */
  private compose(renderer: THREE.WebGLRenderer, hasty: boolean) {
    this.skyline.draw(renderer, this.sky.uniforms.sky.value, (material) => this.pass(renderer, material));
    this.composing.uniforms.hasty.value = hasty;
    renderer.setRenderTarget(this.lightTarget);
    this.pass(renderer, this.composing);
  }

  /** What the lens spreads. @return whether it spreads anything */
  private bloom(renderer: THREE.WebGLRenderer): boolean {
    if (!(this.developing.uniforms.film.value[6] > 0)) return false;
    this.halo.draw(renderer, this.lightTarget.texture, (material) => this.pass(renderer, material));
    return true;
  }

  /** Brings the light to the canvas, which has the full size always: another one would wait for all that is drawn. */
  private develop(renderer: THREE.WebGLRenderer, full: number[], hasty: boolean, blooms: boolean) {
    const { film, bloom, hasty: quickly } = this.developing.uniforms;
    quickly.value = hasty;
    bloom.value = blooms ? film.value[6] : 0;
    const { width, height } = this.props;
    const canvas = renderer.domElement;
    if (canvas.width !== full[0] || canvas.height !== full[1])
      renderer.setDrawingBufferSize(full[0], full[1], 1);
    const smaller = width < full[0];
    if (smaller && (this.shownTarget.width !== width || this.shownTarget.height !== height))
      this.shownTarget.setSize(width, height);
    renderer.setRenderTarget(smaller ? this.shownTarget : null);
    renderer.clear();
    this.pass(renderer, this.developing);
    if (!smaller) return;
    renderer.setRenderTarget(null);
    renderer.clear();
    this.pass(renderer, this.enlarging);
  }

  dispose() {
    for (const thing of [
      this.uploads,
      ...Object.values(this.nothing),
      this.seen,
      this.marching,
      this.composing,
      this.developing,
      this.enlarging,
      this.shownTarget,
      this.lightTarget,
      this.halo,
      this.sky,
      this.skyline,
      this.plate,
      this.volumeTarget,
      this.quad.geometry,
    ])
      thing.dispose();
  }

  private pass(renderer: THREE.WebGLRenderer, material: THREE.ShaderMaterial) {
    this.quad.material = material;
    renderer.render(this.screen, this.lens);
  }
}
