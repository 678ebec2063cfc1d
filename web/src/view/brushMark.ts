import * as THREE from "three";

const COLOUR = 0xbdd45e;

/** The ring of a brush where it would paint, and the way of the stroke that is being painted. */
export class BrushMark {
  readonly group = new THREE.Group();
  private ring = new THREE.LineLoop(
    new THREE.BufferGeometry().setFromPoints(
      Array.from({ length: 48 }, (_, n) => {
        const angle = (n / 48) * 2 * Math.PI;
        return new THREE.Vector3(Math.cos(angle), Math.sin(angle), 0);
      }),
    ),
    new THREE.LineBasicMaterial({ color: COLOUR, depthTest: false, transparent: true }),
  );
  private trail = new THREE.Line(
    new THREE.BufferGeometry(),
    new THREE.LineBasicMaterial({ color: COLOUR, depthTest: false, transparent: true, opacity: 0.6 }),
  );

  constructor() {
    this.group.add(this.ring, this.trail);
    this.group.visible = false;
  }

  show(point: THREE.Vector3, radius: number, eye: THREE.Camera, way: THREE.Vector3[]) {
    this.group.visible = true;
    this.ring.position.copy(point);
    this.ring.scale.setScalar(radius);
    this.ring.quaternion.copy(eye.quaternion);
    this.trail.geometry.dispose();
    this.trail.geometry = new THREE.BufferGeometry().setFromPoints(way);
  }

  hide() {
    this.group.visible = false;
  }
}
