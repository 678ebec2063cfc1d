import * as THREE from "three";
import type { Scene as Rig } from "../api/types";
import { tints } from "../theme";
import * as shaders from "./shaders";
import type { Channel, Volume } from "./volumes";

const SCALES = [1, 0.75, 0.5, 0.35, 0.25];

function texture3d(format: THREE.PixelFormat): THREE.Data3DTexture {
  const texture = new THREE.Data3DTexture(new Uint8Array(format === THREE.RedFormat ? 1 : 4), 1, 1, 1);
  texture.format = format;
  texture.minFilter = texture.magFilter = THREE.LinearFilter;
  texture.unpackAlignment = 1;
  texture.needsUpdate = true;
  return texture;
}

/** Draws the smoke, at a resolution of its own, and puts the whole picture together. */
export class Marcher {
  private screen = new THREE.Scene();
  private lens = new THREE.OrthographicCamera();
  private quad = new THREE.Mesh(new THREE.PlaneGeometry(2, 2));
  private lit = texture3d(THREE.RGBAFormat);
  private hot = texture3d(THREE.RGBAFormat);
  private seen = texture3d(THREE.RedFormat);
  private marching: THREE.ShaderMaterial;
  private finishing: THREE.ShaderMaterial;
  private volumeTarget = new THREE.WebGLRenderTarget(4, 4, {
    type: THREE.HalfFloatType,
    depthBuffer: false,
    magFilter: THREE.LinearFilter,
  });
  private level = 0;
  private empty = true;

  constructor(private props: THREE.WebGLRenderTarget) {
    this.quad.frustumCulled = false;
    this.screen.add(this.quad);
    const heat = new THREE.Color(tints.heat).convertSRGBToLinear();
    this.marching = new THREE.ShaderMaterial({
      glslVersion: THREE.GLSL3,
      vertexShader: shaders.fullScreen,
      fragmentShader: shaders.march,
      depthTest: false,
      depthWrite: false,
      uniforms: {
        lit: { value: this.lit },
        hot: { value: this.hot },
        seen: { value: this.seen },
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
      },
    });
    this.finishing = new THREE.ShaderMaterial({
      glslVersion: THREE.GLSL3,
      vertexShader: shaders.fullScreen,
      fragmentShader: shaders.finish,
      depthTest: false,
      depthWrite: false,
      uniforms: {
        props: { value: props.texture },
        volume: { value: this.volumeTarget.texture },
        depths: { value: props.depthTexture },
        toWorld: { value: new THREE.Matrix4() },
        eye: { value: new THREE.Vector3() },
        sky: { value: new Array(40).fill(0) },
        film: { value: [1, 1, 1, 0, 1, 0, 0, 0] },
      },
    });
  }

  /** How much of the full resolution the smoke is drawn at. */
  get scale() {
    return SCALES[this.level];
  }

  coarser() {
    this.level = Math.min(this.level + 1, SCALES.length - 1);
  }

  finer() {
    this.level = Math.max(this.level - 1, 0);
  }

  setRig(rig: Rig) {
    const march = this.marching.uniforms;
    march.thickness.value = rig.rig.thickness;
    march.albedo.value.fromArray(rig.rig.albedo);
    this.finishing.uniforms.sky.value = rig.sky;
    this.finishing.uniforms.film.value = rig.film;
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
    this.fill(this.seen, channel.data, x, y, z);
    march.seenLow.value.fromArray(channel.corner);
    march.seenHigh.value.set(x, y, z).multiplyScalar(channel.voxel).add(march.seenLow.value);
    const colour = new THREE.Color(tint).convertSRGBToLinear();
    march.seenTint.value.set(colour.r, colour.g, colour.b);
    march.seenZero.value = Math.min(Math.max(-channel.low / (channel.high - channel.low || 1), 0), 1);
  }

  setVolume(volume: Volume | null) {
    this.empty = !volume;
    if (!volume) return;
    const [x, y, z] = volume.size;
    for (const [texture, data] of [
      [this.lit, volume.lit],
      [this.hot, volume.hot],
    ] as const)
      this.fill(texture, data, x, y, z);
    const march = this.marching.uniforms;
    march.low.value.fromArray(volume.corner);
    march.high.value.set(x, y, z).multiplyScalar(volume.voxel).add(march.low.value);
    march.voxel.value = volume.voxel;
    march.peaks.value.fromArray(volume.peaks);
  }

  private fill(texture: THREE.Data3DTexture, data: Uint8Array<ArrayBuffer>, x: number, y: number, z: number) {
    const image = texture.image;
    // Storage of another size must be made anew; the same is written over.
    if (image.width !== x || image.height !== y || image.depth !== z) texture.dispose();
    texture.image = { data, width: x, height: y, depth: z };
    texture.needsUpdate = true;
  }

  draw(renderer: THREE.WebGLRenderer, camera: THREE.PerspectiveCamera) {
    const width = Math.max(8, Math.round(this.props.width * this.scale));
    const height = Math.max(8, Math.round(this.props.height * this.scale));
    if (this.volumeTarget.width !== width || this.volumeTarget.height !== height)
      this.volumeTarget.setSize(width, height);
    const march = this.marching.uniforms;
    march.pace.value = this.level > 1 ? 1.3 : 0.8;
    march.eye.value.setFromMatrixPosition(camera.matrixWorld);
    march.toWorld.value.copy(camera.matrixWorld).multiply(camera.projectionMatrixInverse);
    this.finishing.uniforms.eye.value.copy(march.eye.value);
    this.finishing.uniforms.toWorld.value.copy(march.toWorld.value);
    renderer.setRenderTarget(this.volumeTarget);
    const before = renderer.getClearAlpha();
    renderer.setClearAlpha(0);
    const colour = renderer.getClearColor(new THREE.Color());
    renderer.setClearColor(0x000000, 0);
    renderer.clear();
    renderer.setClearColor(colour, before);
    if (!this.empty) this.pass(renderer, this.marching);
    renderer.setRenderTarget(null);
    renderer.clear();
    this.pass(renderer, this.finishing);
  }

  dispose() {
    for (const thing of [
      this.lit,
      this.hot,
      this.seen,
      this.marching,
      this.finishing,
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
