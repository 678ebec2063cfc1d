import * as THREE from "three";
import { ref, type ShallowRef } from "vue";
import { ANYWHERE, useDesk } from "../stores/desk";
import type { Picked } from "../view/aim";
import type { Stage } from "../view/stage";

const rounded = (point: THREE.Vector3) => point.toArray().map((c) => Number(c.toFixed(4)));
const same = (a: number[], b: number[]) => a.every((c, n) => Math.abs(c - b[n]) < 2e-4);

/** A way that is drawn has a place every so many pixels. */
const APART = 24;

/** Picking places, faces or pieces of a prop for a dial: with a click each, or all in a box that is dragged. */
export function usePlacing(stage: ShallowRef<Stage | null>) {
  const desk = useDesk();
  /** The box while it is dragged, in pixels of the view. */
  const box = ref<{ left: number; top: number; width: number; height: number } | null>(null);
  let from: { x: number; y: number; hit: Picked | null } | null = null;
  /** The way that is drawn, in pixels of the view and in the world. */
  const trail = ref<{ x: number; y: number }[]>([]);
  let way: number[][] | null = null;

  /** Meshes of the prop that are seen. */
  const meshes = () =>
    (stage.value!.props.group.children as THREE.Mesh[]).filter(
      (mesh) => mesh.name === desk.placing!.prop && mesh.visible,
    );

  function corners(mesh: THREE.Mesh, face: number) {
    const places = mesh.geometry.getAttribute("position");
    return [0, 1, 2].map((k) => new THREE.Vector3().fromBufferAttribute(places, 3 * face + k));
  }

  const middle = (mesh: THREE.Mesh, face: number) =>
    corners(mesh, face)
      .reduce((sum, corner) => sum.add(corner), new THREE.Vector3())
      .divideScalar(3);

  function give(change: (before: never[]) => unknown[]) {
    const { node, dial } = desk.placing!;
    const before = (desk.byId.get(node)?.dials[dial] as never[] | undefined) ?? [];
    return desk.set(node, dial, change(before) as number[][]);
  }

  /** Places on anything or on the ground, as seen from the thing that they are for, or from what that is done to. */
  function spots(places: number[][]) {
    const node = desk.byId.get(desk.placing!.node);
    const owner = node && desk.family.owner(node);
    const own = stage.value!.props.object((owner ?? node)?.id ?? "");
    own?.updateMatrixWorld();
    const seen = places.map((at) => {
      const point = new THREE.Vector3().fromArray(at);
      return rounded(own ? own.worldToLocal(point) : point);
    });
    return give((before) => [...before, ...seen]);
  }

  /** A click on the prop adds what is under it, or takes it out again; one beside it ends that. */
  function click(hit: Picked | null) {
    const { prop, what } = desk.placing!;
    const mesh = hit?.object;
    if (!mesh || hit.id !== prop) return void (desk.placing = null);
    mesh.updateMatrixWorld();
    if (what === "places")
      return give((before) => [...before, rounded(mesh.worldToLocal(hit.point.clone()))]);
    if (what === "pieces") {
      const piece = mesh.userData.piece as number | undefined;
      if (piece === undefined)
        return desk.complain(
          new Error("It is still whole on this frame; go to one on which it is in pieces."),
        );
      return give((before) => [...before, piece]);
    }
    const place = rounded(middle(mesh, hit.face ?? 0));
    return give((before: number[][]) =>
      before.some((other) => same(other, place))
        ? before.filter((other) => !same(other, place))
        : [...before, place],
    );
  }

  /** What of the prop lies in the box: faces that look at the eye, pieces by their middles. */
  function within(low: THREE.Vector2, high: THREE.Vector2): (number[] | number)[] {
    const { camera } = stage.value!;
    const eye = camera.getWorldPosition(new THREE.Vector3());
    const holds = (place: THREE.Vector3) => {
      const { x, y, z } = place.clone().project(camera);
      return z < 1 && x >= low.x && x <= high.x && y >= low.y && y <= high.y;
    };
    return meshes().flatMap<number[] | number>((mesh) => {
      mesh.updateMatrixWorld();
      if (desk.placing!.what === "pieces") {
        if (mesh.userData.piece === undefined) return [];
        mesh.geometry.computeBoundingSphere();
        const at = mesh.localToWorld(mesh.geometry.boundingSphere!.center.clone());
        return holds(at) ? [mesh.userData.piece as number] : [];
      }
      const found: number[][] = [];
      const faces = mesh.geometry.getAttribute("position").count / 3;
      for (let face = 0; face < faces; face++) {
        const here = middle(mesh, face);
        if (!holds(mesh.localToWorld(here.clone()))) continue;
        const [a, b, c] = corners(mesh, face).map((corner) => mesh.localToWorld(corner));
        if (b.clone().sub(a).cross(c.sub(a)).dot(a.sub(eye)) < 0) found.push(rounded(here));
      }
      return found;
    });
  }

  /** @param at in pixels of the view; @param hit what is under it; @param place of it, or of the ground */
  function down(at: { x: number; y: number }, hit: Picked | null, place: number[] | null) {
    if (desk.placing!.prop === ANYWHERE) {
      if (!place) return void (desk.placing = null);
      way = [place];
      trail.value = [at];
      stage.value!.orbit.enabled = false;
      return;
    }
    if (desk.placing!.what === "places") return void click(hit);
    from = { ...at, hit };
    stage.value!.orbit.enabled = false;
  }

  /** @param place tells what is under the pointer; @return whether it was about picking */
  function move(at: { x: number; y: number }, place: () => number[] | null): boolean {
    if (way) {
      const last = trail.value.at(-1)!;
      if (Math.hypot(at.x - last.x, at.y - last.y) < APART) return true;
      const found = place();
      if (found) {
        way.push(found);
        trail.value = [...trail.value, at];
      }
      return true;
    }
    if (!from) return false;
    const [width, height] = [Math.abs(at.x - from.x), Math.abs(at.y - from.y)];
    if (box.value || Math.hypot(width, height) > 4)
      box.value = { left: Math.min(at.x, from.x), top: Math.min(at.y, from.y), width, height };
    return true;
  }

  /** @param size of the view in pixels; @return whether it was about picking */
  function up(size: { width: number; height: number }, event: PointerEvent): boolean {
    if (way) {
      const drawn = way;
      way = null;
      trail.value = [];
      stage.value!.orbit.enabled = true;
      if (desk.placing) void spots(drawn);
      return true;
    }
    if (!from || !desk.placing) return false;
    const { hit } = from;
    const dragged = box.value;
    from = box.value = null;
    stage.value!.orbit.enabled = true;
    if (!dragged) void click(hit);
    else {
      const [right, bottom] = [dragged.left + dragged.width, dragged.top + dragged.height];
      const low = new THREE.Vector2((2 * dragged.left) / size.width - 1, 1 - (2 * bottom) / size.height);
      const high = new THREE.Vector2((2 * right) / size.width - 1, 1 - (2 * dragged.top) / size.height);
      const found = within(low, high);
      const alike = (a: unknown, b: unknown) =>
        typeof a === "number" ? a === b : same(a as number[], b as number[]);
      if (found.length)
        void give((before) =>
          event.altKey
            ? before.filter((one) => !found.some((other) => alike(one, other)))
            : [...before, ...found.filter((one) => !before.some((other) => alike(one, other)))],
        );
    }
    return true;
  }

  return { box, trail, down, move, up };
}
