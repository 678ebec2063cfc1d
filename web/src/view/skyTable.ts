import * as THREE from "three";

/** How many of the sky's numbers stand before its table. */
const HEAD = 40;
/** Where a picture all around begins. */
const PICTURE = 67;

/** The sky as the server sends it, ready for shaders: its numbers, and its table as a texture of two halves, what
 * comes whatever the direction above what haze throws ahead. */
export class SkyTable {
  readonly uniforms = {
    sky: { value: new Array(HEAD).fill(0) },
    skyTable: {
      value: new THREE.DataTexture(new Uint16Array(4), 1, 1, THREE.RGBAFormat, THREE.HalfFloatType),
    },
  };

  set(sky: number[]) {
    this.uniforms.sky.value = sky.slice(0, HEAD);
    if (sky.length <= HEAD) return;
    const [rows, columns, gain] = [sky[11], sky[12], sky[29]];
    if (sky[7] === 2) return this.lay(sky, rows, columns, gain);
    const data = new Uint16Array(2 * rows * columns * 4);
    for (let n = 0; n < rows * columns; n++) {
      for (let c = 0; c < 6; c++) {
        const at = c < 3 ? 4 * n + c : 4 * (rows * columns + n) + c - 3;
        data[at] = THREE.DataUtils.toHalfFloat(Math.min(gain * sky[HEAD + 6 * n + c], 60000));
      }
    }
    this.put(data, columns, 2 * rows);
  }

  /** A picture all around. */
  private lay(sky: number[], rows: number, columns: number, gain: number) {
    const data = new Uint16Array(rows * columns * 4);
    for (let n = 0; n < rows * columns; n++)
      for (let c = 0; c < 3; c++)
        data[4 * n + c] = THREE.DataUtils.toHalfFloat(Math.min(gain * sky[PICTURE + 3 * n + c], 60000));
    this.put(data, columns, rows);
    this.uniforms.skyTable.value.wrapS = THREE.RepeatWrapping;
  }

  private put(data: Uint16Array, columns: number, rows: number) {
    this.uniforms.skyTable.value.dispose();
    const texture = new THREE.DataTexture(data, columns, rows, THREE.RGBAFormat, THREE.HalfFloatType);
    texture.minFilter = texture.magFilter = THREE.LinearFilter;
    texture.needsUpdate = true;
    this.uniforms.skyTable.value = texture;
  }

  dispose() {
    this.uniforms.skyTable.value.dispose();
  }
}
