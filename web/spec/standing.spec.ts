import * as THREE from "three";
import { beforeEach, describe, expect, it } from "vitest";
import { Standing } from "../src/view/standing";

const renderer = {
  setRenderTarget: () => undefined,
  clear: () => undefined,
} as unknown as THREE.WebGLRenderer;

function eye(x: number) {
  const camera = new THREE.PerspectiveCamera();
  camera.position.set(x, 1, 4);
  camera.updateMatrixWorld();
  return camera;
}

/** One that was drawn from a place, in the third edition of the props. */
function drawn(fine: boolean) {
  const standing = new Standing();
  standing.begin(renderer, 64, 32);
  standing.done(eye(0), 3, fine);
  return standing;
}

describe("what stands still of a picture", () => {
  let standing: Standing;

  beforeEach(() => (standing = drawn(false)));

  it("is nothing before it is drawn", () => {
    expect(new Standing().fits(eye(0), 3, false)).toBe(false);
  });

  it("is kept as long as nobody looks from elsewhere and nothing is changed", () => {
    expect(standing.fits(eye(0), 3, false)).toBe(true);
    expect(standing.fits(eye(0.1), 3, false)).toBe(false);
    expect(standing.fits(eye(0), 4, false)).toBe(false);
  });

  it("is drawn anew through another lens", () => {
    const camera = eye(0);
    camera.fov = 20;
    camera.updateProjectionMatrix();
    expect(standing.fits(camera, 3, false)).toBe(false);
  });

  it("serves coarser pictures when it is fine, not the other way round", () => {
    expect(standing.fits(eye(0), 3, true)).toBe(false);
    standing = drawn(true);
    expect(standing.fits(eye(0), 3, true)).toBe(true);
    expect(standing.fits(eye(0), 3, false)).toBe(true);
  });

  it("is nothing in another size, and while it is drawn", () => {
    standing.setSize(64, 32);
    expect(standing.fits(eye(0), 3, false)).toBe(true);
    standing.setSize(32, 16);
    standing.setSize(64, 32);
    expect(standing.fits(eye(0), 3, false)).toBe(false);
    standing = drawn(false);
    standing.begin(renderer, 64, 32);
    expect(standing.fits(eye(0), 3, false)).toBe(false);
  });

  it("has four pictures of one size", () => {
    expect(standing.target.textures.map(({ image }) => [image.width, image.height])).toEqual(
      new Array(4).fill([64, 32]),
    );
  });

  it("keeps what is not clear apart, in an edition of its own", () => {
    standing.bare.begin(renderer, 64, 32);
    standing.bare.done(eye(0), 2, true);
    standing.begin(renderer, 64, 32);
    expect([standing.fits(eye(0), 3, false), standing.bare.fits(eye(0), 2, true)]).toEqual([false, true]);
  });
});
