import { computed, ref, shallowRef, watch, type Ref, type ShallowRef } from "vue";
import { api, Refused } from "../api/client";
import type { FrameRow, FramesAnswer, Job, Quality, ShotAnswer } from "../api/types";
import { shared } from "../lib/shared";

/** So long a hand rests on a frame before that is asked for, ms. */
const REST = 400;

/** What was told of a frame, of which run, and how many lists had been asked for by then. */
interface News {
  shot: string | undefined;
  asked: number;
  run: number;
  frame: number;
  facts: Partial<FrameRow>;
}

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
  const own = computed<FrameRow | undefined>(() => frames.value?.rows[frame.value - first.value]);
  /** Frames of a draft that runs while a dial is under the hand, and whether the hand has let go. */
  const live = shallowRef<{ rows: Map<number, FrameRow>; over: boolean } | null>(null);
  // Once it has let go, what is run then takes their place frame by frame.
  const row = computed<FrameRow | undefined>(() =>
    live.value && !(live.value.over && own.value?.state === "fresh")
      ? (live.value.rows.get(frame.value) ?? own.value)
      : own.value,
  );
  /** How many lists were asked for, and which of them is the one that is shown. */
  let asked = 0;
  let taken = 0;
  let news: News[] = [];
  let refresh: ReturnType<typeof setTimeout> | undefined;
  let nearer: ReturnType<typeof setTimeout> | undefined;

  /** @param early what was asked for already */
  async function loadFrames(early?: Promise<FramesAnswer | null>) {
    const id = shot.value?.id;
    if (!id) return;
    const from = early ? asked : (asked += 1);
    const answer = await (early ?? api.frames(id, quality.value)).catch((error) => {
      if (error instanceof Refused && error.code === "unreachable") return null;
      complain(error);
      return null;
    });
    if (!answer || shot.value?.id !== id || answer.quality !== quality.value) return;
    // Of two that are under way the later one counts, with all that was told since it was asked for.
    if (from < taken) return;
    taken = from;
    news = news.filter((one) => one.asked >= from && one.shot === id);
    frames.value = shared(frames.value, news.reduce(withNews, answer));
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

  function loadFramesSoon(wait = 60) {
    clearTimeout(refresh);
    refresh = setTimeout(() => loadFrames(), wait);
  }

  /** A list of frames with what was told of one of them, unless that is of an older run. */
  function withNews(answer: FramesAnswer, { run, frame: number, facts }: News): FramesAnswer {
    const index = number - (answer.rows[0]?.frame ?? 1);
    const before = answer.rows[index];
    if (!before || run < (answer.run ?? 0)) return answer;
    const light =
      facts.light ?? before.light ?? answer.rows.find((candidate) => candidate.light)?.light ?? null;
    // The light of a first frame is not known here yet; the list tells it.
    if (!light && !facts.liquid) {
      loadFramesSoon();
      return answer;
    }
    const rows = answer.rows.slice();
    rows[index] = { ...before, ...facts, light };
    return { ...answer, rows };
  }

  /** @param run which one told it; what no run told is never too old */
  function patch(number: number, facts: Partial<FrameRow>, run = Infinity) {
    const told = { shot: shot.value?.id, asked, run, frame: number, facts };
    news.push(told);
    if (frames.value) frames.value = withNews(frames.value, told);
  }

  function go(to: number) {
    frame.value = Math.min(Math.max(Math.round(to), first.value), last.value);
  }

  return { frames, frame, quality, first, last, row, live, loadFrames, loadFramesSoon, patch, go };
}
