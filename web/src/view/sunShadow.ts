import * as THREE from "three";

const EDGE = 1024;
/** What is larger than this throws no shadow that matters: it is the ground. */
const LARGEST = 100;

/** What the first sun sees of the props, so that they shade what lies behind them. */
export class SunShadow {
  readonly target = new THREE.WebGLRenderTarget(EDGE, EDGE, {
    depthTexture: new THREE.DepthTexture(EDGE, EDGE),
  });
  readonly matrix = new THREE.Matrix4();
  /** How wide one of its pixels is, metres. */
  texel = 0;
  private camera = new THREE.OrthographicCamera();
  private plain = new THREE.MeshBasicMaterial({ colorWrite: false, side: THREE.DoubleSide });

  /** @return whether there is anything that throws one */
  draw(renderer: THREE.WebGLRenderer, scene: THREE.Scene, group: THREE.Group, sun: THREE.Vector3): boolean {
    const box = new THREE.Box3();
    const hidden: THREE.Object3D[] = [];
    for (const mesh of group.children as THREE.Mesh[]) {
      if (!mesh.visible) continue;
      if (mesh.userData.lets) {
        hidden.push(mesh);
        continue;
      }
      const one = new THREE.Box3().setFromObject(mesh);
      if (one.isEmpty() || one.getSize(new THREE.Vector3()).length() > LARGEST) hidden.push(mesh);
      else box.union(one);
    }
    if (box.isEmpty() || sun.y <= 0) return false;
    const ball = box.getBoundingSphere(new THREE.Sphere());
    this.texel = (2 * ball.radius) / EDGE;
    this.camera.position.copy(ball.center).addScaledVector(sun, 2 * ball.radius);
    this.camera.up.set(0, Math.abs(sun.y) > 0.99 ? 0 : 1, Math.abs(sun.y) > 0.99 ? 1 : 0);
    this.camera.lookAt(ball.center);
    Object.assign(this.camera, {
      left: -ball.radius,
      right: ball.radius,
      top: ball.radius,
      bottom: -ball.radius,
      near: 0,
      far: 20 * ball.radius,
    });
    this.camera.updateProjectionMatrix();
    this.camera.updateMatrixWorld();
    this.matrix.copy(this.camera.projectionMatrix).multiply(this.camera.matrixWorldInverse);
    for (const mesh of hidden) mesh.visible = false;
    scene.overrideMaterial = this.plain;
    renderer.setRenderTarget(this.target);
    renderer.clear();
    renderer.render(scene, this.camera);
    scene.overrideMaterial = null;
    for (const mesh of hidden) mesh.visible = true;
    return true;
  }

  dispose() {
    this.target.dispose();
    this.plain.dispose();
  }
}
