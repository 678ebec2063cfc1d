import * as THREE from "three";
import type { Scene as Rig } from "../api/types";
import { Bands, within } from "./bands";
import { Corner } from "./corner";
import { Halo } from "./halo";
import type { PropLight } from "./propLight";
import { lightTarget, pass, screenMaterial, vary } from "./screen";
import { compose, develop, enlarge, SHADE_APART, shading } from "./shaders/finish";
import { KEPT, type Standing } from "./standing";

/** Into so many bands a picture at full resolution is divided at most. */
const BANDS = 16;
/** Where the film's numbers tell how much light the lens spreads. */
const BLOOM = 6;

/** Lights what stands still, lays the smoke over it, and brings both to the canvas. */
export class Composer {
  private light = lightTarget();
  /** A smaller picture as the screen shows it. */
  private shown = new THREE.WebGLRenderTarget(4, 4, { depthBuffer: false, magFilter: THREE.LinearFilter });
  private halo = new Halo();
  /** The smoke's shadow at some places. */
  private shade = new THREE.WebGLRenderTarget(4, 4, { type: THREE.HalfFloatType, depthBuffer: false });
  private film = { value: [1, 1, 1, 0, 1, 0, 0, 0] };
  private composing: THREE.ShaderMaterial;
  /** The same where smoke is as fine as the picture. */
  private finely: THREE.ShaderMaterial;
  /** The same straight to the screen, where the lens spreads nothing, and that as quickly as can be. */
  private showing: THREE.ShaderMaterial;
  private hurrying: THREE.ShaderMaterial;
  /** Which shader that is, once it has been drawn with: where the processor draws, it is built then. */
  private warm = -1;
  private shading: THREE.ShaderMaterial;
  private developing: THREE.ShaderMaterial;
  private enlarging: THREE.ShaderMaterial;
  private bands = new Bands(BANDS);
  private corner = new Corner();

  /** @param light what lights the props; @param smoke what the smoke is drawn in */
  constructor(
    light: PropLight,
    private smoke: THREE.WebGLRenderTarget,
  ) {
    const uniforms = {
      still: { value: null },
      sunned: { value: null },
      albedo: { value: null },
      shape: { value: null },
      depths: { value: null },
      sights: { value: null },
      volume: { value: smoke.texture },
      small: { value: new THREE.Vector2(1, 1) },
      toWorld: { value: new THREE.Matrix4() },
      eye: { value: new THREE.Vector3() },
      span: { value: new THREE.Vector2() },
      film: this.film,
      shade: { value: this.shade.texture },
      ...light.uniforms,
    };
    this.composing = screenMaterial(compose(false), uniforms);
    this.finely = screenMaterial(compose(false), uniforms);
    vary(this.finely, "WHOLE", true);
    this.shading = screenMaterial(shading, uniforms);
    this.showing = screenMaterial(compose(true), uniforms);
    this.hurrying = screenMaterial(compose(true), uniforms);
    vary(this.hurrying, "HASTY", true);
    const [halo0, halo1, halo2] = this.halo.spread.map(({ texture }) => ({ value: texture }));
    this.developing = screenMaterial(develop, {
      light: { value: this.light.texture },
      halo0,
      halo1,
      halo2,
      film: this.film,
      bloom: { value: 0 },
    });
    this.enlarging = screenMaterial(enlarge, { shown: { value: this.shown.texture } });
  }

  setRig(rig: Rig) {
    this.film.value = rig.film;
  }

  /** @param full the canvas's size; @param quick with all that the lens does; @param hasty as quickly as can be
   * @param corner whether a corner of the canvas will do for what is hasty */
  draw(
    renderer: THREE.WebGLRenderer,
    camera: THREE.PerspectiveCamera,
    full: number[],
    standing: Standing,
    { quick, hasty }: { quick: boolean; hasty: boolean },
    corner: boolean,
  ) {
    this.look(camera, standing);
    this.corner.take(corner && hasty);
    if (!quick) return this.show(renderer, standing.target, full, hasty ? this.hurrying : this.showing);
    this.compose(renderer);
    this.develop(renderer, full, this.bloom(renderer));
  }

  /** The same a band at a time; the picture is on the canvas once all is done. */
  *refine(
    renderer: THREE.WebGLRenderer,
    camera: THREE.PerspectiveCamera,
    full: number[],
    standing: Standing,
  ): Generator<void> {
    this.look(camera, standing);
    this.corner.take(false);
    yield* this.lookAtShade(renderer);
    yield* this.bands.over(this.light.height, (from, to) =>
      within(this.light, from, to, () => this.compose(renderer, this.finely)),
    );
    const blooms = this.bloom(renderer);
    if (blooms) yield;
    if (this.warm !== this.hurrying.version) {
      // So that the first picture in a hurry does not wait for its shader.
      this.warm = this.hurrying.version;
      renderer.setRenderTarget(this.shown);
      pass(renderer, this.hurrying);
      yield;
    }
    this.develop(renderer, full, blooms);
  }

  /** Looks at some places for how much smoke shades them, if there is any. */
  private *lookAtShade(renderer: THREE.WebGLRenderer): Generator<void> {
    const { shade, light } = this;
    if (!(this.composing.uniforms.smoke.value > 0)) return;
    const [width, height] = [light.width, light.height].map((count) => Math.ceil(count / SHADE_APART));
    if (shade.width !== width || shade.height !== height) shade.setSize(width, height);
    renderer.setRenderTarget(shade);
    pass(renderer, this.shading);
    yield;
  }

  private look(camera: THREE.PerspectiveCamera, { target, sight }: Standing) {
    const { width, height } = target;
    const uniforms = this.composing.uniforms;
    uniforms.eye.value.setFromMatrixPosition(camera.matrixWorld);
    uniforms.toWorld.value.copy(camera.matrixWorld).multiply(camera.projectionMatrixInverse);
    uniforms.span.value.set(camera.near, camera.far);
    uniforms.small.value.set(this.smoke.width, this.smoke.height);
    uniforms.depths.value = target.depthTexture;
    uniforms.sights.value = sight;
    const burns = uniforms.fireFrom.value < uniforms.lampCount.value;
    for (const material of [this.composing, this.finely, this.showing, this.hurrying])
      vary(material, "FIRE", burns);
    KEPT.forEach((name, n) => (uniforms[name].value = target.textures[n]));
    if (this.light.width === width && this.light.height === height) return;
    this.light.setSize(width, height);
    this.halo.setSize(width, height);
  }

  private compose(renderer: THREE.WebGLRenderer, material = this.composing) {
    renderer.setRenderTarget(this.light);
    pass(renderer, material);
  }

  /** What the lens spreads. @return whether it spreads anything */
  private bloom(renderer: THREE.WebGLRenderer): boolean {
    if (!(this.film.value[BLOOM] > 0)) return false;
    this.halo.draw(renderer, this.light.texture);
    return true;
  }

  private develop(renderer: THREE.WebGLRenderer, full: number[], blooms: boolean) {
    this.developing.uniforms.bloom.value = blooms ? this.film.value[BLOOM] : 0;
    this.show(renderer, this.light, full, this.developing);
  }

  /** Brings a picture to the canvas, which has the full size always: another one would wait for all that is drawn. */
  private show(
    renderer: THREE.WebGLRenderer,
    { width, height }: { width: number; height: number },
    full: number[],
    material: THREE.ShaderMaterial,
  ) {
    const canvas = renderer.domElement;
    if (canvas.width !== full[0] || canvas.height !== full[1])
      renderer.setDrawingBufferSize(full[0], full[1], 1);
    this.corner.show(renderer, full);
    const smaller = width < full[0];
    if (smaller && (this.shown.width !== width || this.shown.height !== height))
      this.shown.setSize(width, height);
    renderer.setRenderTarget(smaller ? this.shown : null);
    renderer.clear();
    pass(renderer, material);
    if (!smaller) return;
    renderer.setRenderTarget(null);
    renderer.clear();
    pass(renderer, this.enlarging);
  }

  dispose() {
    const targets = [this.light, this.shown, this.halo, this.shade];
    const straight = [this.showing, this.hurrying, this.developing, this.enlarging];
    for (const thing of [...targets, ...straight, this.shading, this.composing, this.finely]) thing.dispose();
  }
}
