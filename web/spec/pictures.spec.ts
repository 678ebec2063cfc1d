import { afterEach, describe, expect, it, vi } from "vitest";
import { apart, bands, bright, falseColours, histogram } from "../src/lib/exposure";
import { busyBlocks, decode, decodeFog } from "../src/view/decode";
import { FlipBook } from "../src/view/flipBook";

const pixels = (...greys: number[]) =>
  new Uint8ClampedArray(greys.flatMap((grey) => [grey, grey, grey, 255]));

describe("what pixels say of their light", () => {
  it("is how bright they are", () => {
    expect(bright(pixels(0, 255), 4)).toBeCloseTo(1, 10);
    expect(bright(new Uint8ClampedArray([0, 255, 0, 255]), 0)).toBeCloseTo(0.7152, 10);
  });

  it("is a colour for each band, and grey in between", () => {
    const all = pixels(2, 60, 117, 250);
    falseColours(all);
    const shown = [0, 4, 8, 12].map((at) => [...all.slice(at, at + 3)]);
    expect(shown).toEqual([bands[0][2], [60, 60, 60], bands[3][2], bands[6][2]]);
  });

  it("is how far two pictures are apart, four times as bright", () => {
    const one = pixels(10, 100);
    apart(one, pixels(20, 10));
    expect([one[0], one[4], one[3]]).toEqual([40, 255, 255]);
  });

  it("is a histogram in which one flat background does not press the rest to the ground", () => {
    const counts = histogram(pixels(...new Array(500).fill(8), 100, 100, 200, 200, 250));
    expect(counts).toHaveLength(64);
    expect(Math.max(...counts)).toBe(1);
    expect(counts.filter((part) => part > 0.4)).toHaveLength(4);
  });
});

describe("a volume that was sent", () => {
  const size = [20, 9, 8] as [number, number, number];
  const cells = size[0] * size[1] * size[2];
  const at = (i: number, j: number, k: number) => 4 * ((k * size[1] + j) * size[0] + i) + 3;
  const send = (head: object, width: number, parts = 2) => {
    const text = new TextEncoder().encode(JSON.stringify(head));
    // What follows stands where its numbers may begin.
    const room = (4 - (text.length % 4)) % 4;
    const padded = new Uint8Array([...text, ...new Array(room).fill(32)]);
    const buffer = new ArrayBuffer(4 + padded.length + 4 * parts * width * cells);
    new DataView(buffer).setUint32(0, padded.length, true);
    new Uint8Array(buffer, 4).set(padded);
    return { buffer, from: 4 + padded.length };
  };

  it("is read without copying it, with the blocks that have anything in them", () => {
    const { buffer, from } = send(
      { size, voxel: 0.1, corner: [1, 2, 3], smoke: 1, heat: 2, light: 3, fire: 4 },
      1,
    );
    new Uint8Array(buffer)[from + at(12, 4, 4)] = 200;
    const volume = decode("name", buffer);
    expect(volume).toMatchObject({
      name: "name",
      size,
      voxel: 0.1,
      corner: [1, 2, 3],
      peaks: [1, 2, 3, 4],
      lamps: [],
    });
    expect(volume.lit.buffer).toBe(buffer);
    expect([volume.lit[at(12, 4, 4)], volume.hot[at(12, 4, 4)]]).toEqual([200, 0]);
    expect(volume.busy.size).toEqual([3, 2, 1]);
    expect([...volume.busy.data]).toEqual([0, 1, 0, 0, 0, 0]);
  });

  it("is busy beside a block's border as well, with smoke, fire or heat", () => {
    const [lit, hot] = [new Uint8Array(4 * cells), new Uint8Array(4 * cells)];
    // The first three numbers of what is hot are fire's, the fourth is the heat.
    hot[at(8, 7, 3)] = 1;
    expect([...busyBlocks({ size, lit, hot }).data]).toEqual([4, 4, 0, 4, 4, 0]);
    hot[at(12, 4, 4) - 3] = 1;
    lit[at(8, 4, 4)] = 1;
    expect([...busyBlocks({ size, lit, hot }).data]).toEqual([5, 7, 0, 4, 4, 0]);
  });

  it("is fog where it has half numbers", () => {
    const { buffer, from } = send(
      {
        size,
        voxel: 1,
        corner: [0, 0, 0],
        forward: 0.3,
        colour: [1, 1, 1],
        thick: 0,
        placed: false,
        endless: null,
      },
      2,
      3,
    );
    new Uint16Array(buffer, from)[5] = 77;
    const fog = decodeFog("mist", buffer);
    new Uint16Array(buffer, from + 16 * cells)[9] = 5;
    expect([fog.name, fog.lit[5], fog.ways[9], fog.lit.length, fog.hot.length]).toEqual([
      "mist",
      77,
      5,
      4 * cells,
      4 * cells,
    ]);
  });
});

describe("the book of frames", () => {
  const close = vi.fn();
  const canvas = (width = 100, height = 50) => ({ width, height }) as HTMLCanvasElement;
  const shoot = (picture: HTMLCanvasElement) =>
    Promise.resolve({ width: picture.width, height: picture.height, close });

  afterEach(() => vi.unstubAllGlobals());

  it("keeps a page until a finer one comes, and shows coarse ones only where they will do", async () => {
    vi.stubGlobal("createImageBitmap", shoot);
    const book = new FlipBook();
    book.changed = vi.fn();
    await book.take("one", canvas(), false);
    expect([book.has("one"), book.fine("one"), book.get("one", true), book.size]).toEqual([
      true,
      false,
      null,
      1,
    ]);
    await book.take("one", canvas(), true);
    expect([book.fine("one"), book.get("one", true)?.width, book.size]).toEqual([true, 100, 1]);
    await book.take("one", canvas(900), true);
    expect(book.get("one", true)?.width).toBe(100);
    expect(book.changed).toHaveBeenCalledTimes(2);
    expect([book.has(null), book.get(null, false), book.fine(null)]).toEqual([false, null, false]);
  });

  it("lets the oldest go before it takes too much room", async () => {
    vi.stubGlobal("createImageBitmap", shoot);
    const book = new FlipBook();
    // 80 MB each; five are what it may keep.
    for (const name of ["a", "b", "c", "d", "e"]) await book.take(name, canvas(5000, 4000), true);
    expect([book.size, book.full(5000, 4000), book.full(10, 10)]).toEqual([5, true, true]);
    await book.take("f", canvas(5000, 4000), true);
    expect([book.size, book.has("a"), book.has("f")]).toEqual([5, false, true]);
    book.clear();
    expect(book.size).toBe(0);
  });

  it("throws away what comes after it was cleared", async () => {
    let give: (picture: unknown) => void = () => {};
    vi.stubGlobal("createImageBitmap", () => new Promise((done) => (give = done)));
    const book = new FlipBook();
    const taken = book.take("late", canvas(), true);
    book.clear();
    close.mockClear();
    give({ width: 1, height: 1, close });
    await taken;
    expect([book.size, close.mock.calls.length]).toEqual([0, 1]);
  });
});
