import { useStorage } from "@vueuse/core";
import { defineStore } from "pinia";
import { computed, ref, watch } from "vue";
import { api } from "../api/client";
import { useCatalog } from "./catalog";
import { useDesk } from "./desk";
import { useHand, type Held } from "./hand";

/** So long one is let run before the next takes its place, ms. */
const PACE = 250;

/** Live drafts: while a dial that is run is under the hand, a draft of what it stands at runs and plays. */
export const useLive = defineStore("live", () => {
  const desk = useDesk();
  const catalog = useCatalog();
  const hand = useHand();
  const on = useStorage("vumbral-live", false);
  const job = ref<number | null>(null);
  /** Voxels of what is seen, metres. */
  const voxel = ref<number | null>(null);
  /** The last frame that has come, of those that come one after the other. */
  const upto = computed(() => {
    let frame = desk.first;
    while (desk.live?.rows.has(frame + 1)) frame += 1;
    return frame;
  });
  let busy = false;
  let asked = 0;
  let deaf = "";

  const name = (held: Held) => `${held.node}.${held.dial}`;

  function runs(held: Held): boolean {
    const node = desk.byId.get(held.node);
    const dial = node && catalog.kind(node.kind).dials.find((one) => one.name === held.dial);
    return dial?.touches === "run";
  }

  async function work() {
    if (busy) return;
    busy = true;
    for (let held = hand.held, last: Held | null = null; held && held !== last; held = hand.held) {
      last = held;
      if (!desk.shot || name(held) === deaf) break;
      const wait = asked + PACE - performance.now();
      if (wait > 0) await new Promise((done) => setTimeout(done, wait));
      asked = performance.now();
      const begun = await api.live(desk.shot.id, [desk.asks(hand.held ?? held)]).catch(() => null);
      if (!begun) deaf = name(held);
      else begin(begun);
    }
    busy = false;
    // It was let go while one was being begun.
    if (!hand.held && job.value) void end();
  }

  function begin(begun: { job: number; voxel: number; first: number | null }) {
    job.value = begun.job;
    voxel.value = begun.voxel;
    // What comes before the change stays.
    const kept = [...(desk.live?.rows ?? [])].filter(
      ([frame]) => begun.first === null || frame < begun.first,
    );
    desk.live = { rows: new Map(kept), over: false };
    desk.playing = true;
  }

  async function end() {
    const id = desk.shot?.id;
    job.value = null;
    if (desk.live) desk.live = { ...desk.live, over: true };
    if (id) await api.endLive(id).catch(() => {});
  }

  watch(
    () => hand.held,
    (held) => {
      if (held && on.value && runs(held)) return void work();
      deaf = "";
      if (!held && job.value && !busy) void end();
    },
  );
  watch(
    () => desk.fresh,
    (told) => {
      if (!told || told.job !== job.value || !desk.live) return;
      const { frame, key, light, facts } = told;
      const row = { frame, key, light, lit: true, state: "fresh" as const, facts };
      desk.live = { ...desk.live, rows: new Map(desk.live.rows).set(frame, row) };
    },
  );
  // What was run then has taken their place.
  watch(
    () => desk.ended,
    (ended) => ended?.kind === "run" && desk.live?.over && (desk.live = null),
  );
  watch(
    () => desk.shot?.id,
    () => (desk.live = job.value = null),
  );

  return { on, job, voxel, upto };
});
