import * as THREE from "three";
import type { Channel } from "./volumes";

export type Axis = "x" | "y" | "z";

/** A cut through one quantity of a frame, in false colours, with its value under the pointer and
 * arrows along the flow. */
export class Slice {
  readonly group = new THREE.Group();
  private texture = new THREE.DataTexture(new Uint8Array(4), 1, 1);
  private plane = new THREE.Mesh(
    new THREE.PlaneGeometry(1, 1),
    new THREE.MeshBasicMaterial({
      map: this.texture,
      side: THREE.DoubleSide,
      transparent: true,
      opacity: 0.85,
    }),
  );
  private arrows = new THREE.LineSegments(
    new THREE.BufferGeometry(),
    new THREE.LineBasicMaterial({ color: 0xebe5d8, transparent: true, opacity: 0.8 }),
  );
  private channel: Channel | null = null;
  private axis: Axis = "z";
  private layer = 0;

  constructor() {
    this.texture.magFilter = this.texture.minFilter = THREE.LinearFilter;
    this.group.add(this.plane, this.arrows);
    this.group.visible = false;
  }

  /** Shows a layer (0 to 1 through the grid) across an axis; nothing without a channel. */
  set(channel: Channel | null, flow: Channel | null, axis: Axis, part: number, tint: string) {
    this.channel = channel;
    this.axis = axis;
    this.group.visible = !!channel;
    if (!channel) return;
    const across = "xyz".indexOf(axis);
    const [a, b] = [0, 1, 2].filter((n) => n !== across);
    const count = channel.size;
    this.layer = Math.min(Math.max(Math.round(part * (count[across] - 1)), 0), count[across] - 1);
    this.paint(channel, a, b, across, tint);
    const length = (n: number) => count[n] * channel.voxel;
    const middle = [0, 1, 2].map((n) => channel.corner[n] + length(n) / 2);
    middle[across] = channel.corner[across] + (this.layer + 0.5) * channel.voxel;
    this.plane.position.fromArray(middle);
    this.plane.scale.set(length(a), length(b), 1);
    // The plane's own x and y lie along the axes a and b.
    const columns = [0, 1, 2].map(() => new THREE.Vector3());
    columns[0].setComponent(a, 1);
    columns[1].setComponent(b, 1);
    columns[2].crossVectors(columns[0], columns[1]);
    this.plane.quaternion.setFromRotationMatrix(
      new THREE.Matrix4().makeBasis(columns[0], columns[1], columns[2]),
    );
    this.point(flow, a, b, across);
  }

  /** The value where a ray meets the slice. */
  read(ray: THREE.Ray): { value: number; unit: string } | null {
    const { channel } = this;
    if (!channel || !this.group.visible) return null;
    const normal = new THREE.Vector3().setComponent("xyz".indexOf(this.axis), 1);
    const plane = new THREE.Plane().setFromNormalAndCoplanarPoint(normal, this.plane.position);
    const at = ray.intersectPlane(plane, new THREE.Vector3());
    if (!at) return null;
    const cell = [0, 1, 2].map((n) =>
      Math.floor(
        (at.getComponent(n) - channel.corner[n]) / channel.voxel +
          (n === "xyz".indexOf(this.axis) ? 0.001 : 0),
      ),
    );
    if (cell.some((c, n) => c < 0 || c >= channel.size[n])) return null;
    const byte = channel.data[(cell[2] * channel.size[1] + cell[1]) * channel.size[0] + cell[0]];
    return { value: channel.low + (byte / 255) * (channel.high - channel.low), unit: channel.unit };
  }

  dispose() {
    this.texture.dispose();
    this.plane.geometry.dispose();
    (this.plane.material as THREE.Material).dispose();
    this.arrows.geometry.dispose();
  }

  private paint(channel: Channel, a: number, b: number, across: number, tint: string) {
    const [width, height] = [channel.size[a], channel.size[b]];
    const pixels = new Uint8Array(width * height * 4);
    const zero = Math.min(Math.max(-channel.low / (channel.high - channel.low || 1), 0), 1) * 255;
    const most = Math.max(zero, 255 - zero, 1);
    const colour = new THREE.Color(tint);
    const index = [0, 0, 0];
    index[across] = this.layer;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        index[a] = x;
        index[b] = y;
        const byte = channel.data[(index[2] * channel.size[1] + index[1]) * channel.size[0] + index[0]];
        const part = (byte - zero) / most;
        const at = 4 * (y * width + x);
        // Below nothing it turns towards violet, so that signs can be told apart.
        const [r, g, bl] = part >= 0 ? [colour.r, colour.g, colour.b] : [0.55, 0.42, 1];
        pixels[at] = 255 * r * Math.abs(part);
        pixels[at + 1] = 255 * g * Math.abs(part);
        pixels[at + 2] = 255 * bl * Math.abs(part);
        pixels[at + 3] = 90 + 165 * Math.min(1, 3 * Math.abs(part));
      }
    this.texture.dispose();
    this.texture.image = { data: pixels, width, height } as never;
    this.texture.needsUpdate = true;
  }

  private point(flow: Channel | null, a: number, b: number, across: number) {
    this.arrows.visible = !!flow;
    if (!flow) return;
    const step = Math.max(2, Math.round(Math.max(flow.size[a], flow.size[b]) / 26));
    const points: THREE.Vector3[] = [];
    const bytes = new Int8Array(flow.data.buffer, flow.data.byteOffset, flow.data.length);
    const index = [0, 0, 0];
    index[across] = Math.min(this.layer, flow.size[across] - 1);
    for (let y = step >> 1; y < flow.size[b]; y += step)
      for (let x = step >> 1; x < flow.size[a]; x += step) {
        index[a] = x;
        index[b] = y;
        const at = 3 * ((index[2] * flow.size[1] + index[1]) * flow.size[0] + index[0]);
        const v = new THREE.Vector3(bytes[at], bytes[at + 1], bytes[at + 2]).divideScalar(127);
        if (v.length() < 0.02) continue;
        const from = new THREE.Vector3(...index.map((c, n) => flow.corner[n] + (c + 0.5) * flow.voxel));
        const to = from
          .clone()
          .addScaledVector(v.clone().normalize(), step * flow.voxel * (0.25 + 0.75 * v.length()));
        const back = to.clone().sub(from).multiplyScalar(0.25);
        const side = new THREE.Vector3().setComponent(across, 1).cross(back).multiplyScalar(0.6);
        points.push(from, to, to, to.clone().sub(back).add(side), to, to.clone().sub(back).sub(side));
      }
    this.arrows.geometry.dispose();
    this.arrows.geometry = new THREE.BufferGeometry().setFromPoints(points);
  }
}
