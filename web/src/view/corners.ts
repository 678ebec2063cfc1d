import * as THREE from "three";

/** Numbers of a corner: its place, its normal, its colour. */
const WIDTH = 9;

/** Lays corners as the server gives them into a geometry, three a triangle. */
export function layCorners(geometry: THREE.BufferGeometry, corners: Float32Array) {
  const rows = new THREE.InterleavedBuffer(corners, WIDTH);
  geometry.setAttribute("position", new THREE.InterleavedBufferAttribute(rows, 3, 0));
  geometry.setAttribute("normal", new THREE.InterleavedBufferAttribute(rows, 3, 3));
  geometry.setAttribute("dye", new THREE.InterleavedBufferAttribute(rows, 3, 6));
}
