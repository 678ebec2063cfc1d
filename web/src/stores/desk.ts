import { defineStore } from "pinia";
import { computed, ref, shallowRef } from "vue";
import { api, Refused } from "../api/client";
import { listen } from "../api/events";
import type {
  Body,
  Edit,
  FrameFacts,
  FrameRow,
  FramesAnswer,
  Job,
  Print,
  Quality,
  ShotAnswer,
  ShotNode,
} from "../api/types";

/** The shot on the desk: its document, its frames, what is going on. */
export const useDesk = defineStore("desk", () => {
  const shot = shallowRef<ShotAnswer | null>(null);
  const frames = shallowRef<FramesAnswer | null>(null);
  /** The props as they are drawn, each where it stands at every frame. */
  const bodies = shallowRef<Body[]>([]);
  const prints = ref<Print[]>([]);
  const jobs = ref(new Map<number, Job>());
  const frame = ref(1);
  const playing = ref(false);
  const quality = ref<Quality>("draft");
  const selected = ref<string | null>(null);
  const chapter = ref("sources");
  const saving = ref(0);
  const connected = ref(true);
  /** The last thing that went wrong, as a sentence; `said` counts so that repeats show too. */
  const complaint = ref<{ text: string; said: number } | null>(null);
  const done = ref<{ text: string; said: number } | null>(null);

  let stopListening: (() => void) | null = null;
  let refresh: ReturnType<typeof setTimeout> | undefined;

  const nodes = computed<ShotNode[]>(() => shot.value?.document.nodes ?? []);
  const byId = computed(() => new Map(nodes.value.map((node) => [node.id, node])));
  const first = computed(() => frames.value?.rows[0]?.frame ?? 1);
  const last = computed(() => frames.value?.rows.at(-1)?.frame ?? 1);
  const row = computed<FrameRow | undefined>(() => frames.value?.rows[frame.value - first.value]);
  const running = computed(() =>
    [...jobs.value.values()].find(
      (job) => job.kind === "run" && (job.state === "running" || job.state === "queued"),
    ),
  );
  const printing = computed(() =>
    [...jobs.value.values()].filter(
      (job) => job.kind === "print" && (job.state === "running" || job.state === "queued"),
    ),
  );
  const exporting = computed(() =>
    [...jobs.value.values()].find(
      (job) => job.kind === "export" && (job.state === "running" || job.state === "queued"),
    ),
  );
  const rate = computed(() => {
    const general = byId.value.get("general");
    return (general?.dials.rate as number | undefined) ?? 24;
  });

  function complain(error: unknown) {
    const text =
      error instanceof Error ? error.message : "Something went wrong; nothing is lost. Try it once more.";
    complaint.value = { text, said: (complaint.value?.said ?? 0) + 1 };
  }

  function announce(text: string) {
    done.value = { text, said: (done.value?.said ?? 0) + 1 };
  }

  /** Carries something out; what is refused becomes a sentence on the screen. */
  async function attempt<T>(work: () => Promise<T>): Promise<T | null> {
    saving.value += 1;
    try {
      return await work();
    } catch (error) {
      complain(error);
      return null;
    } finally {
      saving.value -= 1;
    }
  }

  function take(answer: ShotAnswer | null) {
    if (!answer || (shot.value && shot.value.id !== answer.id)) return;
    shot.value = answer;
    if (selected.value && !answer.document.nodes.some((node) => node.id === selected.value))
      selected.value = null;
    void loadFrames();
    void loadBodies();
  }

  async function loadBodies() {
    const id = shot.value?.id;
    const answer = id ? await attempt(() => api.bodies(id)) : null;
    if (answer && shot.value?.id === id) bodies.value = answer;
  }

  async function open(id: string) {
    close();
    shot.value = null;
    frames.value = null;
    bodies.value = [];
    jobs.value = new Map();
    const answer = await api.shot(id);
    shot.value = answer;
    jobs.value = new Map(answer.jobs.map((job) => [job.id, job]));
    await loadFrames();
    void loadBodies();
    // A full run is shown first where the shot has one as it stands.
    frame.value = first.value;
    prints.value = await api.prints(id);
    stopListening = listen(hear, (alive) => {
      if (alive && !connected.value) void reload();
      connected.value = alive;
    });
  }

  function close() {
    stopListening?.();
    stopListening = null;
    playing.value = false;
  }

  async function reload() {
    if (!shot.value) return;
    take(await api.shot(shot.value.id).catch(() => null));
  }

  async function loadFrames() {
    const id = shot.value?.id;
    if (!id) return;
    const answer = await api.frames(id, quality.value).catch((error) => {
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
    const busy = [...jobs.value.values()].some(
      (job) => job.kind === "light" && ["queued", "running"].includes(job.state),
    );
    if (dark && !busy && !running.value && shot.value)
      void api.light(shot.value.id, quality.value, frame.value).catch(complain);
  }

  function loadFramesSoon() {
    clearTimeout(refresh);
    refresh = setTimeout(loadFrames, 60);
  }

  function hear(kind: string, data: Record<string, unknown> & { shot: string | null }) {
    if (!shot.value || data.shot !== shot.value.id) return;
    if (kind === "revision" && (data.head as number) !== shot.value.head) void reload();
    if (kind === "frame") {
      const {
        frame: number,
        key,
        quality: made,
        facts,
      } = data as unknown as {
        frame: number;
        key: string;
        quality: Quality;
        facts: FrameFacts;
      };
      if (made === quality.value) patch(number, { key, state: "fresh", lit: true, facts });
    }
    if (kind === "lit" && data.quality === quality.value)
      patch(data.frame as number, { lit: true, light: data.light as string });
    if (kind === "job") hearJob(data as unknown as Job);
    if (kind === "print") void loadPrints();
  }

  function patch(number: number, facts: Partial<FrameRow>) {
    const answer = frames.value;
    const index = number - first.value;
    const before = answer?.rows[index];
    if (!answer || !before) return;
    const light =
      facts.light ?? before.light ?? answer.rows.find((candidate) => candidate.light)?.light ?? null;
    // The light of a first frame is not known here yet; the list tells it.
    if (!light) return loadFramesSoon();
    const rows = answer.rows.slice();
    rows[index] = { ...before, ...facts, light };
    frames.value = { ...answer, rows };
  }

  function hearJob(job: Job) {
    const before = jobs.value.get(job.id);
    jobs.value.set(job.id, job);
    if (["queued", "running"].includes(job.state) || before?.state === job.state) return;
    if (job.state === "failed" && job.error) complain(new Error(job.error));
    if (job.kind === "run" || job.kind === "light") loadFramesSoon();
    if (job.kind === "export" && job.state === "done") announce(`${job.result?.files} files are ready.`);
  }

  async function edit(edits: Edit[]) {
    if (shot.value) take(await attempt(() => api.edit(shot.value!.id, edits)));
  }

  function set(node: string, dial: string, value: unknown) {
    return edit([{ do: "set", node, dial, value }]);
  }

  /** Sets a dial here and now: one that changes over time gets a notch at this frame. */
  function turn(node: string, dial: string, value: unknown) {
    if (!byId.value.get(node)?.notches[dial]?.length) return set(node, dial, value);
    return edit([{ do: "notch", node, dial, frame: frame.value, value }]);
  }

  async function step(way: "undo" | "redo") {
    if (!shot.value) return;
    const answer = await attempt(() => api[way](shot.value!.id));
    if (answer) announce(answer.label);
    take(answer);
  }

  async function run(wanted: Quality) {
    if (!shot.value) return;
    quality.value = wanted;
    await attempt(() => api.run(shot.value!.id, wanted));
    await loadFrames();
  }

  async function show(wanted: Quality) {
    quality.value = wanted;
    await loadFrames();
  }

  async function stop() {
    if (running.value) await attempt(() => api.cancel(running.value!.id));
  }

  async function takePrint() {
    if (shot.value) await attempt(() => api.print(shot.value!.id, frame.value));
  }

  async function loadPrints() {
    if (shot.value) prints.value = await api.prints(shot.value.id).catch(() => prints.value);
  }

  async function bringBack(number: number) {
    if (shot.value) take(await attempt(() => api.bringBack(shot.value!.id, number)));
  }

  function go(to: number) {
    frame.value = Math.min(Math.max(Math.round(to), first.value), last.value);
  }

  return {
    shot,
    frames,
    bodies,
    prints,
    jobs,
    frame,
    playing,
    quality,
    selected,
    chapter,
    saving,
    connected,
    complaint,
    done,
    nodes,
    byId,
    first,
    last,
    row,
    running,
    printing,
    exporting,
    rate,
    open,
    close,
    edit,
    set,
    turn,
    step,
    run,
    show,
    stop,
    takePrint,
    loadPrints,
    bringBack,
    go,
    attempt,
    complain,
    announce,
  };
});
