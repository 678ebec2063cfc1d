import * as THREE from "three";
import { watch, type ShallowRef } from "vue";
import { useBrush, type Stroke } from "../stores/brush";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { BrushMark } from "../view/brushMark";
import { seenPoint } from "../view/seenPoint";
import type { Stage } from "../view/stage";

/** Places of a stroke are at least so far apart, in radii, and at most so many. */
const APART = 0.25;
const MOST = 600;

/** Painting strokes in the view: on what is dense there, else on a plane through where it last was. */
export function useBrushing(stage: ShallowRef<Stage | null>) {
  const desk = useDesk();
  const catalog = useCatalog();
  const brush = useBrush();
  const mark = new BrushMark();
  /** How deep the hand works where nothing is under it. */
  const depth = new THREE.Vector3();
  let known = false;
  let places: number[][] | null = null;

  watch(stage, (made) => made?.props.scene.add(mark.group));
  watch(
    () => brush.at,
    (at) => {
      if (at) return;
      mark.hide();
      stage.value?.touch();
    },
  );
  // What is painted goes with its card.
  watch(
    () => [desk.selected, desk.chapter, desk.byId.has(brush.at?.node ?? "")] as const,
    ([selected, , there]) => {
      if (brush.at && (!there || selected !== brush.at.node)) brush.at = null;
    },
  );

  function point(x: number, y: number): THREE.Vector3 | null {
    const ray = stage.value!.aim.ray(x, y);
    const volume = stage.value!.volume;
    const seen = volume && seenPoint(ray, volume);
    if (seen) {
      depth.copy(seen);
      known = true;
      return seen;
    }
    if (!known && volume) {
      depth
        .fromArray(volume.size)
        .multiplyScalar(0.5 * volume.voxel)
        .add(new THREE.Vector3().fromArray(volume.corner));
      known = true;
    }
    const way = stage.value!.camera.getWorldDirection(new THREE.Vector3());
    const plane = new THREE.Plane().setFromNormalAndCoplanarPoint(way, depth);
    return ray.intersectPlane(plane, new THREE.Vector3());
  }

  const trail = () => (places ?? []).map(([x, y, z]) => new THREE.Vector3(x, y, z));

  /** @return whether the brush took it */
  function down(x: number, y: number, event: PointerEvent): boolean {
    if (!brush.at) return false;
    places = [];
    stage.value!.orbit.enabled = false;
    (event.target as HTMLElement).setPointerCapture(event.pointerId);
    move(x, y, event);
    return true;
  }

  function move(x: number, y: number, event: PointerEvent): boolean {
    if (!brush.at || !stage.value) return false;
    const at = point(x, y);
    if (!at) return true;
    const last = places?.at(-1);
    const far = last ? at.distanceTo(new THREE.Vector3(last[0], last[1], last[2])) : Infinity;
    if (places && far > APART * brush.hand.radius && places.length < MOST) {
      const pressed = event.pointerType === "pen" ? Math.max(event.pressure, 0.05) : 1;
      places.push([...at.toArray().map((c) => Number(c.toFixed(4))), Number(pressed.toFixed(3))]);
    }
    mark.show(at, brush.hand.radius, stage.value.camera, trail());
    stage.value.touch();
    return true;
  }

  /** One stroke is one edit, so that it is undone by itself. */
  function up(): boolean {
    if (!places) return false;
    const stroke: Stroke = { ...brush.hand, frame: desk.frame, places };
    places = null;
    stage.value!.orbit.enabled = true;
    const { node, dial } = brush.at ?? {};
    const own = node && desk.byId.get(node);
    if (!own || !dial || !stroke.places.length) return true;
    const before = catalog.read(own, dial) as unknown as Stroke[];
    void desk.edit([{ do: "set", node: own.id, dial, value: [...before, stroke] as never }]);
    return true;
  }

  return { down, move, up };
}
