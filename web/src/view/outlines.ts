import * as THREE from "three";
import type { ChamberBox, Scene as Rig } from "../api/types";
import { axes } from "./eye";

/** Lines of one colour that show where something is and are in no picture. */
export class Outline extends THREE.LineSegments<THREE.BufferGeometry, THREE.LineBasicMaterial> {
  constructor(color: number, opacity: number) {
    super(new THREE.BufferGeometry(), new THREE.LineBasicMaterial({ color, transparent: true, opacity }));
  }

  /** @param places three numbers for each end */
  lay(places: number[]) {
    this.geometry.dispose();
    this.geometry = new THREE.BufferGeometry();
    this.geometry.setAttribute("position", new THREE.Float32BufferAttribute(places, 3));
  }

  dispose() {
    this.geometry.dispose();
    this.material.dispose();
  }
}

/** The edges of chambers. */
export function boxEdges(boxes: ChamberBox[], voxel: number): number[] {
  return boxes.flatMap(({ corner, size }) => {
    const [width, height, depth] = size.map((count) => count * voxel);
    const box = new THREE.BoxGeometry(width, height, depth);
    box.translate(corner[0] + width / 2, corner[1] + height / 2, corner[2] + depth / 2);
    const lines = new THREE.EdgesGeometry(box);
    box.dispose();
    return [...lines.attributes.position.array];
  });
}

const REACH = 0.45;

/** What the shot's camera sees, as a pyramid before it. */
export function frustumEdges({ camera }: Rig): number[] {
  const from = new THREE.Vector3().fromArray(camera.position);
  const { ahead: forward, right, up } = axes(camera);
  const half = 18 / camera.focal;
  const corners = [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ].map(([a, b]) =>
    from
      .clone()
      .addScaledVector(forward, REACH)
      .addScaledVector(right, a * half * REACH)
      .addScaledVector(up, b * half * REACH * camera.shape),
  );
  return corners.flatMap((corner, i) =>
    [from, corner, corner, corners[(i + 1) % 4]].flatMap((place) => place.toArray()),
  );
}
