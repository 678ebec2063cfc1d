import * as THREE from "three";
import { layCorners } from "./corners";

/** Shows one mesh from all sides. */
export class Turntable {
  private renderer: THREE.WebGLRenderer;
  private scene = new THREE.Scene();
  private camera = new THREE.PerspectiveCamera(30, 1, 0.01, 100);
  private body = new THREE.Mesh(
    new THREE.BufferGeometry(),
    new THREE.MeshStandardMaterial({ color: 0xb9ae9a, roughness: 0.85, side: THREE.DoubleSide }),
  );
  private table = new THREE.Group();
  private alive = true;

  /** @param turning whether it goes round by itself */
  constructor(
    canvas: HTMLCanvasElement,
    private turning: boolean,
  ) {
    this.renderer = new THREE.WebGLRenderer({ canvas, antialias: true, alpha: true });
    this.renderer.setSize(canvas.clientWidth, canvas.clientHeight, false);
    this.camera.aspect = canvas.clientWidth / Math.max(canvas.clientHeight, 1);
    this.camera.updateProjectionMatrix();
    const key = new THREE.DirectionalLight(0xfff2e0, 2.6);
    key.position.set(2, 3, 2);
    this.scene.add(key, new THREE.HemisphereLight(0xaec4d6, 0x3a3026, 1.1), this.table);
  }

  /** @param corners as the server gives them, three corners a triangle
   * @param person whether one of 1.75 m stands beside it */
  show(corners: Float32Array, person = false) {
    const { geometry } = this.body;
    layCorners(geometry, corners);
    geometry.computeBoundingBox();
    const box = geometry.boundingBox!;
    this.table.add(this.body);
    if (person) {
      const figure = new THREE.Mesh(
        new THREE.CapsuleGeometry(0.2, 1.02, 6, 16).translate(0, 0.71, 0),
        new THREE.MeshStandardMaterial({ color: 0x6f9fb4, roughness: 0.9 }),
      );
      const head = new THREE.Mesh(
        new THREE.SphereGeometry(0.13, 20, 14).translate(0, 1.62, 0),
        figure.material,
      );
      figure.add(head);
      figure.position.set(box.max.x + 0.45, box.min.y, (box.min.z + box.max.z) / 2);
      this.table.add(figure);
    }
    const all = new THREE.Box3().setFromObject(this.table).getBoundingSphere(new THREE.Sphere());
    const { center, radius } = all;
    this.table.children.forEach((thing) => thing.position.sub(center));
    const far = radius / Math.sin((this.camera.fov * Math.PI) / 360);
    this.camera.position.set(0, 0.35 * far, 0.98 * far);
    this.camera.near = 0.05 * far;
    this.camera.far = 4 * far;
    this.camera.updateProjectionMatrix();
    this.camera.lookAt(0, 0, 0);
    this.draw(0);
  }

  private draw = (now: number) => {
    if (!this.alive) return;
    this.table.rotation.y = 0.6 + now / 2400;
    this.renderer.render(this.scene, this.camera);
    if (this.turning) requestAnimationFrame(this.draw);
  };

  dispose() {
    this.alive = false;
    this.body.geometry.dispose();
    this.body.material.dispose();
    this.renderer.dispose();
  }
}
