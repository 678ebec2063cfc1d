import * as THREE from "three";
import { computed, ref, watch, type ShallowRef } from "vue";
import { useCatalog } from "../stores/catalog";
import { useChosen } from "../stores/chosen";
import { useDesk } from "../stores/desk";
import { useGrid } from "../stores/grid";
import type { Grip, Place } from "../view/handles";
import type { Stage } from "../view/stage";
import { useTogether } from "./useTogether";

/** Which dial each handle turns. */
const DIALS: Record<Grip, keyof Place> = { move: "position", turn: "turn", size: "scale" };

/** Handles on what is picked: shown where the hand may move it, and what they did set as dials. */
export function useHandles(stage: ShallowRef<Stage | null>, say: (place: Place | null, grip: Grip) => void) {
  const desk = useDesk();
  const catalog = useCatalog();
  const chosen = useChosen();
  const together = useTogether(stage);
  const grid = useGrid();
  const grip = ref<Grip>("move");
  const node = computed(() => (desk.selected ? desk.byId.get(desk.selected) : undefined));
  /** What can be done with it: only props turn and have a size. */
  const grips = computed<Grip[]>(() => {
    if (!node.value || chosen.held(node.value)) return [];
    const dials = catalog.kind(node.value.kind).dials.map((dial) => dial.name);
    return (["move", "turn", "size"] as Grip[]).filter((one) => dials.includes(DIALS[one]));
  });
  const used = computed<Grip | null>(() =>
    grips.value.includes(grip.value) ? grip.value : (grips.value[0] ?? null),
  );

  /** Puts them on what is picked, wherever that is now. */
  function follow() {
    const view = stage.value;
    if (!view || view.handles.busy) return;
    if (used.value) view.handles.use(used.value);
    const object = used.value && !desk.playing ? view.props.object(desk.selected!) : undefined;
    view.handles.hold(object?.visible ? object : undefined);
  }

  watch(stage, (view) => {
    if (!view) return;
    const way = (place: Place) =>
      new THREE.Vector3()
        .fromArray(place.position)
        .sub(new THREE.Vector3().fromArray(view.handles.from!.position));
    view.handles.grid = grid.now;
    view.handles.taken = () => together.begin(desk.selected!);
    view.handles.dragged = (place, by) => {
      if (by === "move") together.along(way(place));
      say(place, by);
    };
    view.handles.done = async (place, by) => {
      say(null, by);
      if (by === "move" && chosen.several) return chosen.shift(way(place).toArray());
      await desk.place(desk.selected!, DIALS[by], place[DIALS[by]]);
    };
  });
  watch(
    [used, () => grid.always, () => grid.step, () => desk.selected, () => desk.playing, () => desk.bodies],
    follow,
    { flush: "post" },
  );

  return { grip, grips, used, follow };
}
