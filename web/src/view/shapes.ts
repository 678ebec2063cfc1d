import * as THREE from "three";
import { api } from "../api/client";
import type { Body } from "../api/types";
import { layCorners } from "./corners";
import { cutFarSheet } from "./farSheets";

/** Where in a pose the frame of one that moves by its file stands. */
export const AT = 9;
/** So much memory the shapes of one that moves may take, bytes. */
const ROOM = 256 * 1024 * 1024;
/** So many of them stay in any case. */
const FEWEST = 3;
/** What a corner takes, bytes. */
const CORNER = 36;

const room = (shapes: Map<number, THREE.BufferGeometry>) =>
  [...shapes.values()].reduce((sum, shape) => sum + CORNER * (shape.getAttribute("position")?.count ?? 0), 0);

/** The frames of its file that a body comes by. */
export const shapeFrames = (body: Body) => [
  ...new Set((body.poses ?? []).flatMap((pose) => (pose && pose.length > AT ? [pose[AT]] : []))),
];

/** Puts a thing to where a pose says. */
export function posed(thing: THREE.Object3D, pose: number[]) {
  thing.position.set(pose[0], pose[1], pose[2]);
  const [x, y, z] = pose.slice(3, 6).map((degrees) => (degrees * Math.PI) / 180);
  // About x, then y, then z, as the server turns them.
  thing.rotation.set(x, y, z, "ZYX");
  thing.scale.set(pose[6], pose[7], pose[8]);
}

/** The triangles of bodies, as the server has them; of those that change, for each frame of their own. */
export class Shapes {
  private shapes = new Map<string, Promise<THREE.BufferGeometry>>();
  private frames = new WeakMap<Body, Map<number, THREE.BufferGeometry>>();

  /** Fetches what stands at a place of the server, once. */
  of(url: string): Promise<THREE.BufferGeometry> {
    let shape = this.shapes.get(url);
    if (!shape) {
      shape = fetch(url)
        .then((response) => (response.ok ? response.arrayBuffer() : new ArrayBuffer(0)))
        .then((buffer) => {
          const geometry = new THREE.BufferGeometry();
          layCorners(geometry, cutFarSheet(new Float32Array(buffer)));
          return geometry;
        });
      this.shapes.set(url, shape);
    }
    return shape;
  }

  /** What a body that changes is at a frame of its own, if that is there. */
  at(body: Body, frame: number): THREE.BufferGeometry | undefined {
    return this.frames.get(body)?.get(frame);
  }

  /** Fetches the shapes of a body that moves by its file: all, or so many that they have room. */
  async moving(body: Body) {
    const frames = shapeFrames(body);
    const url = (at: number) => api.shapeUrl({ ...body.outline, at });
    const first = await this.of(url(frames[0]));
    const size = first.getAttribute("position")?.count * CORNER || 1;
    const step = Math.ceil((frames.length * size) / ROOM);
    const kept = new Map<number, THREE.BufferGeometry>();
    // A few at a time: a browser asks for no more at once.
    for (let n = 0; n < frames.length; n += 6 * step)
      await Promise.all(
        [0, 1, 2, 3, 4, 5]
          .map((k) => frames[n + k * step])
          .filter((at) => at !== undefined)
          .map(async (at) => kept.set(at, await this.of(url(at)))),
      );
    let last = first;
    const shapes = new Map(frames.map((at) => [at, (last = kept.get(at) ?? last)]));
    this.frames.set(body, shapes);
  }

  /** Fetches the surface of a sculpt at a frame of its own, which is made when it is looked at. */
  async surface(body: Body, at: number) {
    const kept = this.frames.get(body) ?? new Map<number, THREE.BufferGeometry>();
    this.frames.set(body, kept);
    if (kept.has(at)) return;
    kept.set(at, await this.of(api.shapeUrl({ ...body.outline, at })));
    // Those that were looked at longest ago make room.
    for (const [old, shape] of kept) {
      if (kept.size <= FEWEST || room(kept) <= ROOM) break;
      kept.delete(old);
      this.shapes.delete(api.shapeUrl({ ...body.outline, at: old }));
      shape.dispose();
    }
  }

  dispose() {
    for (const shape of this.shapes.values()) void shape.then((geometry) => geometry.dispose());
  }
}
