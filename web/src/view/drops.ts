import * as THREE from "three";

/** Numbers of a particle: its place, its speed, its age, its number, its kind and what presses on it. */
const WIDTH = 10;
/** Arrows in a slab at most, and how long the longest is, in times the slab's thickness. */
const ARROWS = 900;
const LONGEST = 3;

/** What particles are coloured by. */
export type DropsBy = "speed" | "age" | "pressure";
/** What each of these is told in. */
export const DROP_UNITS: Record<DropsBy, string> = { speed: "m/s", age: "s", pressure: "Pa" };

/** What alone is shown of a liquid that is cut open: across which axis (0 x, 1 y, 2 z), where, how far to both sides
 * (metres), and whether with arrows. */
export interface Slab {
  axis: number;
  at: number;
  half: number;
  arrows: boolean;
}

const valueOf = (rows: Float32Array, n: number, by: DropsBy) =>
  by === "age"
    ? rows[n + 6]
    : by === "pressure"
      ? rows[n + 9]
      : Math.hypot(rows[n + 3], rows[n + 4], rows[n + 5]);

/** A liquid's particles as points: slow or new ones dark, fast or old ones bright; all of them, or those of a slab. */
export class Drops {
  readonly group = new THREE.Group();
  private material = new THREE.PointsMaterial({ vertexColors: true, size: 2, sizeAttenuation: false });
  private points = new THREE.Points(new THREE.BufferGeometry(), this.material);
  private arrows = new THREE.LineSegments(
    new THREE.BufferGeometry(),
    new THREE.LineBasicMaterial({ color: 0xebe5d8, transparent: true, opacity: 0.7 }),
  );
  private rows: Float32Array = new Float32Array();
  private chosen: number[] = [];
  private by: DropsBy = "speed";
  private slab: Slab | null = null;

  constructor() {
    this.group.add(this.points, this.arrows);
    this.group.visible = false;
  }

  /** @param rows ten numbers each, or nothing to hide them. @return the greatest value that is shown */
  set(rows: Float32Array | null, by: DropsBy, slab: Slab | null = null): number {
    this.group.visible = !!rows?.length;
    if (!rows?.length) return 0;
    Object.assign(this, { rows, by, slab, chosen: [] });
    let most = 1e-6;
    for (let n = 0; n < rows.length; n += WIDTH) {
      most = Math.max(most, valueOf(rows, n, by));
      if (!slab || Math.abs(rows[n + slab.axis] - slab.at) <= slab.half) this.chosen.push(n);
    }
    const places = new Float32Array(3 * this.chosen.length);
    const colours = new Float32Array(3 * this.chosen.length);
    this.chosen.forEach((row, n) => {
      const share = Math.sqrt(valueOf(rows, row, by) / most);
      for (let c = 0; c < 3; c++) places[3 * n + c] = rows[row + c];
      colours.set([0.05 + 0.9 * share * share, 0.2 + 0.7 * share, 0.45 + 0.45 * share], 3 * n);
    });
    this.material.size = slab ? 4 : 2;
    this.points.geometry.dispose();
    this.points.geometry = new THREE.BufferGeometry();
    this.points.geometry.setAttribute("position", new THREE.BufferAttribute(places, 3));
    this.points.geometry.setAttribute("color", new THREE.BufferAttribute(colours, 3));
    this.point();
    return most;
  }

  /** What the particle of a slab has that a ray comes nearest to, if any is near. */
  read(ray: THREE.Ray): { value: number; unit: string } | null {
    const { slab, rows } = this;
    if (!slab || !this.group.visible) return null;
    const normal = new THREE.Vector3().setComponent(slab.axis, 1);
    const at = ray.intersectPlane(new THREE.Plane(normal, -slab.at), new THREE.Vector3());
    if (!at) return null;
    let [near, found] = [(3 * slab.half) ** 2, -1];
    for (const n of this.chosen) {
      const far = (rows[n] - at.x) ** 2 + (rows[n + 1] - at.y) ** 2 + (rows[n + 2] - at.z) ** 2;
      if (far < near) [near, found] = [far, n];
    }
    return found < 0 ? null : { value: valueOf(rows, found, this.by), unit: DROP_UNITS[this.by] };
  }

  dispose() {
    for (const part of [this.points, this.arrows]) {
      part.geometry.dispose();
      (part.material as THREE.Material).dispose();
    }
  }

  /** Which way some of them go within the slab, the faster the longer. */
  private point() {
    const { slab, rows, chosen } = this;
    this.arrows.visible = !!slab?.arrows;
    this.arrows.geometry.dispose();
    this.arrows.geometry = new THREE.BufferGeometry();
    if (!slab?.arrows) return;
    const step = Math.max(1, Math.ceil(chosen.length / ARROWS));
    const some = chosen.filter((_, n) => n % step === 0);
    const most = Math.max(1e-6, ...some.map((n) => valueOf(rows, n, "speed")));
    const points = some.flatMap((n) => {
      const from = new THREE.Vector3().fromArray(rows, n);
      const way = new THREE.Vector3().fromArray(rows, n + 3).setComponent(slab.axis, 0);
      const to = from.clone().addScaledVector(way, (2 * LONGEST * slab.half) / most);
      return [from, to];
    });
    this.arrows.geometry.setFromPoints(points);
  }
}
