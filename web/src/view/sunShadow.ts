import * as THREE from "three";
import type { Casters } from "./casters";

const EDGE = 1024;

/** What a sun sees of the props, so that they shade what lies behind them. */
export class SunShadow {
  readonly target = new THREE.WebGLRenderTarget(EDGE, EDGE, {
    depthTexture: new THREE.DepthTexture(EDGE, EDGE),
  });
  readonly matrix = new THREE.Matrix4();
  /** How wide one of its pixels is, metres. */
  texel = 0;
  private camera = new THREE.OrthographicCamera();
  private plain = new THREE.MeshBasicMaterial({ colorWrite: false, side: THREE.DoubleSide });

  /** @param sun the way to it
   * @return whether there is anything that throws one */
  draw(renderer: THREE.WebGLRenderer, scene: THREE.Scene, casters: Casters, sun: THREE.Vector3): boolean {
    const { ball } = casters;
    if (!ball || sun.y <= 0) return false;
    const { radius } = ball;
    this.texel = (2 * radius) / EDGE;
    this.camera.position.copy(ball.center).addScaledVector(sun, 2 * radius);
    this.camera.up.set(0, Math.abs(sun.y) > 0.99 ? 0 : 1, Math.abs(sun.y) > 0.99 ? 1 : 0);
    this.camera.lookAt(ball.center);
    const sides = { left: -radius, right: radius, top: radius, bottom: -radius };
    Object.assign(this.camera, { ...sides, near: 0, far: 20 * radius });
    this.camera.updateProjectionMatrix();
    this.camera.updateMatrixWorld();
    this.matrix.copy(this.camera.projectionMatrix).multiply(this.camera.matrixWorldInverse);
    casters.alone(scene, this.plain, () => {
      renderer.setRenderTarget(this.target);
      renderer.clear();
      renderer.render(scene, this.camera);
    });
    return true;
  }

  dispose() {
    this.target.dispose();
    this.plain.dispose();
  }
}
