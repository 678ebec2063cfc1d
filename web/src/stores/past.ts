import { defineStore } from "pinia";
import { computed, ref, shallowRef, watch } from "vue";
import { past, type Cache, type PastRun } from "../api/past";
import type { FrameRow } from "../api/types";
import { useDesk } from "./desk";

/** How two runs, or two prints, are laid against each other. */
export type Against = "wipe" | "beside" | "blink" | "difference";
export const WAYS: [Against, string, string][] = [
  ["wipe", "Wipe", "One to the left of a line, the other to the right of it"],
  ["beside", "Beside", "One beside the other"],
  ["blink", "Blink", "One after the other in the same place"],
  ["difference", "Difference", "Where they differ, four times as strong; black where they are alike"],
];
/** Each of two that blink is seen for so long, ms. */
export const BLINK = 700;

/** The runs of the shot on the desk, those that are kept, and two that are looked at together. */
export const usePast = defineStore("past", () => {
  const desk = useDesk();
  const runs = shallowRef<PastRun[]>([]);
  const caches = shallowRef<Cache[]>([]);
  /** The runs that are laid against each other; the first may be the shot as it stands. */
  const pair = ref<{ one: number | null; other: number } | null>(null);
  const against = ref<Against>("wipe");
  /** Where one ends and the other begins, in hundredths of the view's width. */
  const line = ref(50);
  const rows = shallowRef(new Map<number, FrameRow[]>());
  const kept = computed(() => new Map(caches.value.map((cache) => [cache.digest, cache])));

  watch(
    () => desk.shot?.id,
    () => {
      runs.value = [];
      stop();
    },
  );

  async function load() {
    const id = desk.shot?.id;
    if (!id) return;
    const [found, all] = await Promise.all([past.runs(id), past.caches()]).catch(() => []);
    if (desk.shot?.id !== id) return;
    if (found) runs.value = found;
    if (all) caches.value = all;
  }

  /** Frames of the runs that are compared, in the light of now; what is not lit is asked for. */
  async function fetch() {
    const id = desk.shot?.id;
    for (const number of [pair.value?.one, pair.value?.other]) {
      if (!id || !number) continue;
      const found = await past.rows(id, number).catch(() => null);
      if (!found || desk.shot?.id !== id) return;
      rows.value = new Map(rows.value).set(number, found);
      if (found.some((row) => row.key && !row.lit)) void past.light(id, number, desk.frame).catch(() => {});
    }
  }

  /** A frame of a run has been lit. */
  function lit(number: number, frame: number, light: string) {
    const before = rows.value.get(number);
    if (!before) return;
    const after = before.map((row) => (row.frame === frame ? { ...row, light, lit: true } : row));
    rows.value = new Map(rows.value).set(number, after);
  }

  async function compare(other: number, one: number | null = null) {
    pair.value = { one, other };
    await fetch();
  }

  function stop() {
    pair.value = null;
    rows.value = new Map();
  }

  /** The rows of both at a frame; nothing for one that has none. */
  function both(frame: number): [FrameRow | undefined, FrameRow | undefined] | null {
    if (!pair.value) return null;
    const { one, other } = pair.value;
    const of = (number: number) => rows.value.get(number)?.find((row) => row.frame === frame);
    return [one ? of(one) : desk.frames?.rows[frame - desk.first], of(other)];
  }

  watch(
    () => desk.lit,
    (told) => told && lit(told.run, told.frame, told.light),
  );
  // A change of the light or of the look changes both.
  watch(
    () => desk.shot?.head,
    () => pair.value && void fetch(),
  );
  watch(
    () => desk.ended,
    (job) => job?.kind === "run" && void load(),
  );

  return { runs, caches, kept, pair, against, line, rows, load, compare, stop, both };
});
