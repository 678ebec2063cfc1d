import { computed, ref, shallowRef, watch, type Ref, type ShallowRef } from "vue";
import { api, Refused } from "../api/client";
import type { FrameRow, FramesAnswer, Job, Quality, ShotAnswer } from "../api/types";

/** So long a hand rests on a frame before that is asked for, ms. */
const REST = 400;

/** The frames of the shot on the desk: which are there, and which one is looked at.
 * @param work what is going on */
export function useFrames(
  shot: ShallowRef<ShotAnswer | null>,
  work: { jobs: Ref<Map<number, Job>>; running: Ref<Job | undefined> },
  complain: (error: unknown) => void,
) {
  const frames = shallowRef<FramesAnswer | null>(null);
  const frame = ref(1);
  const quality = ref<Quality>("draft");
  const first = computed(() => frames.value?.rows[0]?.frame ?? 1);
  const last = computed(() => frames.value?.rows.at(-1)?.frame ?? 1);
  const row = computed<FrameRow | undefined>(() => frames.value?.rows[frame.value - first.value]);
  let refresh: ReturnType<typeof setTimeout> | undefined;
  let nearer: ReturnType<typeof setTimeout> | undefined;

  /** @param early what was asked for already */
  async function loadFrames(early?: Promise<FramesAnswer | null>) {
    const id = shot.value?.id;
    if (!id) return;
    const answer = await (early ?? api.frames(id, quality.value)).catch((error) => {
      if (error instanceof Refused && error.code === "unreachable") return null;
      complain(error);
      return null;
    });
    if (!answer || shot.value?.id !== id || answer.quality !== quality.value) return;
    frames.value = answer;
    frame.value = Math.min(Math.max(frame.value, first.value), last.value);
    relight();
  }

  /** Frames that no lamp has lit since a change are lit again, from here on. */
  function relight() {
    const rows = frames.value?.rows ?? [];
    const dark = rows.some((candidate) => candidate.key && !candidate.lit);
    const busy = [...work.jobs.value.values()].some(
      (job) => job.kind === "light" && ["queued", "running"].includes(job.state),
    );
    if (dark && !busy && !work.running.value && shot.value)
      void api.light(shot.value.id, quality.value, frame.value).catch(complain);
  }

  /** Where the hand rests, the frame there comes first: what is lit in order may take long. */
  watch(frame, () => {
    clearTimeout(nearer);
    nearer = setTimeout(() => {
      if (shot.value && row.value?.key && !row.value.lit && !work.running.value)
        void api.light(shot.value.id, quality.value, frame.value).catch(complain);
    }, REST);
  });

  function loadFramesSoon() {
    clearTimeout(refresh);
    refresh = setTimeout(() => loadFrames(), 60);
  }

  function patch(number: number, facts: Partial<FrameRow>) {
    const answer = frames.value;
    const index = number - first.value;
    const before = answer?.rows[index];
    if (!answer || !before) return;
    const light =
      facts.light ?? before.light ?? answer.rows.find((candidate) => candidate.light)?.light ?? null;
    // The light of a first frame is not known here yet; the list tells it.
    if (!light && !facts.liquid) return loadFramesSoon();
    const rows = answer.rows.slice();
    rows[index] = { ...before, ...facts, light };
    frames.value = { ...answer, rows };
  }

  function go(to: number) {
    frame.value = Math.min(Math.max(Math.round(to), first.value), last.value);
  }

  return { frames, frame, quality, first, last, row, loadFrames, loadFramesSoon, patch, go };
}
