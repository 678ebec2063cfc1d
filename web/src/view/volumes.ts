import { api } from "../api/client";
import type { FrameRow } from "../api/types";

/** A frame's volume as the server sends it. */
export interface Volume {
  name: string;
  size: [number, number, number];
  voxel: number;
  corner: [number, number, number];
  /** The largest smoke, heat, light and fire. */
  peaks: [number, number, number, number];
  lit: Uint8Array<ArrayBuffer>;
  hot: Uint8Array<ArrayBuffer>;
  /** What stands for the fire where it lights props: rows like those of the shot's lamps. */
  lamps: number[][];
  bytes: number;
}

const ROOM = 600 * 1024 * 1024;

export const volumeName = (row: FrameRow | undefined) =>
  row?.key && row.light && row.lit ? `${row.key}/${row.light}` : null;

function decode(name: string, buffer: ArrayBuffer): Volume {
  const length = new DataView(buffer).getUint32(0, true);
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, length)));
  const cells = head.size[0] * head.size[1] * head.size[2];
  return {
    name,
    size: head.size,
    voxel: head.voxel,
    corner: head.corner,
    peaks: [head.smoke, head.heat, head.light, head.fire],
    lit: new Uint8Array(buffer, 4 + length, 4 * cells),
    hot: new Uint8Array(buffer, 4 + length + 4 * cells, 4 * cells),
    lamps: head.lamps ?? [],
    bytes: buffer.byteLength,
  };
}

const BLOCK = 8;

/** Blocks of eight cells with anything in them or right beside them, so that the others can be passed over. */
export function busyBlocks({ size: [nx, ny, nz], lit, hot }: Volume) {
  const [bx, by, bz] = [nx, ny, nz].map((count) => Math.ceil(count / BLOCK));
  const data = new Uint8Array(bx * by * bz);
  const range = (cell: number, count: number) => [
    Math.max((cell - 1) >> 3, 0),
    Math.min((cell + 1) >> 3, count - 1),
  ];
  for (let k = 0, at = 3; k < nz; k++)
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++, at += 4) {
        if (!lit[at] && !hot[at]) continue;
        const own = ((k >> 3) * by + (j >> 3)) * bx + (i >> 3);
        const inside = (i & 7) % 7 && (j & 7) % 7 && (k & 7) % 7;
        if (inside) {
          data[own] = 255;
          continue;
        }
        const [x, y, z] = [range(i, bx), range(j, by), range(k, bz)];
        for (let c = z[0]; c <= z[1]; c++)
          for (let b = y[0]; b <= y[1]; b++)
            for (let a = x[0]; a <= x[1]; a++) data[(c * by + b) * bx + a] = 255;
      }
  return { data, size: [bx, by, bz] as [number, number, number] };
}

/** One quantity of a frame: a byte for each voxel between low and high, or three signed ones. */
export interface Channel {
  name: string;
  size: [number, number, number];
  voxel: number;
  corner: [number, number, number];
  low: number;
  high: number;
  unit: string;
  data: Uint8Array<ArrayBuffer>;
}

export async function fetchChannel(url: string): Promise<Channel | null> {
  const response = await fetch(url).catch(() => null);
  if (!response?.ok) return null;
  const buffer = await response.arrayBuffer();
  const length = new DataView(buffer).getUint32(0, true);
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, length)));
  return { name: url, ...head, data: new Uint8Array(buffer, 4 + length) };
}

/** Keeps the volumes last looked at, and fetches those to come. */
export class Volumes {
  private kept = new Map<string, Volume>();
  private asked = new Map<string, Promise<Volume | null>>();
  private bytes = 0;

  get(name: string): Volume | undefined {
    const volume = this.kept.get(name);
    if (volume) {
      this.kept.delete(name);
      this.kept.set(name, volume);
    }
    return volume;
  }

  has(name: string): boolean {
    return this.kept.has(name);
  }

  fetch(name: string): Promise<Volume | null> {
    const kept = this.get(name);
    if (kept) return Promise.resolve(kept);
    let promise = this.asked.get(name);
    if (!promise) {
      const [key, light] = name.split("/");
      promise = fetch(api.volumeUrl(key, light))
        .then((response) => (response.ok ? response.arrayBuffer() : null))
        .then((buffer) => (buffer ? this.keep(decode(name, buffer)) : null))
        .catch(() => null)
        .finally(() => this.asked.delete(name));
      this.asked.set(name, promise);
    }
    return promise;
  }

  get busy(): number {
    return this.asked.size;
  }

  private keep(volume: Volume): Volume {
    this.kept.set(volume.name, volume);
    this.bytes += volume.bytes;
    for (const [name, old] of this.kept) {
      if (this.bytes <= ROOM || name === volume.name) break;
      this.kept.delete(name);
      this.bytes -= old.bytes;
    }
    return volume;
  }
}
