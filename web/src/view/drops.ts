import * as THREE from "three";

/** Numbers of a particle: its place, its speed, its age, its number, its kind and what presses on it. */
const WIDTH = 10;

/** What particles are coloured by. */
export type DropsBy = "speed" | "age" | "pressure";
/** What each of these is told in. */
export const DROP_UNITS: Record<DropsBy, string> = { speed: "m/s", age: "s", pressure: "Pa" };

/** A liquid's particles as points: slow or new ones dark, fast or old ones bright. */
export class Drops {
  readonly points = new THREE.Points(
    new THREE.BufferGeometry(),
    new THREE.PointsMaterial({ vertexColors: true, size: 2, sizeAttenuation: false }),
  );

  constructor() {
    this.points.visible = false;
  }

  /** @param rows ten numbers each, or nothing to hide them. @return the greatest value that is shown */
  set(rows: Float32Array | null, by: DropsBy): number {
    this.points.visible = !!rows?.length;
    if (!rows?.length) return 0;
    const count = rows.length / WIDTH;
    const value = (n: number) =>
      by === "age"
        ? rows[n + 6]
        : by === "pressure"
          ? rows[n + 9]
          : Math.hypot(rows[n + 3], rows[n + 4], rows[n + 5]);
    let most = 1e-6;
    for (let n = 0; n < rows.length; n += WIDTH) most = Math.max(most, value(n));
    const places = new Float32Array(3 * count);
    const colours = new Float32Array(3 * count);
    for (let n = 0; n < count; n++) {
      const share = Math.sqrt(value(WIDTH * n) / most);
      for (let c = 0; c < 3; c++) places[3 * n + c] = rows[WIDTH * n + c];
      colours.set([0.05 + 0.9 * share * share, 0.2 + 0.7 * share, 0.45 + 0.45 * share], 3 * n);
    }
    this.points.geometry.dispose();
    this.points.geometry = new THREE.BufferGeometry();
    this.points.geometry.setAttribute("position", new THREE.BufferAttribute(places, 3));
    this.points.geometry.setAttribute("color", new THREE.BufferAttribute(colours, 3));
    return most;
  }

  dispose() {
    this.points.geometry.dispose();
    (this.points.material as THREE.Material).dispose();
  }
}
