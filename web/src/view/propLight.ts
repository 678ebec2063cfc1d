import * as THREE from "three";
import type { Scene as Rig } from "../api/types";
import { Casters } from "./casters";
import { gathered } from "./fireLamps";
import type { Marcher } from "./marcher";
import { LampShadows } from "./lampShadows";
import { SunShadow } from "./sunShadow";

/** Lamps of the shot and those that stand for its fire, half of them each. */
const LAMPS = 16;
/** So many stand for the fire while the machine is slow and things move. */
const FEW = 2;
/** How much is seen of what is uneven, at most and while things move. */
const OCTAVES = 7;
const FEW_OCTAVES = 2;
/** So many places are looked at on the sun's way through the smoke, at most and while things move. */
const LOOKS = 40;
const FEW_LOOKS = 8;

const same = (a: number[], b: number[]) => a.length === b.length && a.every((value, n) => value === b[n]);

/** What the shadows of a lamp hang on: its place and size, whether it throws any, and the way it shines. */
const thrown = (row: number[]) => [...row.slice(0, 4), ...row.slice(7, 14)];

/** Whether a lamp throws shadows of props and stands at a place. */
const standsAndShades = (row: number[]) => row[0] > 0 && row[7] > 0.5;

/** The strongest of the lamps that throw shadows, seen from a place; -1 where none does. */
function keyLamp(rows: number[][], at: THREE.Vector3): number {
  const strengths = rows.map((row) => {
    if (!(row[7] > 0.5) || row[18] === 1) return 0;
    const light = row[4] + row[5] + row[6];
    if (row[0] <= 0) return light;
    return light / Math.max(at.distanceTo(new THREE.Vector3(row[1], row[2], row[3])), 0.1) ** row[17];
  });
  const most = Math.max(0, ...strengths);
  return most > 0 ? strengths.indexOf(most) : -1;
}

/** What lights the props, as their shaders have it. */
export class PropLight {
  /** The lamps, which light fog too. */
  readonly around = {
    lampCount: { value: 0 },
    fireFrom: { value: 0 },
    lampPlace: { value: Array.from({ length: LAMPS }, () => new THREE.Vector4()) },
    lampColour: { value: Array.from({ length: LAMPS }, () => new THREE.Vector4()) },
    lampWay: { value: Array.from({ length: LAMPS }, () => new THREE.Vector4()) },
    lampEdge: { value: Array.from({ length: LAMPS }, () => new THREE.Vector4()) },
    keyLamp: { value: -1 },
    lampShadow: { value: null as THREE.Texture | null },
    lampSees: { value: Array.from({ length: LAMPS }, () => new THREE.Vector3(-1, 0, 0)) },
  };
  readonly uniforms = {
    ...this.around,
    sky: { value: new Array(40).fill(0) },
    horizon: { value: new Array(96).fill(0) },
    skyTable: { value: null as THREE.Texture | null },
    octaves: { value: FEW_OCTAVES },
    looks: { value: FEW_LOOKS },
    pixel: { value: 0.001 },
    fogThick: { value: 0 },
    shadowMap: { value: null as THREE.Texture | null },
    toShadow: { value: new THREE.Matrix4() },
    shadowed: { value: 0 },
    texel: { value: 0 },
    shownAs: { value: 0 },
    exposed: { value: 1 },
    lit: { value: null as THREE.Texture | null },
    low: { value: new THREE.Vector3() },
    high: { value: new THREE.Vector3(1, 1, 1) },
    smoke: { value: 0 },
    voxel: { value: 1 },
  };
  private own: number[][] = [];
  /** The lamp that is shaded anew at each frame. */
  private key = -1;
  private fire: number[][] = [];
  private thickness = 0;
  private shadow = new SunShadow();
  private shadows = new LampShadows();
  /** Whether props no longer stand where they threw their shadow from, or the sun no longer there. */
  shadowStale = true;

  /** @return whether it changed but for what the smoke takes of it */
  setRig(rig: Rig): boolean {
    const { sky, horizon, exposed } = this.uniforms;
    const own = rig.rig.lamps.slice(0, LAMPS / 2);
    const key = keyLamp(own, new THREE.Vector3().fromArray(rig.camera.target));
    this.thickness = rig.rig.thickness * rig.rig.shadow;
    const stays =
      same(sky.value, rig.sky.slice(0, sky.value.length)) &&
      same(horizon.value, rig.horizon) &&
      exposed.value === rig.film[1] &&
      key === this.key &&
      same(this.own.flat(), own.flat());
    if (stays) return false;
    sky.value = rig.sky.slice(0, sky.value.length);
    horizon.value = rig.horizon;
    exposed.value = rig.film[1];
    // How bright they are changes no shadow.
    if (key !== this.key || !same(this.own.flatMap(thrown), own.flatMap(thrown))) this.shadowStale = true;
    this.own = own;
    this.key = key;
    return true;
  }

  /** The fire's light at this frame, as a few lamps. */
  setFire(lamps: number[][]) {
    this.fire = lamps.slice(0, LAMPS / 2);
  }

  /** Whether any lamp of the shot stands at a place. */
  get stands(): boolean {
    return this.own.some((row) => row[0] > 0);
  }

  /** Makes ready for a picture. @param fine as much detail as there is */
  prepare(camera: THREE.PerspectiveCamera, height: number, smoke: Marcher["smoke"], fine: boolean) {
    const { uniforms } = this;
    uniforms.octaves.value = fine ? OCTAVES : FEW_OCTAVES;
    uniforms.looks.value = fine ? LOOKS : FEW_LOOKS;
    this.lamps(fine ? 2 * FEW : FEW);
    uniforms.pixel.value = (2 * Math.tan((camera.fov * Math.PI) / 360)) / height;
    uniforms.lit.value = smoke.lit;
    uniforms.low.value.copy(smoke.low);
    uniforms.high.value.copy(smoke.high);
    uniforms.smoke.value = smoke.peak * this.thickness;
    uniforms.voxel.value = smoke.voxel;
    uniforms.keyLamp.value = this.key;
  }

  /** Draws the shadows that props throw, where those are not the ones that are there. */
  castShadow(renderer: THREE.WebGLRenderer, scene: THREE.Scene, group: THREE.Group) {
    if (!this.shadowStale) return;
    this.shadowStale = false;
    const { uniforms, shadow } = this;
    const casters = new Casters(group);
    const sun = this.own[this.key];
    const falls = !!sun && sun[0] <= 0;
    const way = falls ? new THREE.Vector3(sun[1], sun[2], sun[3]) : new THREE.Vector3();
    uniforms.shadowMap.value = shadow.target.depthTexture;
    uniforms.shadowed.value = falls && shadow.draw(renderer, scene, casters, way) ? 1 : 0;
    uniforms.toShadow.value.copy(shadow.matrix);
    uniforms.texel.value = shadow.texel;
    const placed = this.own.map((_, i) => i).filter((i) => standsAndShades(this.own[i]));
    const reach = this.shadows.draw(
      renderer,
      scene,
      casters,
      placed.map((i) => this.own[i]),
    );
    uniforms.lampShadow.value = this.shadows.target.depthTexture;
    uniforms.lampSees.value.forEach((sees) => sees.set(-1, 0, 0));
    reach.forEach(([near, far], n) => uniforms.lampSees.value[placed[n]].set(n, near, far));
  }

  /** @param most of those that stand for the fire */
  private lamps(most: number) {
    const { lampCount, fireFrom, lampPlace, lampColour, lampWay, lampEdge } = this.uniforms;
    const all = [...this.own, ...gathered(this.fire, most)];
    lampCount.value = all.length;
    fireFrom.value = this.own.length;
    all.forEach((lamp, i) => {
      lampPlace.value[i].set(lamp[1], lamp[2], lamp[3], Math.max(lamp[0], 0));
      lampColour.value[i].set(lamp[4], lamp[5], lamp[6], lamp[7]);
      lampWay.value[i].set(lamp[9], lamp[10], lamp[11], lamp[8]);
      lampEdge.value[i].set(lamp[0] > 0 ? lamp[12] : -lamp[0], lamp[13], lamp[17], lamp[18]);
    });
  }

  dispose() {
    this.shadow.dispose();
    this.shadows.dispose();
  }
}
