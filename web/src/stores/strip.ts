import { defineStore } from "pinia";
import { computed, ref, shallowRef, watch } from "vue";
import { api, Refused } from "../api/client";
import { past } from "../api/past";
import type { Dial, ShotNode, Strip, StripForecast, StripRow } from "../api/types";
import { around, read, suggested, varies, type Course } from "../strip/values";
import { useCatalog } from "./catalog";
import { useDesk } from "./desk";

/** One dial that is to be varied, and what was typed for it. */
export interface Axis {
  node: string;
  dial: string;
  text: string;
}

export const MOST_DIALS = 3;

/** Test strips of the shot on the desk: what shall be varied, and the one that is looked at. */
export const useStrip = defineStore("strip", () => {
  const desk = useDesk();
  const catalog = useCatalog();
  const open = ref(false);
  const axes = ref<Axis[]>([]);
  const strips = shallowRef<StripRow[]>([]);
  const strip = shallowRef<Strip | null>(null);
  const picked = ref<number | null>(null);
  const forecast = shallowRef<StripForecast | null>(null);
  /** Why it cannot be run as it is, as a sentence. */
  const wrong = ref("");
  /** Whether very many variations were asked for, and it has to be said once more that they are meant. */
  const asking = ref(false);
  /** While a strip is set up. */
  const beginning = ref(false);

  // Strips are those of one shot.
  watch(
    () => desk.shot?.id,
    () => {
      open.value = false;
      axes.value = [];
      strips.value = [];
      strip.value = picked.value = null;
    },
  );

  const found = (axis: Axis): { node: ShotNode; dial: Dial } | null => {
    const node = desk.byId.get(axis.node);
    const dial = node && catalog.kind(node.kind).dials.find((one) => one.name === axis.dial);
    return node && dial ? { node, dial } : null;
  };
  /** What the server is asked for; nothing while something does not read. */
  const asked = computed<({ node: string; dial: string } & Course)[] | null>(() => {
    const courses = axes.value.map((axis) => {
      const place = found(axis);
      const course = place && read(place.dial, axis.text);
      return course && { node: axis.node, dial: axis.dial, ...course };
    });
    return courses.length && courses.every((course) => course) ? (courses as never) : null;
  });

  /** Takes a dial into the strip, unless it is in it. */
  function vary(node: ShotNode, dial: Dial) {
    show();
    const there = axes.value.some((axis) => axis.node === node.id && axis.dial === dial.name);
    if (there || axes.value.length >= MOST_DIALS) return;
    axes.value = [
      ...axes.value,
      { node: node.id, dial: dial.name, text: suggested(dial, catalog.value(node, dial)) },
    ];
  }

  /** The same by a name such as source-1.smoke. @return whether there is such a dial, and it can be varied */
  function varyNamed(name: string): boolean {
    const [node, dial] = name.split(".");
    const place = found({ node, dial, text: "" });
    if (!place || !varies(place.dial)) return false;
    vary(place.node, place.dial);
    return true;
  }

  function drop(n: number) {
    axes.value = axes.value.filter((_, k) => k !== n);
  }

  function show() {
    if (open.value) return;
    open.value = true;
    desk.playing = false;
    void load();
  }

  async function load() {
    const id = desk.shot?.id;
    if (!id) return;
    strips.value = await api.strips(id).catch(() => []);
    if (!strip.value && strips.value[0] && !axes.value.length) await look(strips.value[0].number);
  }

  /** @param from the first variation that is looked at, of very many; otherwise the same as before */
  async function look(number: number, from = strip.value?.number === number ? strip.value.from : 0) {
    const id = desk.shot?.id;
    const answer = id && (await api.strip(id, number, from).catch(() => null));
    if (!answer) return;
    if (strip.value?.number !== answer.number || !answer.cells[picked.value ?? -1]) picked.value = null;
    strip.value = answer;
    strips.value = strips.value.map((row) =>
      row.number === answer.number ? { ...row, there: Math.min(answer.there, row.of) } : row,
    );
  }

  let later: ReturnType<typeof setTimeout> | undefined;
  /** Something of it has come. */
  function hear(number: number) {
    if (!open.value || strip.value?.number !== number || later) return;
    later = setTimeout(() => {
      later = undefined;
      void look(number);
    }, 400);
  }

  let count = 0;
  async function foresee() {
    const id = desk.shot?.id;
    const mine = ++count;
    asking.value = false;
    if (!id || !asked.value) {
      forecast.value = null;
      wrong.value = axes.value.length ? "Say values as a list, “0 to 3 in 4”, or “1 times 2 in 4”." : "";
      return;
    }
    try {
      const answer = await api.foreseeStrip(id, asked.value);
      if (mine !== count) return;
      forecast.value = answer;
      wrong.value = "";
    } catch (error) {
      if (mine !== count || !(error instanceof Refused)) return;
      forecast.value = null;
      wrong.value = error.message;
    }
  }

  async function run() {
    const id = desk.shot?.id;
    if (!id || !asked.value || beginning.value) return;
    const sure = asking.value;
    if (forecast.value?.many && !sure) {
      asking.value = true;
      return;
    }
    asking.value = false;
    beginning.value = true;
    const begun = await desk.attempt(() => api.startStrip(id, asked.value!, sure));
    beginning.value = false;
    if (!begun) return;
    await look(begun.strip);
    strips.value = await api.strips(id).catch(() => strips.value);
  }

  async function note(cell: number, what: "marked" | "dropped", whether: boolean) {
    const id = desk.shot?.id;
    const answer =
      id &&
      strip.value &&
      (await desk.attempt(() => api.noteStrip(id, strip.value!.number, cell, what, whether)));
    if (answer) strip.value = answer;
  }

  /** The shot becomes what a variation is; its frames are there already. */
  async function keep(cell: number) {
    const chosen = strip.value?.cells[cell];
    if (!chosen || !strip.value) return;
    await desk.edit(chosen.edits);
    open.value = false;
    const { quality } = strip.value;
    if (desk.row?.state !== "still") await desk.run(quality);
  }

  /** Marked variations are kept under names of their own, whatever becomes of the strip. */
  async function keepMarked() {
    const now = strip.value;
    const id = desk.shot?.id;
    if (!now || !id) return;
    const made = await desk.attempt(() => past.keepCells(id, now.number, now.marked));
    const count = made?.caches.length;
    if (count)
      desk.announce(
        `${count === 1 ? "One variation is" : `${count} variations are`} kept: sculpts can begin with ${count === 1 ? "it" : "them"}, and Jobs and room hands them on.`,
      );
  }

  /** Another strip, closer around one variation. */
  function refine(cell: number) {
    const now = strip.value;
    if (!now) return;
    const chosen = now.cells[cell];
    if (!chosen) return;
    axes.value = now.axes.map((axis, n) => {
      const value = chosen.values[n];
      const at = axis.values.indexOf(value as never);
      const place = { node: axis.node, dial: axis.dial, text: chosen.shown[n] };
      if (typeof value !== "number") return place;
      const whole = found(place)?.dial.type === "whole";
      const several = axis.values.length > 1;
      return { ...place, text: several ? around(axis.values as number[], at, whole) : String(value) };
    });
  }

  async function cancel() {
    const job = strip.value?.job;
    if (job) await desk.attempt(() => api.cancel(job));
  }

  async function takeAway() {
    const id = desk.shot?.id;
    const number = strip.value?.number;
    if (!id || number === undefined) return;
    await desk.attempt(() => api.takeStripAway(id, number));
    strip.value = null;
    await load();
  }

  return {
    open,
    axes,
    strips,
    strip,
    picked,
    forecast,
    wrong,
    asking,
    beginning,
    asked,
    found,
    vary,
    varyNamed,
    drop,
    show,
    look,
    hear,
    foresee,
    run,
    note,
    keep,
    keepMarked,
    refine,
    cancel,
    takeAway,
  };
});
