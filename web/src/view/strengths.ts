import * as THREE from "three";

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
  const fits = strength && base.getAttribute("position")?.count === strength.bytes.length;
  uniforms.mixes.value = fits ? (strength.shown ? 2 : 1) : 0;
  if (!fits) return base;
  const laid: THREE.BufferGeometry = (mesh.userData.laid ??= new THREE.BufferGeometry());
  for (const name of ["position", "normal", "dye"]) laid.setAttribute(name, base.getAttribute(name));
  const old = laid.getAttribute("strength") as THREE.BufferAttribute | undefined;
  if (old?.array.length === strength.bytes.length) {
    (old.array as Uint8Array).set(strength.bytes);
    old.needsUpdate = true;
  } else laid.setAttribute("strength", new THREE.BufferAttribute(strength.bytes.slice(), 1, true));
  laid.boundingSphere = base.boundingSphere;
  return laid;
}
