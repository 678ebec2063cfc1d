import * as THREE from "three";
import { lightTarget, pass, screenMaterial } from "./screen";
import { unevenness } from "./shaders/light";
import { skyline } from "./shaders/place";

/** So many ways are told apart all around. */
const COLUMNS = 4096;
/** Where the sky's numbers tell how high the hills stand, and which they are. */
const HIGH = 15;
const WHICH = 16;

/** The crests of far hills all around, nearest row first: worked out once for each skyline, not for each pixel of each
 * picture. */
export class Skyline {
  private target = lightTarget({ wrapS: THREE.RepeatWrapping });
  private material = screenMaterial(skyline(unevenness), {
    which: { value: 0 },
    columns: { value: COLUMNS },
  });
  private drawn: number | null = null;
  readonly uniforms = { crests: { value: this.target.texture }, wide: { value: 0.001 } };

  constructor() {
    this.target.setSize(COLUMNS, 3);
  }

  /** Draws them where these are not the ones that are there. @param sky its numbers */
  draw(renderer: THREE.WebGLRenderer, sky: number[]) {
    if (!(sky[HIGH] > 0) || this.drawn === sky[WHICH]) return;
    this.drawn = sky[WHICH];
    this.material.uniforms.which.value = this.drawn;
    renderer.setRenderTarget(this.target);
    pass(renderer, this.material);
  }

  dispose() {
    this.target.dispose();
    this.material.dispose();
  }
}
