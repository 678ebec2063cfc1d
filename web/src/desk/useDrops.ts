import { computed, ref, watch, type ShallowRef } from "vue";
import { api } from "../api/client";
import { plain } from "../lib/numbers";
import { useDesk } from "../stores/desk";
import { DROP_UNITS, type DropsBy } from "../view/drops";
import type { Stage } from "../view/stage";

/** So many frames' particles are kept. */
const KEPT = 24;

/** The particles of the shot's liquid in the view, where they are wanted. */
export function useDrops(stage: ShallowRef<Stage | null>) {
  const desk = useDesk();
  const by = ref<DropsBy | null>(null);
  const most = ref(0);
  const known = new Map<string, Float32Array>();
  /** Whether the shot has a liquid at all. */
  const wet = computed(() => desk.nodes.some((node) => node.kind === "liquid"));
  const range = computed(() =>
    by.value && most.value ? `0 … ${plain(most.value)} ${DROP_UNITS[by.value]}` : "",
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
    const key = by.value && wet.value ? desk.row?.liquid : null;
    const rows = key ? await fetch(key) : null;
    if (key && key !== desk.row?.liquid) return;
    const drops = stage.value?.drops;
    // Where none were seen and none are, nothing is to be drawn anew.
    if (!drops || (!rows?.length && !drops.points.visible)) return;
    most.value = drops.set(rows, by.value ?? "speed");
    stage.value?.touch();
  }

  watch([by, () => desk.row?.liquid, stage], show);

  return { by, wet, range };
}
