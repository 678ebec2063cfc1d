import * as THREE from "three";

/** What is larger than this throws no shadow that matters: it is the ground. */
const LARGEST = 100;

/** The props that throw shadows: where they are, and all the others to be left out. */
export class Casters {
  private hidden: THREE.Object3D[] = [];
  /** Around all of them; nothing where none throws any. */
  readonly ball: THREE.Sphere | null;

  constructor(group: THREE.Group) {
    const whole = new THREE.Box3();
    for (const mesh of group.children as THREE.Mesh[]) {
      if (!mesh.visible) continue;
      const box = mesh.userData.lets ? new THREE.Box3() : new THREE.Box3().setFromObject(mesh);
      if (box.isEmpty() || box.getSize(new THREE.Vector3()).length() > LARGEST) this.hidden.push(mesh);
      else whole.union(box);
    }
    this.ball = whole.isEmpty() ? null : whole.getBoundingSphere(new THREE.Sphere());
  }

  /** Draws them alone, as nothing but how far they are. */
  alone(scene: THREE.Scene, plain: THREE.Material, draw: () => void) {
    for (const mesh of this.hidden) mesh.visible = false;
    scene.overrideMaterial = plain;
    draw();
    scene.overrideMaterial = null;
    for (const mesh of this.hidden) mesh.visible = true;
  }
}
