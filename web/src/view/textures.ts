import * as THREE from "three";
import type { Volume } from "./decode";

/** A texture of voxels, one or four bytes or sixteen bit floats each, smooth between them. */
export function texture3d(
  format: THREE.PixelFormat,
  data?: Uint8Array<ArrayBuffer> | Uint16Array<ArrayBuffer>,
  [x, y, z]: [number, number, number] = [1, 1, 1],
): THREE.Data3DTexture {
  const texture = new THREE.Data3DTexture(
    data ?? new Uint8Array(format === THREE.RedFormat ? 1 : 4),
    x,
    y,
    z,
  );
  texture.format = format;
  if (data instanceof Uint16Array) texture.type = THREE.HalfFloatType;
  texture.minFilter = texture.magFilter = THREE.LinearFilter;
  texture.unpackAlignment = 1;
  texture.needsUpdate = true;
  return texture;
}

/** Halves of the squares of bytes, in parts of 1. */
const squares = Uint16Array.from({ length: 256 }, (_, byte) =>
  THREE.DataUtils.toHalfFloat((byte / 255) ** 2),
);

/** Bytes that are square roots as what they stand for: between two roots lies less than between two numbers, so smoke
 * would end too soon. Fire does: it follows from how hot it is, and halfway to what is cold hardly any is left. */
export function squared(roots: Uint8Array): Uint16Array<ArrayBuffer> {
  const out = new Uint16Array(roots.length);
  for (let n = 0; n < roots.length; n++) out[n] = squares[roots[n]];
  return out;
}

/** A frame's volume as the graphics card has it. */
export interface Upload {
  lit: THREE.Data3DTexture;
  hot: THREE.Data3DTexture;
  busy: THREE.Data3DTexture;
}

/** So much of the card's memory is used for frames, bytes. */
const ROOM = 256 * 1024 * 1024;

/** The frames last shown stay on the graphics card, so that each goes there once. */
export class Uploads {
  private ring = new Map<string, Upload & { bytes: number }>();
  private bytes = 0;

  of(volume: Volume): Upload {
    const before = this.ring.get(volume.name);
    if (before) {
      this.ring.delete(volume.name);
      this.ring.set(volume.name, before);
      return before;
    }
    const made = {
      lit: texture3d(THREE.RGBAFormat, squared(volume.lit), volume.size),
      hot: texture3d(THREE.RGBAFormat, volume.hot, volume.size),
      busy: texture3d(THREE.RedFormat, volume.busy.data, volume.busy.size),
      bytes: volume.bytes + volume.lit.length,
    };
    this.ring.set(volume.name, made);
    this.bytes += made.bytes;
    for (const [name, old] of this.ring) {
      if (this.bytes <= ROOM || old === made) break;
      this.free(old);
      this.ring.delete(name);
      this.bytes -= old.bytes;
    }
    return made;
  }

  dispose() {
    this.ring.forEach((upload) => this.free(upload));
    this.ring.clear();
  }

  private free({ lit, hot, busy }: Upload) {
    for (const texture of [lit, hot, busy]) texture.dispose();
  }
}
