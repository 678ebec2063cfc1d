import * as THREE from "three";
import type { Volume } from "./decode";

/** So much smoke, of the most there is, counts as a surface; and so many steps a cell. */
const SURFACE = 60;
const STEPS = 2;

/** Where a ray first meets what is dense in a volume. */
export function seenPoint(ray: THREE.Ray, volume: Volume): THREE.Vector3 | null {
  const [nx, ny, nz] = volume.size;
  const low = new THREE.Vector3().fromArray(volume.corner);
  const high = low.clone().add(new THREE.Vector3(nx, ny, nz).multiplyScalar(volume.voxel));
  const box = new THREE.Box3(low, high);
  const entry = box.containsPoint(ray.origin)
    ? ray.origin.clone()
    : ray.intersectBox(box, new THREE.Vector3());
  if (!entry) return null;
  const step = ray.direction.clone().multiplyScalar(volume.voxel / STEPS);
  const point = entry.clone().addScaledVector(step, 0.01);
  for (let n = 0; n < STEPS * 2 * (nx + ny + nz) && box.containsPoint(point); n++) {
    const [i, j, k] = [0, 1, 2].map((a) =>
      Math.floor((point.getComponent(a) - volume.corner[a]) / volume.voxel),
    );
    if (volume.lit[4 * ((k * ny + j) * nx + i) + 3] > SURFACE) return point;
    point.add(step);
  }
  return null;
}
