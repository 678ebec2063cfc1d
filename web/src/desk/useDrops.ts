import { computed, ref, watch, type ShallowRef } from "vue";
import { api } from "../api/client";
import { plain } from "../lib/numbers";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { DROP_UNITS, type DropsBy, type Slab } from "../view/drops";
import type { Axis } from "../view/slice";
import type { Stage } from "../view/stage";

/** So many frames' particles are kept. */
const KEPT = 24;
/** How thick a slice through a liquid is, voxels. */
const THICK = 1.6;

/** The particles of the shot's liquid in the view, where they are wanted, and the liquid cut open. */
export function useDrops(
  stage: ShallowRef<Stage | null>,
  slice: { on: boolean; axis: Axis; part: number; arrows: boolean },
) {
  const desk = useDesk();
  const catalog = useCatalog();
  const by = ref<DropsBy | null>(null);
  const most = ref(0);
  const known = new Map<string, Float32Array>();
  const liquid = computed(() => desk.nodes.find((node) => node.kind === "liquid"));
  /** Whether the shot has a liquid at all. */
  const wet = computed(() => !!liquid.value);
  /** What alone is shown of it while it is cut open. */
  const slab = computed<Slab | null>(() => {
    const box = desk.frames?.boxes.find((one) => one.node === liquid.value?.id);
    if (!slice.on || !box || !liquid.value || !desk.frames) return null;
    const axis = "xyz".indexOf(slice.axis);
    const coarser = desk.quality === "draft" ? (catalog.read(liquid.value, "draft") as number) : 1;
    return {
      axis,
      at: box.corner[axis] + slice.part * box.size[axis] * desk.frames.voxel,
      half: 0.5 * THICK * coarser * (catalog.read(liquid.value, "voxel") as number),
      arrows: slice.arrows,
    };
  });
  /** What they are coloured by: a liquid that is cut open shows them at any rate. */
  const shown = computed(() => by.value ?? (slab.value ? "speed" : null));
  const range = computed(() =>
    shown.value && most.value ? `0 … ${plain(most.value)} ${DROP_UNITS[shown.value]}` : "",
  );

  async function fetch(key: string): Promise<Float32Array | null> {
    const here = known.get(key);
    if (here) return here;
    const rows = await api.drops(key).catch(() => null);
    if (rows) known.set(key, rows);
    if (known.size > KEPT) known.delete(known.keys().next().value!);
    return rows;
  }

  async function show() {
    const key = shown.value && wet.value ? desk.row?.liquid : null;
    const rows = key ? await fetch(key) : null;
    if (key && key !== desk.row?.liquid) return;
    const drops = stage.value?.drops;
    // Where none were seen and none are, nothing is to be drawn anew.
    if (!drops || (!rows?.length && !drops.group.visible)) return;
    most.value = drops.set(rows, shown.value ?? "speed", slab.value);
    stage.value?.props.setCut(rows?.length && slab.value ? slab.value.axis : null, slab.value?.at);
    stage.value?.touch();
  }

  watch([shown, slab, () => desk.row?.liquid, stage], show);

  return { by, wet, range };
}
