import * as THREE from "three";
import { pass, screenMaterial } from "./screen";
import { copied, exitFragment, exitVertex } from "./shaders/clear";
import { Standing } from "./standing";

/** What one sees through, laid over all that stands behind it: glass, water in a bowl. */
export class ClearThings {
  /** What their materials look at. */
  readonly uniforms = {
    stillBehind: { value: null as THREE.Texture | null },
    sunnedBehind: { value: null as THREE.Texture | null },
    albedoBehind: { value: null as THREE.Texture | null },
    shapeBehind: { value: null as THREE.Texture | null },
    depthsBehind: { value: null as THREE.Texture | null },
    exits: { value: null as THREE.Texture | null },
    exitDepths: { value: null as THREE.Texture | null },
    toClip: { value: new THREE.Matrix4() },
    span: { value: new THREE.Vector2() },
  };
  private behind = new Standing();
  private exits = new THREE.WebGLRenderTarget(4, 4, {
    type: THREE.HalfFloatType,
    depthTexture: new THREE.DepthTexture(4, 4),
  });
  private copying = screenMaterial(copied, {
    still: { value: null },
    sunned: { value: null },
    albedo: { value: null },
    shape: { value: null },
    depths: { value: null },
  });
  private exiting = new THREE.ShaderMaterial({
    glslVersion: THREE.GLSL3,
    vertexShader: exitVertex,
    fragmentShader: exitFragment,
    side: THREE.BackSide,
  });

  constructor() {
    this.copying.depthWrite = this.copying.depthTest = true;
    this.copying.depthFunc = THREE.AlwaysDepth;
  }

  /** Keeps what was drawn without them, and where one looks out of them again. */
  prepare(
    renderer: THREE.WebGLRenderer,
    scene: THREE.Scene,
    camera: THREE.PerspectiveCamera,
    { target }: Standing,
  ) {
    const { behind, exits, uniforms } = this;
    behind.setSize(target.width, target.height);
    if (exits.width !== target.width || exits.height !== target.height)
      exits.setSize(target.width, target.height);
    ["still", "sunned", "albedo", "shape"].forEach((name, n) => {
      this.copying.uniforms[name].value = target.textures[n];
      uniforms[`${name}Behind` as "stillBehind"].value = behind.target.textures[n];
    });
    this.copying.uniforms.depths.value = target.depthTexture;
    uniforms.depthsBehind.value = behind.target.depthTexture;
    uniforms.exits.value = exits.texture;
    uniforms.exitDepths.value = exits.depthTexture;
    uniforms.toClip.value.copy(camera.projectionMatrix).multiply(camera.matrixWorldInverse);
    uniforms.span.value.set(camera.near, camera.far);
    renderer.setRenderTarget(behind.target);
    pass(renderer, this.copying);
    renderer.setRenderTarget(exits);
    renderer.clear();
    scene.overrideMaterial = this.exiting;
    renderer.render(scene, camera);
    scene.overrideMaterial = null;
  }

  dispose() {
    for (const thing of [this.behind, this.exits, this.copying, this.exiting]) thing.dispose();
  }
}
