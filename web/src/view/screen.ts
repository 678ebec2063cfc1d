import * as THREE from "three";
import { fullScreen } from "./shaders/march";

type Uniforms = Record<string, THREE.IUniform>;

/** What fills the whole of a target. */
export const screenMaterial = (fragmentShader: string, uniforms: Uniforms, vertexShader = fullScreen) =>
  new THREE.ShaderMaterial({
    glslVersion: THREE.GLSL3,
    vertexShader,
    fragmentShader,
    depthTest: false,
    depthWrite: false,
    uniforms,
  });

/** Whether a material's shader has a part that is written within `#ifdef`: a processor that draws goes through all of a
 * shader, whatever of it a pixel has no use for. */
export function vary(material: THREE.ShaderMaterial, part: string, has: boolean) {
  if (part in material.defines === has) return;
  if (has) material.defines[part] = 1;
  else delete material.defines[part];
  material.needsUpdate = true;
}

/** A target of light that others read from. */
export const lightTarget = (options: THREE.RenderTargetOptions = {}) =>
  new THREE.WebGLRenderTarget(4, 4, {
    type: THREE.HalfFloatType,
    depthBuffer: false,
    magFilter: THREE.LinearFilter,
    ...options,
  });

const scene = new THREE.Scene();
const lens = new THREE.OrthographicCamera();
const quad = new THREE.Mesh<THREE.PlaneGeometry, THREE.Material>(new THREE.PlaneGeometry(2, 2));
quad.frustumCulled = false;
scene.add(quad);

/** Draws the whole of the target that is set with a material. */
export function pass(renderer: THREE.WebGLRenderer, material: THREE.Material) {
  quad.material = material;
  renderer.render(scene, lens);
}
