import * as THREE from "three";

/** Glowing streaks over the picture. */
export class Sparks {
  readonly lines = new THREE.LineSegments(
    new THREE.BufferGeometry(),
    new THREE.LineBasicMaterial({ vertexColors: true, transparent: true, blending: THREE.AdditiveBlending }),
  );

  /** Ten numbers each: where it is, where its streak begins, its light, its width. */
  set(rows: Float32Array) {
    const count = rows.length / 10;
    const places = new Float32Array(count * 6);
    const colours = new Float32Array(count * 6);
    for (let n = 0; n < count; n++)
      for (let c = 0; c < 3; c++) {
        places[6 * n + c] = rows[10 * n + c];
        places[6 * n + 3 + c] = rows[10 * n + 3 + c];
        colours[6 * n + c] = Math.sqrt(Math.min(rows[10 * n + 6 + c], 1));
        colours[6 * n + 3 + c] = 0.3 * colours[6 * n + c];
      }
    this.lines.geometry.dispose();
    this.lines.geometry = new THREE.BufferGeometry();
    this.lines.geometry.setAttribute("position", new THREE.BufferAttribute(places, 3));
    this.lines.geometry.setAttribute("color", new THREE.BufferAttribute(colours, 3));
    this.lines.visible = count > 0;
  }

  dispose() {
    this.lines.geometry.dispose();
    (this.lines.material as THREE.Material).dispose();
  }
}
