import * as THREE from "three";
import { fullScreen } from "./shaders/march";
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
  private target = new THREE.WebGLRenderTarget(COLUMNS, 3, {
    type: THREE.HalfFloatType,
    wrapS: THREE.RepeatWrapping,
    minFilter: THREE.LinearFilter,
    magFilter: THREE.LinearFilter,
    depthBuffer: false,
  });
  private material = new THREE.ShaderMaterial({
    glslVersion: THREE.GLSL3,
    vertexShader: fullScreen,
    fragmentShader: skyline(unevenness),
    depthTest: false,
    depthWrite: false,
    uniforms: { which: { value: 0 }, columns: { value: COLUMNS } },
  });
  private drawn: number | null = null;
  readonly uniforms = { crests: { value: this.target.texture }, wide: { value: 0.001 } };

  /** Draws them where these are not the ones that are there. @param sky its numbers */
  draw(renderer: THREE.WebGLRenderer, sky: number[], pass: (material: THREE.ShaderMaterial) => void) {
    if (!(sky[HIGH] > 0) || this.drawn === sky[WHICH]) return;
    this.drawn = sky[WHICH];
    this.material.uniforms.which.value = this.drawn;
    renderer.setRenderTarget(this.target);
    pass(this.material);
  }

  dispose() {
    this.target.dispose();
    this.material.dispose();
  }
}
