import * as THREE from "three";
import { pass, screenMaterial } from "./screen";
import { copy, sought, TILE } from "./shaders/tiles";

const lens = new THREE.OrthographicCamera();

/** A picture that is drawn again, finer, in tiles: where next to nothing is seen, and evenly, what was seen at fewer
 * places will do, and no pixel of the tile is asked. */
export class Tiles {
  /** Which of them have anything that differs. */
  private has = new THREE.WebGLRenderTarget(4, 4, { format: THREE.RedFormat, depthBuffer: false });
  private uniforms = {
    before: { value: null as THREE.Texture | null },
    bright: { value: 1 },
    whole: { value: new THREE.Vector2() },
  };
  private seeking = screenMaterial(sought, this.uniforms);
  private copying = screenMaterial(copy, this.uniforms);
  private geometry = new THREE.BufferGeometry();
  private points = new THREE.Points<THREE.BufferGeometry, THREE.Material>(this.geometry);
  private scene = new THREE.Scene();
  /** For the shader that draws them: the size of the picture, and where they are. */
  readonly own = { whole: this.uniforms.whole, tiles: { value: this.has.texture } };

  constructor() {
    this.points.frustumCulled = false;
    this.scene.add(this.points);
  }

  /** Finds what there is to be drawn, and fills the picture with what was seen at fewer places.
   * @param before that; @param bright what the film makes of light */
  find(
    renderer: THREE.WebGLRenderer,
    target: THREE.WebGLRenderTarget,
    before: THREE.Texture,
    bright: number,
  ) {
    const { has, uniforms } = this;
    const [across, down] = [target.width, target.height].map((count) => Math.ceil(count / TILE));
    if (has.width !== across || has.height !== down) has.setSize(across, down);
    uniforms.before.value = before;
    uniforms.bright.value = bright;
    uniforms.whole.value.set(target.width, target.height);
    renderer.setRenderTarget(has);
    pass(renderer, this.seeking);
    renderer.setRenderTarget(target);
    pass(renderer, this.copying);
  }

  /** Draws the tiles that touch some rows of the target that is set. @param from the first row, `to` after the last */
  draw(renderer: THREE.WebGLRenderer, material: THREE.Material, from: number, to: number) {
    const across = this.has.width;
    const first = Math.floor(from / TILE);
    const last = Math.min(Math.ceil(to / TILE), this.has.height);
    this.geometry.setDrawRange(first * across, (last - first) * across);
    this.points.material = material;
    renderer.render(this.scene, lens);
  }

  dispose() {
    for (const thing of [this.has, this.seeking, this.copying, this.geometry]) thing.dispose();
  }
}
