import * as THREE from "three";
import type { Scene } from "../api/types";
import { axes } from "./eye";

/** Where a force acts, as lines. */
export interface FalloffView {
  id: string;
  falloff: string;
  position: number[];
  lineEnd: number[];
  extent: number[];
  reach: number;
  direction: number[] | null;
}

const circle = (radius: number, turn: (a: number, b: number) => [number, number, number]) =>
  Array.from({ length: 49 }, (_, n) => {
    const angle = (n / 48) * 2 * Math.PI;
    return new THREE.Vector3(...turn(radius * Math.cos(angle), radius * Math.sin(angle)));
  });

function rings(radius: number): THREE.Vector3[][] {
  return [
    circle(radius, (a, b) => [a, b, 0]),
    circle(radius, (a, b) => [a, 0, b]),
    circle(radius, (a, b) => [0, a, b]),
  ];
}

function shapeOf(force: FalloffView): THREE.Vector3[][] {
  if (force.falloff === "sphere") return rings(force.reach);
  if (force.falloff === "box") {
    const [x, y, z] = force.extent.map((length) => length / 2);
    const corner = (n: number) => new THREE.Vector3(n & 1 ? x : -x, n & 2 ? y : -y, n & 4 ? z : -z);
    return [0, 1, 2, 3, 4, 5, 6, 7].flatMap((n) =>
      [1, 2, 4].filter((bit) => !(n & bit)).map((bit) => [corner(n), corner(n | bit)]),
    );
  }
  if (force.falloff === "line") {
    const end = new THREE.Vector3()
      .fromArray(force.lineEnd)
      .sub(new THREE.Vector3().fromArray(force.position));
    const turn = new THREE.Quaternion().setFromUnitVectors(
      new THREE.Vector3(0, 1, 0),
      end.clone().normalize(),
    );
    const ring = circle(force.reach, (a, b) => [a, 0, b]).map((point) => point.applyQuaternion(turn));
    return [[new THREE.Vector3(), end], ring, ring.map((point) => point.clone().add(end))];
  }
  return [];
}

/** Where a lamp shines: the cone of a spot, the sheet of an area, as lines about its place. */
function beamOf(row: number[]): THREE.Vector3[][] {
  const way = new THREE.Vector3(row[9], row[10], row[11]);
  const across = new THREE.Vector3(row[14], row[15], row[16]);
  const up = way.clone().cross(across);
  const at = (a: number, b: number, c: number) =>
    across.clone().multiplyScalar(a).addScaledVector(up, b).addScaledVector(way, c);
  if (row[8] === 2) {
    const [a, b] = [row[12], row[13]];
    return [
      [at(-a, -b, 0), at(a, -b, 0), at(a, b, 0), at(-a, b, 0), at(-a, -b, 0)],
      [at(0, 0, 0), at(0, 0, 0.6)],
    ];
  }
  const far = 2 * Math.max(row[12], 0.2);
  const wide = 2 * Math.sqrt(Math.max(1 - row[12] * row[12], 0));
  const rim = circle(wide, (a, b) => [a, b, 0]).map(({ x, y }) => at(x, y, far));
  return [rim, ...[0, 12, 24, 36].map((n) => [new THREE.Vector3(), rim[n]])];
}

/** Lines that show where forces act and which way they go, and where lamps shine. */
export class Guides {
  readonly group = new THREE.Group();
  readonly focus = new THREE.Group();
  readonly beams = new THREE.Group();
  private quiet = new THREE.LineBasicMaterial({ color: 0x6fb6ff, transparent: true, opacity: 0.35 });
  private picked = new THREE.LineBasicMaterial({ color: 0xbdd45e, transparent: true, opacity: 0.9 });

  set(forces: FalloffView[], selected: string | null) {
    for (const line of [...this.group.children] as THREE.Line[]) line.geometry.dispose();
    this.group.clear();
    for (const force of forces) {
      const material = force.id === selected ? this.picked : this.quiet;
      const lines = shapeOf(force);
      if (force.direction) {
        const way = new THREE.Vector3().fromArray(force.direction).normalize().multiplyScalar(0.6);
        const side = way
          .clone()
          .cross(new THREE.Vector3(0.31, 0.9, 0.28))
          .normalize()
          .multiplyScalar(0.09);
        const tip = way.clone().multiplyScalar(0.8);
        lines.push([new THREE.Vector3(), way], [tip.clone().add(side), way, tip.clone().sub(side)]);
      }
      for (const points of lines) {
        const line = new THREE.Line(new THREE.BufferGeometry().setFromPoints(points), material);
        line.position.fromArray(force.position);
        this.group.add(line);
      }
    }
  }

  /** @param rows of the lamps, as the server tells them; @param picked which of them is */
  setLamps(rows: number[][], picked: number) {
    for (const line of [...this.beams.children] as THREE.Line[]) line.geometry.dispose();
    this.beams.clear();
    rows.forEach((row, n) => {
      if (!row[8]) return;
      for (const points of beamOf(row)) {
        const material = n === picked ? this.picked : this.quiet;
        const line = new THREE.Line(new THREE.BufferGeometry().setFromPoints(points), material);
        line.position.set(row[1], row[2], row[3]);
        this.beams.add(line);
      }
    });
  }

  /** Frames across the shot's camera at the distances that are sharp. */
  setFocus(camera: Scene["camera"] | null, shape: number) {
    for (const line of [...this.focus.children] as THREE.Line[]) line.geometry.dispose();
    this.focus.clear();
    if (!camera) return;
    const from = new THREE.Vector3().fromArray(camera.position);
    const { ahead, right, up } = axes(camera);
    const half = 18 / camera.focal;
    camera.sharp.forEach((far, n) => {
      if (!far) return;
      const corners = [
        [-1, -1],
        [1, -1],
        [1, 1],
        [-1, 1],
        [-1, -1],
      ].map(([a, b]) =>
        from
          .clone()
          .addScaledVector(ahead, far)
          .addScaledVector(right, a * half * far)
          .addScaledVector(up, (b * half * far) / shape),
      );
      this.focus.add(
        new THREE.Line(new THREE.BufferGeometry().setFromPoints(corners), n === 1 ? this.picked : this.quiet),
      );
    });
  }

  dispose() {
    this.set([], null);
    this.setFocus(null, 1);
    this.setLamps([], -1);
    this.quiet.dispose();
    this.picked.dispose();
  }
}
