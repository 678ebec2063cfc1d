import * as THREE from "three";
import { describe, expect, it } from "vitest";
import { Tiles } from "../src/view/tiles";

describe("a picture that is drawn again in tiles", () => {
  const drawn: [number, number][] = [];
  const renderer = {
    setRenderTarget() {},
    render(scene: THREE.Scene) {
      const thing = scene.children[0];
      if (!(thing instanceof THREE.Points)) return;
      const { start, count } = thing.geometry.drawRange;
      drawn.push([start, count]);
    },
  } as unknown as THREE.WebGLRenderer;

  it("draws those that touch some rows, all across", () => {
    const tiles = new Tiles();
    const target = new THREE.WebGLRenderTarget(40, 70);
    tiles.find(renderer, target, new THREE.Texture(), 1);
    const material = new THREE.Material();
    // Three across, five up, of sixteen pixels each.
    for (const [from, to] of [
      [0, 16],
      [20, 40],
      [15, 17],
      [64, 70],
    ])
      tiles.draw(renderer, material, from, to);
    expect(drawn).toEqual([
      [0, 3],
      [3, 6],
      [0, 6],
      [12, 3],
    ]);
    expect(tiles.own.whole.value.toArray()).toEqual([40, 70]);
  });
});
