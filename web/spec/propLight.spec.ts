import * as THREE from "three";
import { describe, expect, it, vi } from "vitest";
import type { Scene as Rig } from "../src/api/types";
import { PropLight } from "../src/view/propLight";

/** A lamp's row: a sun from above, or one at a place. */
function lamp(at: number[], sun: boolean) {
  const row = new Array(19).fill(0);
  row[0] = sun ? 0 : 1.2;
  at.forEach((value, n) => (row[1 + n] = value));
  row[4] = row[5] = row[6] = 2;
  row[7] = 1;
  return row;
}

const rig = (change: object = {}) =>
  ({
    rig: { lamps: [lamp([0, 1, 0], true)], albedo: [1, 1, 1], thickness: 20, shadow: 1 },
    sky: new Array(52).fill(0.25),
    horizon: new Array(96).fill(0.5),
    film: [1, 1, 1, 2, 1, 0, 0.1, 0],
    camera: { target: [0, 0, 0] },
    ...change,
  }) as unknown as Rig;

const smoke = (peak: number) => ({
  lit: new THREE.Data3DTexture(),
  low: new THREE.Vector3(-1, 0, -1),
  high: new THREE.Vector3(1, 2, 1),
  voxel: 0.1,
  peak,
});

const camera = new THREE.PerspectiveCamera(60);

describe("what lights the props", () => {
  it("is the same as long as only the smoke of the shot is another", () => {
    const light = new PropLight();
    expect(light.setRig(rig())).toBe(true);
    expect(light.setRig(rig())).toBe(false);
    const { rig: lamps } = rig();
    expect(light.setRig(rig({ rig: { ...lamps, thickness: 60 } }))).toBe(false);
    light.prepare(camera, 100, smoke(2), false);
    expect(light.uniforms.smoke.value).toBe(120);
  });

  it("is another with another lamp, sky, haze or exposure", () => {
    const light = new PropLight();
    for (const change of [
      {},
      { rig: { ...rig().rig, lamps: [lamp([1, 1, 0], true)] } },
      { sky: new Array(52).fill(0.3) },
      { horizon: new Array(96).fill(0.1) },
      { film: [2, 2, 2, 2, 1, 0, 0.1, 0] },
    ])
      expect(light.setRig(rig(change))).toBe(true);
  });

  it("has the shot's lamps first and then those of the fire, fewer while things move", () => {
    const light = new PropLight();
    light.setRig(rig());
    light.setFire([0, 1, 2, 3, 4, 5].map((x) => lamp([x, 0.5, 0], false)));
    const { fireFrom, lampCount, octaves, looks } = light.uniforms;
    light.prepare(camera, 100, smoke(0), false);
    expect([fireFrom.value, lampCount.value]).toEqual([1, 3]);
    const few = [octaves.value, looks.value];
    light.prepare(camera, 100, smoke(0), true);
    expect([fireFrom.value, lampCount.value]).toEqual([1, 5]);
    expect(octaves.value).toBeGreaterThan(few[0]);
    expect(looks.value).toBeGreaterThan(few[1]);
  });

  it("tells surfaces from lamps that light smoke alone", () => {
    const light = new PropLight();
    const row = lamp([0, 2, 0], false);
    row[18] = 1;
    light.setRig(rig({ rig: { ...rig().rig, lamps: [row] } }));
    light.prepare(camera, 100, smoke(0), true);
    expect(light.uniforms.lampEdge.value[0].w).toBe(1);
    expect(light.stands).toBe(true);
  });

  it("has smoke dim the strongest of the lamps that throw shadows, where the camera looks", () => {
    const light = new PropLight();
    const weak = lamp([0, 1, 0], true);
    const strong = lamp([0, 2, 0], false);
    strong[17] = 2;
    strong[4] = 40;
    const key = (...lamps: number[][]) => {
      light.setRig(rig({ rig: { ...rig().rig, lamps } }));
      light.prepare(camera, 100, smoke(1), true);
      return light.uniforms.keyLamp.value;
    };
    expect(key(weak, strong)).toBe(1);
    // A sixteenth of it from four times as far.
    strong[2] = 8;
    expect(key(weak, [...strong])).toBe(0);
    weak[7] = 0;
    expect(key([...weak], [...strong])).toBe(1);
    strong[7] = 0;
    expect(key([...weak], [...strong])).toBe(-1);
  });

  it("throws its shadow anew only where sun or props have moved", () => {
    const light = new PropLight();
    const renderer = { setRenderTarget: vi.fn(), clear: vi.fn(), render: vi.fn() };
    const [scene, group] = [new THREE.Scene(), new THREE.Group()];
    const ball = new THREE.Mesh(new THREE.SphereGeometry(1));
    group.add(ball);
    scene.add(group);
    light.setRig(rig());
    const cast = () => light.castShadow(renderer as unknown as THREE.WebGLRenderer, scene, group);
    cast();
    cast();
    expect(renderer.render).toHaveBeenCalledTimes(1);
    expect(light.uniforms.shadowed.value).toBe(1);
    light.setRig(rig());
    cast();
    expect(renderer.render).toHaveBeenCalledTimes(1);
    light.setRig(rig({ rig: { ...rig().rig, lamps: [lamp([0.6, 0.8, 0], true)] } }));
    cast();
    expect(renderer.render).toHaveBeenCalledTimes(2);
  });
});
