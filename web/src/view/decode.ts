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
  /** What there is in blocks of eight cells or right beside them, so that others can be passed over: 1 for smoke, 2 for
   * fire, 4 for heat, together. */
  busy: { data: Uint8Array<ArrayBuffer>; size: [number, number, number] };
  /** What stands for the fire where it lights props: rows like those of the shot's lamps. */
  lamps: number[][];
  bytes: number;
}

/** Fogs and beams: what they send on for each metre to all sides and how thick they are, what they send of lamps, and the way to
 * these, as long as they agree. */
export interface Fog {
  name: string;
  size: [number, number, number];
  voxel: number;
  corner: [number, number, number];
  lit: Uint16Array<ArrayBuffer>;
  hot: Uint16Array<ArrayBuffer>;
  ways: Uint16Array<ArrayBuffer>;
  /** How much of their light keeps its way. */
  forward: number;
  /** Their colour; how thick those are that have no end. */
  colour: number[];
  thick: number;
  /** Whether the light of lamps that stand at a place is left to the view. */
  placed: boolean;
  /** Of fog without an end: how far it is seen, and how it thins with the height. */
  endless: { reach: number; thins: number } | null;
}

const BLOCK = 8;

type Cells = Pick<Volume, "size" | "lit" | "hot">;

export function busyBlocks({ size: [nx, ny, nz], lit, hot }: Cells): Volume["busy"] {
  const [bx, by, bz] = [nx, ny, nz].map((count) => Math.ceil(count / BLOCK));
  const data = new Uint8Array(bx * by * bz);
  const range = (cell: number, count: number) => [
    Math.max((cell - 1) >> 3, 0),
    Math.min((cell + 1) >> 3, count - 1),
  ];
  for (let k = 0, at = 0; k < nz; k++)
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++, at += 4) {
        const burns = hot[at] | hot[at + 1] | hot[at + 2];
        const has = (lit[at + 3] && 1) | (burns && 2) | (hot[at + 3] && 4);
        if (!has) continue;
        const own = ((k >> 3) * by + (j >> 3)) * bx + (i >> 3);
        const inside = (i & 7) % 7 && (j & 7) % 7 && (k & 7) % 7;
        if (inside) {
          data[own] |= has;
          continue;
        }
        const [x, y, z] = [range(i, bx), range(j, by), range(k, bz)];
        for (let c = z[0]; c <= z[1]; c++)
          for (let b = y[0]; b <= y[1]; b++)
            for (let a = x[0]; a <= x[1]; a++) data[(c * by + b) * bx + a] |= has;
      }
  return { data, size: [bx, by, bz] };
}

/** The head of what was sent, and where its cells begin. */
function headOf(buffer: ArrayBuffer) {
  const length = new DataView(buffer).getUint32(0, true);
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, length)));
  return { head, from: 4 + length, count: 4 * head.size[0] * head.size[1] * head.size[2] };
}

/** Reads a volume out of what was sent, without copying it. */
export function decode(name: string, buffer: ArrayBuffer): Volume {
  const { head, from, count } = headOf(buffer);
  const lit = new Uint8Array(buffer, from, count);
  const hot = new Uint8Array(buffer, from + count, count);
  return {
    name,
    size: head.size,
    voxel: head.voxel,
    corner: head.corner,
    peaks: [head.smoke, head.heat, head.light, head.fire],
    lit,
    hot,
    busy: busyBlocks({ size: head.size, lit, hot }),
    lamps: head.lamps ?? [],
    bytes: buffer.byteLength,
  };
}

export function decodeFog(name: string, buffer: ArrayBuffer): Fog {
  const { head, from, count } = headOf(buffer);
  return {
    ...head,
    name,
    lit: new Uint16Array(buffer, from, count),
    hot: new Uint16Array(buffer, from + 2 * count, count),
    ways: new Uint16Array(buffer, from + 4 * count, count),
  };
}
