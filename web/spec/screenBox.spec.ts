import { expect, it } from "vitest";
import * as THREE from "three";
import { pixelsWide, screenBox } from "../src/view/screenBox";

const camera = new THREE.PerspectiveCamera(90, 2, 0.1, 100);
const seen = (low: number[], high: number[]) =>
  screenBox(camera, new THREE.Vector3(...low), new THREE.Vector3(...high));
const near = (parts: number[]) => parts.map((part) => expect.closeTo(part, 5));

it("tells where a box is seen", () => {
  // Half as wide as it is far: a quarter of the picture's height, of whose width half as much.
  expect(seen([-0.5, -0.5, -2], [0.5, 0.5, -1])).toEqual(near([0.375, 0.25, 0.625, 0.75]));
  expect(seen([1, 0, -3], [2, 1, -1])).toEqual(near([0.5 + 1 / 12, 0.5, 1, 1]));
});

it("says no more than that it may be anywhere where it comes too near, and nowhere where it is beside the picture", () => {
  expect(seen([-1, -1, -1], [1, 1, 1])).toEqual([0, 0, 1, 1]);
  const [left, , right] = seen([30, 0, -3], [40, 1, -2]);
  expect(right - left).toBe(0);
});

it("tells how many pixels wide something is seen", () => {
  const wide = (far: number, size: number) => pixelsWide(camera, 600, new THREE.Vector3(0, 0, -far), size);
  expect(wide(3, 0.01)).toBeCloseTo(1, 5);
  expect(wide(6, 0.01)).toBeCloseTo(0.5, 5);
  // The eye is within it.
  expect(wide(0, 0.01)).toBeCloseTo(300, 5);
});
