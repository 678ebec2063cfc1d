import * as THREE from "three";

/** Shows one mesh from all sides. */
export class Turntable {
  private renderer: THREE.WebGLRenderer;
  private scene = new THREE.Scene();
  private camera = new THREE.PerspectiveCamera(30, 1, 0.01, 100);
  private body = new THREE.Mesh(
    new THREE.BufferGeometry(),
    new THREE.MeshStandardMaterial({ color: 0xb9ae9a, roughness: 0.85, side: THREE.DoubleSide }),
  );
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
    this.scene.add(key, new THREE.HemisphereLight(0xaec4d6, 0x3a3026, 1.1), this.body);
  }

  /** @param corners three numbers for a place and three for its normal, three corners a triangle */
  show(corners: Float32Array) {
    const rows = new THREE.InterleavedBuffer(corners, 6);
    const { geometry } = this.body;
    geometry.setAttribute("position", new THREE.InterleavedBufferAttribute(rows, 3, 0));
    geometry.setAttribute("normal", new THREE.InterleavedBufferAttribute(rows, 3, 3));
    geometry.computeBoundingSphere();
    const { center, radius } = geometry.boundingSphere!;
    geometry.translate(-center.x, -center.y, -center.z);
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
    this.body.rotation.y = 0.6 + now / 2400;
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
