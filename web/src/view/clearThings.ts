import * as THREE from "three";
import { pass, screenMaterial } from "./screen";
import { copied, exitFragment, exitVertex, reachFragment, reachVertex, sightFragment } from "./shaders/clear";
import { KEPT, Standing } from "./standing";

/** Through so many of them, one behind the other, one sees. */
const DEEP = 3;

/** What each of them has of its own. */
const OWN = ["clear", "dyes", "deep", "takes"];

/** What draws its clear things alone where it is asked to. */
interface Things {
  scene: THREE.Scene;
  part(clear: boolean, draw: () => void): void;
}

const exitTarget = () =>
  new THREE.WebGLRenderTarget(4, 4, {
    type: THREE.HalfFloatType,
    depthTexture: new THREE.DepthTexture(4, 4),
  });

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
    /** Depths up to which they are passed over. */
    passed: { value: null as THREE.Texture | null },
    passing: { value: 0 },
  };
  /** What lies behind, with more and more of them before it, in turn; where one looks out of each again. */
  private behind = [new Standing(), new Standing()];
  private exits = Array.from({ length: DEEP }, exitTarget);
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
    uniforms: { passed: this.uniforms.passed, passing: this.uniforms.passing },
    side: THREE.BackSide,
  });

  private reach = exitTarget();
  private reaching = new THREE.ShaderMaterial({
    glslVersion: THREE.GLSL3,
    vertexShader: reachVertex,
    fragmentShader: reachFragment,
    uniforms: Object.fromEntries(OWN.map((name) => [name, { value: null }])),
  });
  private seeing = screenMaterial(sightFragment, {
    depths: { value: null },
    reach: { value: null },
    span: this.uniforms.span,
  });

  constructor() {
    for (const material of [this.copying, this.seeing]) {
      material.depthWrite = material.depthTest = true;
      material.depthFunc = THREE.AlwaysDepth;
    }
  }

  /** What to draw them into, the picture itself last: those that are seen through others come first. Keeps where one
   * looks out of them again. @param deep so many, one behind the other */
  *layers(
    renderer: THREE.WebGLRenderer,
    things: Things,
    camera: THREE.PerspectiveCamera,
    standing: Standing,
    deep = DEEP,
  ): Generator<THREE.WebGLRenderTarget> {
    const { behind, uniforms } = this;
    const exits = this.exits.slice(0, deep);
    const { target } = standing;
    for (const size of [...behind.slice(0, deep - 1), ...exits]) size.setSize(target.width, target.height);
    uniforms.toClip.value.copy(camera.projectionMatrix).multiply(camera.matrixWorldInverse);
    uniforms.span.value.set(camera.near, camera.far);
    exits.forEach((each, n) => {
      this.pass(exits[n - 1]);
      this.leave(renderer, things, camera, each);
    });
    this.sight(renderer, things, camera, standing);
    let from = standing.bare;
    for (let n = deep - 1; n >= 0; n--) {
      const to = n ? behind[n % 2] : standing;
      this.copy(renderer, from.target, to.target);
      this.pass(exits[n - 1]);
      this.see(from, exits[n]);
      yield to.target;
      from = to;
    }
  }

  private copy(
    renderer: THREE.WebGLRenderer,
    target: THREE.WebGLRenderTarget,
    into: THREE.WebGLRenderTarget,
  ) {
    const { uniforms } = this.copying;
    KEPT.forEach((name, n) => (uniforms[name].value = target.textures[n]));
    uniforms.depths.value = target.depthTexture;
    renderer.setRenderTarget(into);
    pass(renderer, this.copying);
  }

  /** Passes over what lies before one looks out of these, or over nothing. */
  private pass(exits?: THREE.WebGLRenderTarget) {
    this.uniforms.passed.value = exits?.depthTexture ?? null;
    this.uniforms.passing.value = exits ? 1 : 0;
  }

  private leave(
    renderer: THREE.WebGLRenderer,
    things: Things,
    camera: THREE.PerspectiveCamera,
    exits: THREE.WebGLRenderTarget,
  ) {
    renderer.setRenderTarget(exits);
    renderer.clear();
    this.drawAs(this.exiting, renderer, things, camera);
  }

  /** How far smoke is seen in them. */
  private sight(
    renderer: THREE.WebGLRenderer,
    things: Things,
    camera: THREE.PerspectiveCamera,
    standing: Standing,
  ) {
    const { through, bare } = standing;
    const { target } = bare;
    const { depths, reach } = this.seeing.uniforms;
    for (const size of [this.reach, through]) size.setSize(target.width, target.height);
    renderer.setRenderTarget(this.reach);
    renderer.clear();
    this.drawAs(this.reaching, renderer, things, camera);
    depths.value = target.depthTexture;
    reach.value = this.reach.texture;
    renderer.setRenderTarget(through);
    pass(renderer, this.seeing);
    standing.clear = true;
  }

  private drawAs(
    material: THREE.Material,
    renderer: THREE.WebGLRenderer,
    things: Things,
    camera: THREE.PerspectiveCamera,
  ) {
    const { scene } = things;
    scene.overrideMaterial = material;
    things.part(true, () => renderer.render(scene, camera));
    scene.overrideMaterial = null;
  }

  /** Has them look at what was kept. */
  private see({ target }: Standing, exits: THREE.WebGLRenderTarget) {
    const { uniforms } = this;
    KEPT.forEach((name, n) => (uniforms[`${name}Behind`].value = target.textures[n]));
    uniforms.depthsBehind.value = target.depthTexture;
    uniforms.exits.value = exits.texture;
    uniforms.exitDepths.value = exits.depthTexture;
  }

  /** Draws one of them with its own numbers where all are drawn alike. */
  readonly worn = (mesh: THREE.Mesh<THREE.BufferGeometry, THREE.ShaderMaterial>, as: THREE.Material) => {
    if (as !== this.reaching) return;
    for (const name of OWN) this.reaching.uniforms[name].value = mesh.material.uniforms[name].value;
    this.reaching.uniformsNeedUpdate = true;
  };

  dispose() {
    const { behind, exits, reach, copying, exiting, reaching, seeing } = this;
    for (const thing of [...behind, ...exits, reach, copying, exiting, reaching, seeing]) thing.dispose();
  }
}
