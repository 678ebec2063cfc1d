import * as THREE from "three";
import type { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import { describe, expect, it } from "vitest";
import type { Scene as Rig } from "../src/api/types";
import { axes, Eye } from "../src/view/eye";
import { boxEdges, frustumEdges } from "../src/view/outlines";

const near = (one: number[], other: number[]) =>
  one.forEach((part, n) => expect(part).toBeCloseTo(other[n], 6));

/** The controls as far as the eye asks them. */
function standing(aspect = 16 / 9) {
  const camera = new THREE.PerspectiveCamera(38, aspect, 0.1, 100);
  const orbit = { target: new THREE.Vector3(), update: () => camera.lookAt(orbit.target) };
  camera.position.set(0, 0, 5);
  return { camera, orbit, eye: new Eye(camera, orbit as unknown as OrbitControls) };
}

describe("one that looks", () => {
  it("has ahead, right and up at right angles, also where it leans", () => {
    const { ahead, right, up } = axes({ position: [0, 0, 0], target: [0, 0, -3] });
    near(ahead.toArray(), [0, 0, -1]);
    near(right.toArray(), [1, 0, 0]);
    near(up.toArray(), [0, 1, 0]);
    const leant = axes({ position: [1, 2, 3], target: [4, 1, -2], roll: 30 });
    for (const [a, b] of [
      ["ahead", "right"],
      ["right", "up"],
      ["up", "ahead"],
    ] as const)
      expect(leant[a].dot(leant[b])).toBeCloseTo(0, 10);
    // To the right is down for one that leans to the right.
    expect(axes({ position: [0, 0, 0], target: [0, 0, -1], roll: 90 }).right.y).toBeCloseTo(-1, 10);
  });

  it("tells from where, as it was told", () => {
    const { eye } = standing();
    for (const outlook of [
      { position: [1, 2, 3], target: [0, 1, 0], focal: 50 },
      { position: [-4, 0.5, 2], target: [1, 1, 1], focal: 18, roll: 12 },
    ]) {
      eye.lookFrom(outlook);
      const told = eye.outlook;
      near(told.position, outlook.position);
      near(told.target, outlook.target);
      expect(told.focal).toBeCloseTo(outlook.focal, 6);
      expect(told.roll).toBe(outlook.roll);
    }
  });

  it("sees as wide as a lens does, whatever the shape of the picture", () => {
    for (const aspect of [1, 16 / 9, 2.4]) {
      const { eye, camera } = standing(aspect);
      eye.lookFrom({ position: [0, 0, 0], target: [0, 0, -1], focal: 36 });
      const wide = Math.tan((camera.fov * Math.PI) / 360) * aspect;
      expect(wide).toBeCloseTo(0.5, 6);
    }
  });

  it("looks at all of a box, also in a narrow view, and leaves one alone in which nothing is", () => {
    for (const aspect of [0.5, 1, 2]) {
      const { eye, camera, orbit } = standing(aspect);
      const box = new THREE.Box3(new THREE.Vector3(1, 0, 1), new THREE.Vector3(3, 4, 2));
      eye.lookAt(box, [0, 0, 1], 1);
      near(orbit.target.toArray(), [2, 2, 1.5]);
      camera.updateMatrixWorld();
      for (const x of [1, 3])
        for (const y of [0, 4])
          for (const z of [1, 2]) {
            const seen = new THREE.Vector3(x, y, z).project(camera);
            expect(Math.max(Math.abs(seen.x), Math.abs(seen.y))).toBeLessThanOrEqual(1);
          }
      const before = camera.position.clone();
      eye.lookAt(new THREE.Box3());
      near(camera.position.toArray(), before.toArray());
    }
  });

  it("leaves perspective out and brings it back, what it looks at staying as large", () => {
    const { eye, camera, orbit } = standing();
    const size = () => Math.tan((camera.fov * Math.PI) / 360) * camera.position.distanceTo(orbit.target);
    const before = size();
    eye.flatten(true);
    expect([camera.fov, camera.position.z > 50]).toEqual([2, true]);
    expect(size()).toBeCloseTo(before, 8);
    eye.flatten(false);
    near(camera.position.toArray(), [0, 0, 5]);
  });

  it("is the shot's camera until it goes on by itself", () => {
    const { eye, camera } = standing();
    eye.lookThrough({
      camera: { position: [0, 1, 4], target: [0, 1, 0], focal: 35, roll: 5 },
    } as unknown as Rig);
    expect(eye.through).toBe(true);
    eye.leave();
    expect([eye.through, eye.outlook.roll, camera.up.y]).toEqual([false, undefined, 1]);
  });
});

describe("lines that show where things are", () => {
  it("go along the twelve edges of a chamber", () => {
    const edges = boxEdges([{ corner: [1, 2, 3], size: [10, 20, 30] }] as never, 0.1);
    expect(edges).toHaveLength(12 * 6);
    const axis = (n: number) => edges.filter((_, at) => at % 3 === n);
    [0, 1, 2].forEach((n) => {
      expect(Math.min(...axis(n))).toBeCloseTo([1, 2, 3][n], 5);
      expect(Math.max(...axis(n))).toBeCloseTo([2, 4, 6][n], 5);
    });
  });

  it("go from the camera to the corners of what it sees", () => {
    const edges = frustumEdges({
      camera: { position: [0, 0, 0], target: [0, 0, -1], focal: 36, shape: 1.25 },
    } as unknown as Rig);
    expect(edges).toHaveLength(4 * 12);
    const places = Array.from({ length: 16 }, (_, n) => edges.slice(3 * n, 3 * n + 3));
    expect(places.filter((place) => place.every((part) => part === 0))).toHaveLength(4);
    for (const [x, y, z] of places.filter(([, , deep]) => deep !== 0)) {
      expect(Math.abs(x / z)).toBeCloseTo(0.5, 6);
      expect(Math.abs(y / x)).toBeCloseTo(1.25, 6);
    }
  });
});
