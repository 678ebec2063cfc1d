import { useBelonging } from "./belonging";
import { defineStore } from "pinia";
import { computed, ref, shallowRef } from "vue";
import { api, windowName } from "../api/client";
import { useCatalog } from "./catalog";
import { listen } from "../api/events";
import { useFindings } from "./findings";
import { useFrames } from "./frames";
import { outcome, useJobs } from "./jobs";
import { usePictures } from "./pictures";
import { useQuestion } from "./question";
import { useEditing } from "./editing";
import { useTiming } from "./timing";
import { shared } from "../lib/shared";
import type { Outlook } from "../view/eye";
import type {
  Body,
  Difference,
  FrameTold,
  Job,
  LitFrame,
  LiveFrame,
  Quality,
  ShotAnswer,
  ShotNode,
} from "../api/types";

/** So long after a step that a run follows the list of frames is asked for, ms. */
const BEHIND = 250;

/** Where places are picked that lie on no one prop. */
export const ANYWHERE = "*";

/** The shot on the desk: its document, its frames, what is going on. */
export const useDesk = defineStore("desk", () => {
  const shot = shallowRef<ShotAnswer | null>(null);
  /** The props as they are drawn, each where it stands at every frame. */
  const bodies = shallowRef<Body[]>([]);
  /** What those that are there were asked for. */
  const bodied = ref("");
  const playing = ref(false);
  const selected = ref<string | null>(null);
  const catalog = useCatalog();
  const chapter = ref("sources");
  const saving = ref(0);
  const connected = ref(true);
  /** The last thing that went wrong, as a sentence; `said` counts so that repeats show too. */
  const complaint = ref<{ text: string; said: number } | null>(null);
  const done = ref<{ text: string; said: number } | null>(null);

  /** The test strip of which something has come, told anew each time. */
  const stripped = shallowRef<{ number: number } | null>(null);
  /** The frame of a live draft that came last. */
  const fresh = shallowRef<LiveFrame | null>(null);
  /** The frame of an earlier run that was lit last. */
  const lit = shallowRef<LitFrame | null>(null);
  /** Why nothing goes on, as a sentence. */
  const trouble = ref<string | null>(null);
  const preflight = useFindings();
  const { question, put: ask, answer: decide } = useQuestion();

  let stopListening: (() => void) | null = null;
  /** What the bodies that are shown, or on their way, were asked for. */
  let bodiesOf = "";

  const nodes = computed<ShotNode[]>(() => shot.value?.document.nodes ?? []);
  /** Whether there is gas in the shot. */
  const feeds = computed(() => nodes.value.some((node) => node.kind === "source"));
  const byId = computed(() => new Map(nodes.value.map((node) => [node.id, node])));
  const work = useJobs(ended);
  const { jobs, active, running, printing, exporting, sheeting } = work;
  const film = useFrames(shot, work, complain);
  const { frames, frame, quality, first, last, row, live, loadFrames, loadFramesSoon, patch, go } = film;
  /** The look that the picture shows. */
  const shownLook = computed(() => (byId.value.get("picture")?.dials.look as string | undefined) ?? "look");
  /** Frames whose picture is kept, so that they play at once. */
  const kept = shallowRef<number[]>([]);
  /** The next click in the view says what shall be sharp. */
  const focusing = ref(false);
  /** The lamp that shall shine at where the next click in the view is. */
  const aiming = ref<string | null>(null);
  /** Where a saved view looks from. */
  const outlook = (saved: ShotNode) =>
    Object.fromEntries(
      ["position", "target", "focal"].map((dial) => [dial, catalog.read(saved, dial)]),
    ) as unknown as Outlook;
  /** The view, for those who ask where one looks from or want to look from elsewhere. */
  const view = shallowRef<{
    outlook: () => Outlook;
    lookFrom: (from: Outlook) => void;
    picture: () => HTMLCanvasElement | null;
  } | null>(null);
  /** The next clicks on a prop pick places, faces or pieces for this dial. */
  const placing = ref<{ node: string; dial: string; prop: string; what: string } | null>(null);
  /** Whether the shot's own settings are open, in the timeline's head. */
  const settings = ref(false);
  const pictures = usePictures(shot, frame, sheeting, attempt);
  const { prints, measuring, sheet, takePrint, loadPrints, measure, takeSheet } = pictures;
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

  const family = useBelonging(nodes, byId, catalog);
  const { belonging } = family;
  /** What is done to a prop's shape, to a sculpt's values, and what says where a thing is strong, in order. */
  const operations = (prop: string) => family.of(prop, "operation");
  const steps = (sculpt: string) => family.of(sculpt, "step");
  const maps = (owner: string) => family.of(owner, "map");
  /** The chapter in which a thing stands. */
  function chapterOf(node: ShotNode): string {
    const above = node.kind === "map" ? family.owner(node) : null;
    return catalog.kind((above ?? node).kind).chapter;
  }

  /** Runs that were under way with the step before. */
  let ran: number[] = [];

  function take(answer: ShotAnswer | null) {
    if (!answer || (shot.value && shot.value.id !== answer.id)) return;
    shot.value = shared(shot.value, answer);
    trouble.value = answer.trouble;
    if (selected.value && !answer.document.nodes.some((node) => node.id === selected.value))
      selected.value = null;
    // A run that the step began tells its frames one by one: the list may come behind the first of them.
    const runs = answer.jobs.filter((job) => job.kind === "run").map((job) => job.id);
    const begun = runs.some((run) => !ran.includes(run));
    ran = runs;
    if (begun) loadFramesSoon(BEHIND);
    else void loadFrames();
    void loadBodies();
    preflight.loadSoon(answer.id);
  }

  async function loadBodies() {
    const { id, bodies: name } = shot.value ?? {};
    if (!id || !name || name === bodiesOf) return;
    bodiesOf = name;
    const answer = await attempt(() => api.bodies(id));
    if (!answer) bodiesOf = "";
    else if (shot.value?.id === id && bodiesOf === name) {
      bodies.value = answer;
      bodied.value = name;
    }
  }

  async function open(id: string) {
    close();
    shot.value = null;
    frames.value = null;
    bodies.value = [];
    bodiesOf = bodied.value = "";
    preflight.clear();
    work.begin([]);
    prints.value = [];
    const early = api.frames(id, quality.value).catch(() => null);
    const answer = await api.shot(id);
    shot.value = answer;
    trouble.value = answer.trouble;
    work.begin(answer.jobs);
    await loadFrames(early);
    void loadBodies();
    void preflight.load(id);
    void loadPrints();
    frame.value = first.value;
    stopListening = listen(
      hear,
      (alive) => {
        if (alive && !connected.value) void reload();
        connected.value = alive;
      },
      answer.event,
    );
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

  function hear(kind: string, data: Record<string, unknown> & { shot: string | null }) {
    if (kind === "trouble") trouble.value = data.text as string | null;
    if (!shot.value || data.shot !== shot.value.id) return;
    // The answer to a step of one's own is on its way.
    if (kind === "revision" && data.by !== windowName && data.head !== shot.value.head) void reload();
    if (kind === "frame") {
      const { frame: number, key, light, liquid, quality: made, facts, run } = data as unknown as FrameTold;
      if (made !== quality.value) return;
      // Where there is gas too, that comes behind its liquid.
      if (liquid) patch(number, { liquid, facts, ...(feeds.value ? {} : { state: "fresh" }) }, run);
      else patch(number, { key, light, state: "fresh", lit: true, facts }, run);
    }
    if (kind === "live") fresh.value = data as unknown as LiveFrame;
    if (kind === "lit" && data.run) lit.value = data as unknown as LitFrame;
    else if (kind === "lit" && data.quality === quality.value)
      patch(data.frame as number, { lit: true, light: data.light as string });
    if (kind === "strip") stripped.value = { number: data.number as number };
    if (kind === "job") work.hear(data as unknown as Job);
    if (kind === "print") void loadPrints();
  }

  /** The last job that came to an end. */
  const lately = shallowRef<Job | null>(null);

  function ended(job: Job) {
    lately.value = job;
    if (job.state === "failed" && job.error) complain(new Error(job.error));
    if (job.kind === "run" || job.kind === "light") loadFramesSoon();
    if (["track", "pin", "spots", "sighting"].includes(job.kind) && job.state === "done") void reload();
    if (job.kind === "sheet" && job.state === "done") sheet.value = (job.result?.sheet as string) ?? null;
    const said = job.state === "done" ? outcome(job) : null;
    if (said) announce(said);
  }

  const editing = useEditing({ shot, byId, frame, saving, take, reload, complain, announce, ask });
  const { edit, put, set, place, turn, wish, asks, wanted, step } = editing;
  const timing = useTiming(put, complain);

  /** Whether a thing counts: it is not switched off, nor left out for one of its kind that stands alone. */
  function counts(node: ShotNode): boolean {
    const marks = family.marksOver(node);
    if (node.off || marks.some((mark) => mark.off)) return false;
    const alone = node.only || marks.some((mark) => mark.only);
    return alone || !nodes.value.some((other) => other.kind === node.kind && other.only);
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

  /** Sets the exposure that this frame asks for. */
  async function meter() {
    const exposure = await measure();
    if (exposure !== null) await set("picture", "exposure", exposure);
  }

  async function bringBack(number: number, rows?: Pick<Difference, "node" | "dial">[]) {
    const answer = shot.value && (await attempt(() => api.bringBack(shot.value!.id, number, rows)));
    take(answer);
    return !!answer;
  }

  return {
    shot,
    lit,
    fresh,
    live,
    stripped,
    take,
    place,
    operations,
    steps,
    maps,
    belonging,
    family,
    chapterOf,
    aiming,
    view,
    outlook,
    placing,
    frames,
    bodies,
    bodied,
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
    trouble,
    findings: preflight.findings,
    findingByDial: preflight.byDial,
    findingNodes: preflight.nodes,
    question,
    decide,
    nodes,
    byId,
    first,
    last,
    row,
    active,
    ended: lately,
    running,
    printing,
    exporting,
    sheeting,
    shownLook,
    focusing,
    settings,
    measuring,
    sheet,
    meter,
    takeSheet,
    rate,
    open,
    close,
    edit,
    set,
    put,
    turn,
    wish,
    timing,
    wanted,
    asks,
    unanswered: editing.left,
    kept,
    counts,
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
