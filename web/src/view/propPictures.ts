import * as THREE from "three";
import { api } from "../api/client";
import type { Paint } from "./paint";
import { spreadOver } from "./farSheets";

/** Pictures on props, and what is seen through. */
export class PropPictures {
  private loaded = new Map<string, THREE.Texture>();

  /** @param changed told when a picture has come */
  constructor(private changed: () => void) {}

  /** Its picture. @return whether one sees what is behind it, so that it throws no shadow */
  lookThrough(material: THREE.ShaderMaterial, paint: Paint): boolean {
    const { uniforms } = material;
    const sheer = paint.opacity < 1 || (!!paint.picture && paint.cut);
    uniforms.opacity.value = paint.opacity;
    uniforms.sheer.value = sheer ? 1 : 0;
    uniforms.even.value = paint.even ? 1 : 0;
    uniforms.pictured.value = paint.picture ? (paint.cut ? 2 : 1) : 0;
    uniforms.picture.value = paint.picture ? this.picture(paint.picture) : null;
    if (material.transparent !== sheer) material.needsUpdate = true;
    material.transparent = sheer;
    material.depthWrite = !sheer;
    return sheer;
  }

  private picture(digest: string): THREE.Texture {
    let found = this.loaded.get(digest);
    if (!found) {
      found = new THREE.TextureLoader().load(api.pictureUrl(digest), this.changed);
      found.colorSpace = THREE.SRGBColorSpace;
      found.wrapS = found.wrapT = THREE.RepeatWrapping;
      this.loaded.set(digest, found);
    }
    return found;
  }

  /** Where the corners of a shape lie in a picture. */
  async places(outline: Record<string, unknown>, geometry: THREE.BufferGeometry) {
    const answer = await fetch(api.shapeUrl({ ...outline, part: "places" }));
    const rows = new Float32Array(answer.ok ? await answer.arrayBuffer() : new ArrayBuffer(0));
    const { count } = geometry.getAttribute("position");
    return new THREE.BufferAttribute(spreadOver(rows, 2, count) ?? new Float32Array(2 * count), 2);
  }

  dispose() {
    for (const picture of this.loaded.values()) picture.dispose();
  }
}
