import * as THREE from "three";
import { ref, type Ref, type ShallowRef } from "vue";
import { plain } from "../lib/numbers";
import { useChosen } from "../stores/chosen";
import { useDesk } from "../stores/desk";
import { useGrid } from "../stores/grid";
import type { Stage } from "../view/stage";
import { useBrushing } from "./useBrushing";
import { usePlacing } from "./usePlacing";
import { useTogether } from "./useTogether";

/** Where the hand keeps to no grid, it still keeps to this, metres. */
const FREE = 0.001;

/** Picking things in the view and moving them there; reads the slice under the pointer. */
export function usePicking(
  stage: ShallowRef<Stage | null>,
  canvas: Ref<HTMLCanvasElement | null>,
  holder: Ref<HTMLElement | null>,
) {
  const desk = useDesk();
  const placing = usePlacing(stage);
  const brushing = useBrushing(stage);
  const chosen = useChosen();
  const together = useTogether(stage);
  const grid = useGrid();
  const readout = ref<{ x: number; y: number; text: string } | null>(null);
  let press: {
    x: number;
    y: number;
    id: string | null;
    plane: THREE.Plane;
    from: THREE.Vector3;
    start: THREE.Vector3;
  } | null = null;
  let moving: THREE.Vector3 | null = null;

  function place(event: PointerEvent) {
    const box = canvas.value!.getBoundingClientRect();
    return [
      ((event.clientX - box.left) / box.width) * 2 - 1,
      1 - ((event.clientY - box.top) / box.height) * 2,
    ] as const;
  }

  function inside(event: PointerEvent) {
    const { left, top } = canvas.value!.getBoundingClientRect();
    return { x: event.clientX - left, y: event.clientY - top };
  }

  function say(event: PointerEvent, text: string) {
    const box = holder.value!.getBoundingClientRect();
    readout.value = { x: event.clientX - box.left + 14, y: event.clientY - box.top + 10, text };
  }

  /** What the hand may move: not what is locked, nor what the camera stands over, which is a ground. */
  function movable(id: string | null | undefined): boolean {
    const node = id ? desk.byId.get(id) : undefined;
    const object = id ? stage.value?.props.object(id) : undefined;
    if (!node || chosen.held(node) || !object) return false;
    const box = new THREE.Box3().setFromObject(object);
    const eye = stage.value!.camera.position;
    return !(eye.x > box.min.x && eye.x < box.max.x && eye.z > box.min.z && eye.z < box.max.z);
  }

  function down(event: PointerEvent) {
    if (event.button !== 0 || !stage.value || stage.value.handles.under) return;
    const [x, y] = place(event);
    if (brushing.down(x, y, event)) return;
    const hit = stage.value.aim.pick(x, y);
    if (desk.focusing) return void focus(hit?.point ?? null);
    if (desk.aiming) return aim(x, y);
    if (desk.placing) return placing.down(inside(event), hit, stage.value.aim.spot(x, y));
    const object = hit && stage.value.props.object(hit.id);
    press = {
      x: event.clientX,
      y: event.clientY,
      id: hit?.id ?? null,
      plane: new THREE.Plane(),
      from: hit?.point ?? new THREE.Vector3(),
      start: object?.position.clone() ?? new THREE.Vector3(),
    };
    // What is picked already can be moved; dragging anything else turns the view.
    if (hit && chosen.all.includes(hit.id) && movable(hit.id) && !event.shiftKey) {
      together.begin(hit.id);
      stage.value.orbit.enabled = false;
      canvas.value!.setPointerCapture(event.pointerId);
    }
  }

  /** What lies under the pointer is what the lamp shines at. */
  function aim(x: number, y: number) {
    const lamp = desk.aiming!;
    desk.aiming = null;
    const place = stage.value!.aim.spot(x, y);
    if (!place) return desk.complain(new Error("There is only sky there; click a prop or the ground."));
    const target = place.map((c) => Number(c.toFixed(3)));
    return desk.edit([
      { do: "set", node: lamp, dial: "aim", value: null },
      { do: "place", node: lamp, frame: desk.frame, target },
    ]);
  }

  /** How far ahead of the shot's camera a point stands is what shall be sharp. */
  function focus(point: THREE.Vector3 | null) {
    desk.focusing = false;
    const camera = desk.shot?.scene.camera;
    if (!point || !camera)
      return desk.complain(
        new Error("Nothing stands there that could be sharp; click a prop or the ground."),
      );
    const from = new THREE.Vector3().fromArray(camera.position);
    const ahead = new THREE.Vector3().fromArray(camera.target).sub(from).normalize();
    const far = Number(point.clone().sub(from).dot(ahead).toFixed(3));
    if (far <= 0) return desk.complain(new Error("That lies behind the shot's camera."));
    return desk.edit([
      { do: "set", node: "camera", dial: "focus_on", value: null },
      { do: "set", node: "camera", dial: "focus", value: far },
    ]);
  }

  function move(event: PointerEvent) {
    if (placing.move(inside(event), () => stage.value?.aim.spot(...place(event)) ?? null)) return;
    if (!stage.value || stage.value.handles.busy) return;
    if (brushing.move(...place(event), event)) {
      canvas.value!.style.cursor = "crosshair";
      return;
    }
    if (!press) {
      const ray = stage.value.aim.ray(...place(event));
      const found = stage.value.slice.read(ray) ?? stage.value.drops.read(ray);
      if (found) say(event, `${plain(found.value)} ${found.unit}`);
      else readout.value = null;
      const over =
        desk.focusing || desk.placing || desk.aiming ? null : stage.value.aim.pick(...place(event))?.id;
      const moves = !!over && chosen.all.includes(over) && movable(over);
      canvas.value!.style.cursor =
        desk.focusing || desk.placing || desk.aiming
          ? "crosshair"
          : moves
            ? "move"
            : movable(over)
              ? "pointer"
              : "grab";
      return;
    }
    if (stage.value.orbit.enabled || !press.id) return;
    if (!moving && Math.hypot(event.clientX - press.x, event.clientY - press.y) < 4) return;
    const object = stage.value.props.object(press.id);
    if (!object) return;
    // Along the floor; with Alt up and down.
    const normal = event.altKey
      ? stage.value.camera.getWorldDirection(new THREE.Vector3()).setY(0).normalize()
      : new THREE.Vector3(0, 1, 0);
    press.plane.setFromNormalAndCoplanarPoint(normal, press.from);
    const at = stage.value.aim.ray(...place(event)).intersectPlane(press.plane, new THREE.Vector3());
    if (!at) return;
    const far = at.sub(press.from);
    if (event.altKey) far.set(0, far.y, 0);
    const to = press.start.clone().add(far);
    const step = grid.now(event.shiftKey) ?? FREE;
    // What the hand does not move stays where it is, on the grid or off it.
    const goes = event.altKey ? [false, true, false] : [true, false, true];
    const start = press.start.toArray();
    const places = to
      .toArray()
      .map((c, axis) => (goes[axis] ? Number((Math.round(c / step) * step).toFixed(4)) : start[axis]));
    moving = new THREE.Vector3(...places);
    object.position.copy(moving);
    together.along(moving.clone().sub(press.start));
    stage.value.touch();
    say(event, `${moving.toArray().map(plain).join(", ")} m`);
  }

  async function up(event: PointerEvent) {
    if (brushing.up()) return;
    if (placing.up(canvas.value!.getBoundingClientRect(), event)) return;
    if (!press || !stage.value) return;
    const { id, x, y, start } = press;
    const still = Math.hypot(event.clientX - x, event.clientY - y) < 4;
    press = null;
    stage.value.orbit.enabled = true;
    readout.value = null;
    if (moving && id) {
      const to = moving;
      moving = null;
      if (chosen.several && chosen.all.includes(id)) await chosen.shift(to.sub(start).toArray());
      else await desk.place(id, "position", to.toArray());
    } else if (still) {
      const node = id ? desk.byId.get(id) : undefined;
      // A click on a locked thing is one beside all things.
      const free = node && !chosen.held(node);
      if (event.shiftKey) return free ? chosen.toggle(node.id) : undefined;
      desk.selected = free ? node.id : null;
      if (free) desk.chapter = desk.chapterOf(node);
    }
  }

  return { readout, box: placing.box, trail: placing.trail, down, move, up };
}
