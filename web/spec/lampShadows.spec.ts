import * as THREE from "three";
import { describe, expect, it, vi } from "vitest";
import { Casters } from "../src/view/casters";
import { LampShadows, reaches } from "../src/view/lampShadows";

/** A lamp's row: all round, or a cone down. */
function lamp(cone: number | null) {
  const row = new Array(20).fill(0);
  row[0] = 1;
  row[2] = 3;
  row[7] = 1;
  row[10] = -1;
  if (cone !== null) {
    row[8] = 1;
    row[12] = Math.cos((cone * Math.PI) / 360);
  }
  return row;
}

const sides = (row: number[]) => [0, 1, 2, 3, 4, 5].filter((side) => reaches(row, side));

describe("the shadows of lamps", () => {
  it("are looked for on the sides that a lamp's light reaches", () => {
    expect(sides(lamp(null))).toEqual([0, 1, 2, 3, 4, 5]);
    // Straight down alone, for a narrow one; with all beside it for a wide one; never up.
    expect(sides(lamp(20))).toEqual([3]);
    expect(sides(lamp(80))).toEqual([0, 1, 3, 4, 5]);
  });

  it("are of props that throw any, each lamp in a row of its own", () => {
    const renderer = { setRenderTarget: vi.fn(), clear: vi.fn(), render: vi.fn() };
    const group = new THREE.Group();
    const ball = new THREE.Mesh(new THREE.SphereGeometry(1));
    const ground = new THREE.Mesh(new THREE.PlaneGeometry(500, 500));
    group.add(ball, ground);
    const shadows = new LampShadows();
    const draw = (lamps: number[][]) =>
      shadows.draw(renderer as unknown as THREE.WebGLRenderer, new THREE.Scene(), new Casters(group), lamps);
    const seen: boolean[] = [];
    renderer.render.mockImplementation(() => seen.push(ball.visible, ground.visible));
    const reach = draw([lamp(null), lamp(20)]);
    expect(renderer.render).toHaveBeenCalledTimes(7);
    expect(new Set(seen)).toEqual(new Set([true, false]));
    expect([seen[0], seen[1], ground.visible]).toEqual([true, false, true]);
    // To the far side of what its box has around it.
    expect(reach.map(([, far]) => far.toFixed(2))).toEqual(["4.73", "4.73"]);
    expect([shadows.target.width, shadows.target.height]).toEqual([3072, 1024]);
    ball.userData.lets = true;
    expect(draw([lamp(null)])).toEqual([]);
  });
});
