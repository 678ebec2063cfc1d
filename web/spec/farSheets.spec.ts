import { describe, expect, it } from "vitest";
import { cutFarSheet, spreadOver } from "../src/view/farSheets";

/** A sheet as the server sends it: two triangles facing up, with a colour. */
function sheet(x: number, z: number) {
  const corners = [
    [-x, 0, -z],
    [-x, 0, z],
    [x, 0, z],
    [-x, 0, -z],
    [x, 0, z],
    [x, 0, -z],
  ];
  return new Float32Array(corners.flatMap((place) => [...place, 0, 1, 0, 0.2, 0.3, 0.4]));
}

/** Of all triangles: how large they are together, seen from above, and the longest side of those about the middle. */
function measured(corners: Float32Array) {
  let area = 0;
  let near = 0;
  for (let at = 0; at < corners.length; at += 27) {
    const [a, b, c] = [0, 9, 18].map((n) => corners.subarray(at + n, at + n + 9));
    const [u, v] = [b, c].map((corner) => [corner[0] - a[0], corner[2] - a[2]]);
    area += (u[1] * v[0] - u[0] * v[1]) / 2;
    if (Math.max(...[a, b, c].map((corner) => Math.hypot(corner[0], corner[2]))) < 2)
      near = Math.max(near, Math.hypot(...u), Math.hypot(...v));
  }
  return { area, near };
}

describe("sheets that go far", () => {
  it("are cut up, finely about the middle, and stay what they are", () => {
    const cut = cutFarSheet(sheet(2000, 1500));
    const { area, near } = measured(cut);
    expect(area).toBeCloseTo(4 * 2000 * 1500, -3);
    expect(near).toBeGreaterThan(0);
    expect(near).toBeLessThan(2);
    for (let at = 0; at < cut.length; at += 9) {
      expect(cut[at + 1]).toBe(0);
      expect([...cut.subarray(at + 3, at + 9)]).toEqual([...sheet(1, 1).subarray(3, 9)]);
    }
  });

  it("have what goes with their corners spread between them", () => {
    const cut = cutFarSheet(sheet(2000, 1500));
    // Where corners lie in a picture: from 0 to 1 along x and z.
    const places = Float32Array.from([0, 0, 0, 1, 1, 1, 0, 0, 1, 1, 1, 0]);
    const spread = spreadOver(places, 2, cut.length / 9)!;
    for (let n = 0; n < cut.length / 9; n++) {
      expect(spread[2 * n]).toBeCloseTo(cut[9 * n] / 4000 + 0.5, 5);
      expect(spread[2 * n + 1]).toBeCloseTo(cut[9 * n + 2] / 3000 + 0.5, 5);
    }
    const bytes = spreadOver(Uint8Array.from([0, 0, 255, 0, 255, 255]), 1, cut.length / 9)!;
    expect(bytes).toBeInstanceOf(Uint8Array);
    expect([Math.min(...bytes), Math.max(...bytes)]).toEqual([0, 255]);
    expect(spreadOver(places, 2, 6)).toBe(places);
    expect(spreadOver(places, 2, 9)).toBeNull();
  });

  it("are left alone where they are small, or none", () => {
    const [small, odd] = [sheet(3, 3), sheet(2000, 2000)];
    odd[27] = 7;
    for (const corners of [small, odd, new Float32Array(0), new Float32Array(27)])
      expect(cutFarSheet(corners)).toBe(corners);
  });
});
