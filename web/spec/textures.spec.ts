import * as THREE from "three";
import { describe, expect, it, vi } from "vitest";
import type { Volume } from "../src/view/decode";
import { squared, Uploads } from "../src/view/textures";

const volume = (name: string, bytes: number) =>
  ({
    name,
    size: [1, 1, 1],
    lit: new Uint8Array([0, 128, 255, 51]),
    hot: new Uint8Array(4),
    busy: { data: new Uint8Array(1), size: [1, 1, 1] },
    bytes,
  }) as unknown as Volume;

describe("what the graphics card has of a frame", () => {
  it("is what the roots stand for, so that what lies between two is halfway", () => {
    const roots = Uint8Array.from({ length: 256 }, (_, n) => n);
    [...squared(roots)].forEach((half, n) => {
      const exact = (n / 255) ** 2;
      // Ten bits of a half, and what is faint is not lost.
      expect(Math.abs(THREE.DataUtils.fromHalfFloat(half) - exact)).toBeLessThanOrEqual(exact / 1024);
    });
    const { lit, hot } = new Uploads().of(volume("a", 8));
    expect(lit.type).toBe(THREE.HalfFloatType);
    expect(hot.type).toBe(THREE.UnsignedByteType);
    expect(THREE.DataUtils.fromHalfFloat((lit.image.data as unknown as Uint16Array)[3])).toBeCloseTo(0.04, 4);
  });

  it("goes there once, and makes room for others", () => {
    const uploads = new Uploads();
    const first = uploads.of(volume("first", 100e6));
    const gone = vi.spyOn(first.lit, "dispose");
    expect(uploads.of(volume("first", 100e6))).toBe(first);
    uploads.of(volume("second", 100e6));
    expect(gone).not.toHaveBeenCalled();
    uploads.of(volume("third", 100e6));
    expect(gone).toHaveBeenCalled();
    expect(uploads.of(volume("first", 100e6))).not.toBe(first);
  });
});
