import * as THREE from "three";
import type { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import type { Scene as Rig } from "../api/types";

/** The view's own lens, and one so long that nothing is left of perspective, degrees. */
const LENS = 38;
const FLAT = 2;

/** A place to look from: focal length in millimetres on a frame 36 mm wide. */
export interface Outlook {
  position: number[];
  target: number[];
  focal: number;
  /** How far it leans to the right, degrees. */
  roll?: number;
}

/** Ahead, to the right and up of one that looks from a place, each of length 1. */
export function axes({ position, target, roll = 0 }: Omit<Outlook, "focal">) {
  const ahead = new THREE.Vector3()
    .fromArray(target)
    .sub(new THREE.Vector3().fromArray(position))
    .normalize();
  const right = ahead
    .clone()
    .cross(new THREE.Vector3(0, 1, 0))
    .normalize()
    .applyAxisAngle(ahead, (roll * Math.PI) / 180);
  return { ahead, right, up: right.clone().cross(ahead) };
}

/** Where one looks from: around what is there, from a side, through the shot's camera. */
export class Eye {
  /** Whether it is the shot's camera. */
  through = false;
  /** How far it leans to the right, degrees. */
  private roll = 0;

  constructor(
    readonly camera: THREE.PerspectiveCamera,
    readonly orbit: OrbitControls,
  ) {}

  /** Looks at all of a box.
   * @param way from it to the eye; without it the one that there is
   * @param room how much around it is seen, 1 for none */
  lookAt(box: THREE.Box3, way: number[] | null = null, room = 0.92) {
    if (box.isEmpty()) return;
    const middle = box.getCenter(new THREE.Vector3());
    const radius = Math.max(box.getSize(new THREE.Vector3()).length() / 2, 0.05);
    const from = way
      ? new THREE.Vector3().fromArray(way)
      : this.camera.position.clone().sub(this.orbit.target).normalize();
    const half = (this.camera.fov * Math.PI) / 360;
    const narrow = Math.min(half, Math.atan(Math.tan(half) * this.camera.aspect));
    this.orbit.target.copy(middle);
    this.camera.position.copy(middle).addScaledVector(from, (radius / Math.sin(narrow)) * room);
    this.settle();
  }

  /** Leaves perspective out, or brings it back. */
  flatten(flat: boolean) {
    const [from, to] = [this.camera.fov, flat ? FLAT : LENS];
    if (from === to) return;
    const far = this.camera.position.clone().sub(this.orbit.target);
    far.multiplyScalar(Math.tan((from * Math.PI) / 360) / Math.tan((to * Math.PI) / 360));
    this.camera.fov = to;
    this.camera.position.copy(this.orbit.target).add(far);
    this.settle();
  }

  /** Where one looks from now. */
  get outlook(): Outlook {
    const half = Math.tan((this.camera.fov * Math.PI) / 360) * this.camera.aspect;
    return {
      position: this.camera.position.toArray(),
      target: this.orbit.target.toArray(),
      focal: 18 / half,
      ...(this.roll ? { roll: this.roll } : {}),
    };
  }

  /** Looks through the shot's camera. */
  lookThrough(rig: Rig) {
    this.lookFrom(rig.camera);
    this.through = true;
  }

  /** Goes on from here by itself, upright. */
  leave() {
    this.through = false;
    this.roll = 0;
    this.camera.up.set(0, 1, 0);
  }

  lookFrom({ position, target, focal, roll = 0 }: Outlook) {
    this.camera.position.fromArray(position);
    this.orbit.target.fromArray(target);
    const wide = 2 * Math.atan(18 / focal);
    this.camera.fov = (2 * Math.atan(Math.tan(wide / 2) / Math.max(this.camera.aspect, 0.1)) * 180) / Math.PI;
    this.settle(roll);
  }

  /** Looks from another side at the same place, by so much (radians). */
  turn(aside: number, up: number) {
    const around = new THREE.Spherical().setFromVector3(this.camera.position.clone().sub(this.orbit.target));
    around.theta -= aside;
    around.phi = Math.min(Math.max(around.phi - up, 0.05), Math.PI - 0.05);
    this.camera.position.setFromSpherical(around).add(this.orbit.target);
    this.camera.lookAt(this.orbit.target);
    this.camera.updateMatrixWorld();
  }

  /** Comes nearer to the place that it looks at, or goes farther off, by a factor. */
  near(times: number) {
    this.camera.position.sub(this.orbit.target).multiplyScalar(times).add(this.orbit.target);
    this.camera.updateMatrixWorld();
  }

  private settle(roll = 0) {
    const ahead = this.orbit.target.clone().sub(this.camera.position).normalize();
    this.roll = roll;
    // Leaning to the right, what is up for it points there.
    this.camera.up.set(0, 1, 0).applyAxisAngle(ahead, (roll * Math.PI) / 180);
    const far = this.camera.position.distanceTo(this.orbit.target);
    this.camera.near = Math.max(0.02, far / 400);
    this.camera.far = Math.max(4000, 6 * far);
    this.camera.updateProjectionMatrix();
    this.through = false;
    this.orbit.update();
  }
}
