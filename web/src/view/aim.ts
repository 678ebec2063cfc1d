import * as THREE from "three";
import type { PropShelf } from "./props";

export interface Picked {
  id: string;
  point: THREE.Vector3;
  object: THREE.Mesh;
  /** Which triangle. */
  face?: number;
}

/** What lies under a place of the canvas, -1 to 1 each way. */
export class Aim {
  constructor(
    private camera: THREE.Camera,
    private props: PropShelf,
  ) {}

  /** What stands there. */
  pick(x: number, y: number): Picked | null {
    const seen = [...this.props.marks.group.children, ...this.props.group.children].filter(
      (each) => each.visible,
    );
    const hit = this.caster(x, y).intersectObjects(seen, false)[0];
    return hit
      ? {
          id: hit.object.name,
          point: hit.point,
          object: hit.object as THREE.Mesh,
          face: hit.faceIndex ?? undefined,
        }
      : null;
  }

  /** The place of a surface, or of the level ground; nothing where the sky is. */
  spot(x: number, y: number): number[] | null {
    const point =
      this.pick(x, y)?.point ??
      this.ray(x, y).intersectPlane(new THREE.Plane(new THREE.Vector3(0, 1, 0)), new THREE.Vector3());
    return point && point.length() < 1000 ? point.toArray() : null;
  }

  ray(x: number, y: number): THREE.Ray {
    return this.caster(x, y).ray;
  }

  private caster(x: number, y: number): THREE.Raycaster {
    const caster = new THREE.Raycaster();
    caster.setFromCamera(new THREE.Vector2(x, y), this.camera);
    return caster;
  }
}
