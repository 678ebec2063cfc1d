import * as THREE from "three";
import type { ShotNode } from "../api/types";
import type { useCatalog } from "../stores/catalog";
import type { useDesk } from "../stores/desk";
import { axes } from "../view/eye";

type Desk = ReturnType<typeof useDesk>;
type Catalog = ReturnType<typeof useCatalog>;

/** What a dial is at a frame, by its row of the timeline where it changes. */
export function valueAt(desk: Desk, catalog: Catalog, node: ShotNode, dial: string, frame: number) {
  const row = desk.shot?.timeline.find((one) => one.node === node.id && one.dial === dial);
  return (row?.raw ?? row?.values)?.[frame - desk.first] ?? catalog.read(node, dial);
}

/** Where the camera sees a place, 0 to 1 across and down; nothing behind it. */
function seen(desk: Desk, place: number[], frame: number, shape: number): [number, number] | null {
  const { scene, eye } = desk.shot!;
  const camera = eye[frame - desk.first] ?? scene.camera;
  const { ahead, right, up } = axes(camera);
  const off = new THREE.Vector3().fromArray(place).sub(new THREE.Vector3().fromArray(camera.position));
  const far = off.dot(ahead);
  if (far <= 0) return null;
  const half = 18 / camera.focal;
  return [0.5 + (0.5 * off.dot(right)) / far / half, 0.5 - (0.5 * off.dot(up) * shape) / far / half];
}

/** How far what a mask goes with has gone since the first frame, parts of the frame across and down: a tracked spot, or a
 * prop or lamp as the camera sees it. Of what goes with another thing that is not told here. */
export function driftOf(desk: Desk, catalog: Catalog, mask: ShotNode, shape: number): [number, number] {
  const node = desk.byId.get(String(catalog.read(mask, "follows")));
  if (!node || !desk.shot || (node.kind !== "track" && catalog.read(node, "leader"))) return [0, 0];
  const spot = (frame: number): [number, number] | null =>
    node.kind === "track"
      ? [
          Number(valueAt(desk, catalog, node, "x", frame)) / 100,
          Number(valueAt(desk, catalog, node, "y", frame)) / 100,
        ]
      : seen(desk, valueAt(desk, catalog, node, "position", frame) as number[], frame, shape);
  const [now, first] = [spot(desk.frame), spot(desk.first)];
  return now && first ? [now[0] - first[0], now[1] - first[1]] : [0, 0];
}
