import * as THREE from "three";
import { spreadOver } from "./farSheets";

/** How strong something is at each corner of a prop, and whether that is only shown. */
export interface Strength {
  bytes: Uint8Array;
  shown: boolean;
}

/** Lays strengths over a mesh: it keeps its shape and gets a number for each corner.
 * @param base its geometry without; @return the geometry to be drawn */
export function layStrength(
  mesh: THREE.Mesh,
  base: THREE.BufferGeometry,
  strength: Strength | undefined,
): THREE.BufferGeometry {
  const uniforms = (mesh.material as THREE.ShaderMaterial).uniforms;
  const count = base.getAttribute("position")?.count ?? 0;
  const bytes = strength && spreadOver(strength.bytes, 1, count);
  uniforms.mixes.value = bytes ? (strength.shown ? 2 : 1) : 0;
  if (!bytes) return base;
  const laid: THREE.BufferGeometry = (mesh.userData.laid ??= new THREE.BufferGeometry());
  for (const name of ["position", "normal", "dye"]) laid.setAttribute(name, base.getAttribute(name));
  const old = laid.getAttribute("strength") as THREE.BufferAttribute | undefined;
  if (old?.array.length === bytes.length) {
    (old.array as Uint8Array).set(bytes);
    old.needsUpdate = true;
  } else laid.setAttribute("strength", new THREE.BufferAttribute(bytes.slice(), 1, true));
  laid.boundingSphere = base.boundingSphere;
  return laid;
}
