import * as THREE from "three";
import { api } from "../api/client";

/** So much memory the surfaces of a liquid may take, bytes. */
const ROOM = 384 * 1024 * 1024;

/** Bytes of a surface as it lies in memory. */
const size = (shape: THREE.BufferGeometry) =>
  24 * (shape.getAttribute("position")?.count ?? 0) + 4 * (shape.index?.count ?? 0);

/** A surface as the server tells it. */
export function waterShape(bytes: ArrayBuffer): THREE.BufferGeometry {
  const [points, triangles] = new Uint32Array(bytes, 0, 2);
  const shape = new THREE.BufferGeometry();
  shape.setAttribute("position", new THREE.BufferAttribute(new Float32Array(bytes, 8, 3 * points), 3));
  shape.setIndex(new THREE.BufferAttribute(new Uint32Array(bytes, 8 + 12 * points, 3 * triangles), 1));
  const colours = 8 + 12 * (points + triangles);
  if (points && bytes.byteLength > colours)
    shape.setAttribute("dye", new THREE.BufferAttribute(new Float32Array(bytes, colours, 3 * points), 3));
  shape.computeVertexNormals();
  return shape;
}

/** The surfaces of a liquid's frames, by their keys. Those that were seen longest ago make room. */
export class Waters {
  private shapes = new Map<string, Promise<THREE.BufferGeometry>>();
  private there = new Map<string, THREE.BufferGeometry>();

  /** @param key of a frame; @param least parts smaller than this share of the largest are left out */
  fetch(key: string, least: number): Promise<THREE.BufferGeometry> {
    const name = `${key} ${least}`;
    let shape = this.shapes.get(name);
    if (!shape) {
      shape = fetch(api.liquidUrl(key, least))
        .then((answer) => (answer.ok ? answer.arrayBuffer() : new ArrayBuffer(8)))
        .then((bytes) => this.lay(name, bytes));
      this.shapes.set(name, shape);
    }
    return shape;
  }

  /** One that was fetched already. */
  get(key: string, least: number): THREE.BufferGeometry | undefined {
    const name = `${key} ${least}`;
    const shape = this.there.get(name);
    if (shape) {
      this.there.delete(name);
      this.there.set(name, shape);
    }
    return shape;
  }

  dispose() {
    for (const shape of this.there.values()) shape.dispose();
  }

  private lay(name: string, bytes: ArrayBuffer): THREE.BufferGeometry {
    const shape = waterShape(bytes);
    this.there.set(name, shape);
    let taken = [...this.there.values()].reduce((sum, one) => sum + size(one), 0);
    for (const [old, one] of this.there) {
      if (taken <= ROOM || old === name) break;
      taken -= size(one);
      this.there.delete(old);
      this.shapes.delete(old);
      one.dispose();
    }
    return shape;
  }
}
