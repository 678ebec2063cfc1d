import { useEventListener } from "@vueuse/core";
import { computed, onUnmounted, ref, watch, type Ref, type ShallowRef } from "vue";
import { api, Refused } from "../api/client";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import type { Stage } from "../view/stage";

/** Parts of the view's size that a picture comes in, one after the other. */
const STEPS = [0.08, 0.4, 1];
/** How much of the view, each way, the part about the pointer takes. */
const NEAR = 0.36;
/** So long the hand must rest, milliseconds. */
const REST = 40;
const WIDEST = 1280;

/** The view as the finished picture: made by the renderer of prints through the view's own eye, coarse at first and
 * finer while the hand rests. Anything that changes begins it anew. */
export function useDeveloping(
  stage: ShallowRef<Stage | null>,
  width: Ref<number>,
  height: Ref<number>,
  holder: Ref<HTMLElement | null>,
  foggy: Ref<boolean>,
) {
  const desk = useDesk();
  const catalog = useCatalog();
  const on = ref(false);
  /** Whether there is what the view draws only roughly, fog and beams, or not at all, copies of a prop that fly. */
  const hazy = computed(
    () =>
      foggy.value ||
      desk.nodes.some((node) => !node.off && node.kind === "emitter" && !!catalog.read(node, "shows")),
  );
  /** The picture so far, as an address; how far it has come, 1 for whole. */
  const picture = ref("");
  const come = ref(0);
  /** The part about the pointer, which comes first, and where it lies in the view. */
  const part = ref<{ picture: string; at: number[] } | null>(null);
  /** The part that alone is developed, once it was chosen. */
  const only = ref<number[] | null>(null);
  let pointer: number[] | null = null;
  let asked: AbortController | null = null;
  let timer = 0;

  useEventListener(holder, "pointermove", (event: PointerEvent) => {
    const box = holder.value!.getBoundingClientRect();
    pointer = [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
  });
  useEventListener(holder, "pointerleave", () => (pointer = null));

  /** The part of the view about the pointer, whole pixels. */
  function near(): number[] | null {
    if (!pointer) return null;
    const [x, y] = pointer.map((c) => Math.min(Math.max(c - NEAR / 2, 0), 1 - NEAR));
    return [x, y, x + NEAR, y + NEAR];
  }

  function lay(blob: Blob | null, at: number[] = []) {
    if (part.value) URL.revokeObjectURL(part.value.picture);
    part.value = blob ? { picture: URL.createObjectURL(blob), at } : null;
  }

  /** Only what lies about the pointer, or all again. */
  function crop() {
    only.value = only.value ? null : near();
    on.value = true;
    anew();
  }

  function stop() {
    asked?.abort();
    asked = null;
    clearTimeout(timer);
    come.value = 0;
  }

  function show(blob: Blob | null) {
    if (picture.value) URL.revokeObjectURL(picture.value);
    picture.value = blob ? URL.createObjectURL(blob) : "";
  }

  async function develop() {
    if (!on.value || !stage.value || !desk.shot || !width.value) return;
    const mine = (asked = new AbortController());
    stage.value.resting = true;
    const [id, frame, from] = [desk.shot.id, desk.frame, stage.value.eye.outlook];
    // The gas that the view shows.
    const key = desk.row?.key ?? null;
    const whole = Math.min(width.value, WIDEST);
    const sized = (share: number[]) =>
      [whole, (whole * height.value) / width.value].map((n, i) => Math.max(16, Math.round(n * share[i])));
    const first = only.value ?? near();
    try {
      for (const step of STEPS) {
        if (step > STEPS[0] && only.value) break;
        const blob = await api.glance(id, frame, sized([step, step]), from, null, key, mine.signal);
        if (mine.signal.aborted) return;
        show(blob);
        if (step === 1) lay(null);
        come.value = step;
        if (step > STEPS[0] || !first) continue;
        // What one looks at comes first, as fine as it will be.
        const here = await api.glance(
          id,
          frame,
          sized([first[2] - first[0], first[3] - first[1]]),
          from,
          first,
          key,
          mine.signal,
        );
        if (mine.signal.aborted) return;
        lay(here, first);
      }
    } catch (error) {
      if (mine.signal.aborted) return;
      // One that was asked for before came later and took its place.
      if (error instanceof Refused && error.code === "cancelled") return anew();
      desk.complain(error);
      on.value = false;
    }
  }

  /** What is seen is no longer so: the picture goes, and a new one comes once the hand rests. */
  function anew() {
    stop();
    show(null);
    lay(null);
    if (stage.value) stage.value.resting = false;
    if (on.value && !desk.playing) timer = window.setTimeout(() => void develop(), REST);
  }

  watch(hazy, (now) => now && (on.value = true), { immediate: true });
  watch(
    [on, () => desk.shot, () => desk.frame, () => desk.row?.key, () => desk.playing, width, height],
    anew,
  );
  watch(stage, (now) => now?.orbit.addEventListener("change", () => on.value && anew()));
  onUnmounted(() => {
    stop();
    show(null);
    lay(null);
  });

  return { on, picture, come, part, only, crop };
}
