import * as THREE from "three";

const corner = new THREE.Vector4();
const eye = new THREE.Vector3();
const toClip = new THREE.Matrix4();

/** Where a box is seen, in parts of the picture: least x and y, most x and y. All of the picture where it comes too near the
 * eye to tell. */
export function screenBox(camera: THREE.Camera, low: THREE.Vector3, high: THREE.Vector3): number[] {
  toClip.multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse);
  const seen = [1, 1, 0, 0];
  for (let n = 0; n < 8; n++) {
    const [x, y, z] = [n & 1 ? high.x : low.x, n & 2 ? high.y : low.y, n & 4 ? high.z : low.z];
    corner.set(x, y, z, 1).applyMatrix4(toClip);
    if (corner.w <= 1e-3) return [0, 0, 1, 1];
    const at = [corner.x, corner.y].map((part) => Math.min(Math.max(0.5 + (0.5 * part) / corner.w, 0), 1));
    for (const i of [0, 1]) {
      seen[i] = Math.min(seen[i], at[i]);
      seen[2 + i] = Math.max(seen[2 + i], at[i]);
    }
  }
  return seen;
}

/** How many pixels of a picture so many rows high something takes that is so wide, at a place. */
export function pixelsWide(camera: THREE.Camera, rows: number, at: THREE.Vector3, wide: number): number {
  const far = Math.max(at.distanceTo(eye.setFromMatrixPosition(camera.matrixWorld)), wide);
  return (0.5 * wide * camera.projectionMatrix.elements[5] * rows) / far;
}
