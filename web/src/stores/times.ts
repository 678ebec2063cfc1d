import { useStorage } from "@vueuse/core";
import { defineStore } from "pinia";
import { computed, ref, watch } from "vue";
import type { Edit, TimelineRow } from "../api/types";
import { useDesk } from "./desk";
import type { KeyPlace, Retiming } from "./timing";

export const nameOf = (row: { node: string; dial: string }) => `${row.node}.${row.dial}`;
const keyName = (row: { node: string; dial: string }, frame: number) => `${nameOf(row)}@${frame}`;

/** What is picked in the timeline, how it is moved, and what of the shot is played. */
export const useTimes = defineStore("times", () => {
  const desk = useDesk();
  const rows = computed(() => (desk.shot?.timeline ?? []).filter((row) => !row.fixed));
  /** Keys that are picked, and rows that are, by name. */
  const keys = ref(new Set<string>());
  const picked = ref(new Set<string>());
  /** Rows that show their curve, and groups that are folded. */
  const open = ref(new Set<string>());
  const folded = ref(new Set<string>());
  /** Which rows are shown. */
  const words = ref("");
  const only = ref<string[]>([]);
  /** The frames that are seen, where not all are. */
  const view = ref<{ from: number; to: number } | null>(null);
  /** What is played over and over, and how fast. */
  const loop = ref<{ from: number; to: number } | null>(null);
  const pace = useStorage("vumbral-pace", 1);
  /** Frames by which what is picked is being moved and the server has not answered. */
  const away = ref(0);
  /** Whether a copy is being dragged off. */
  const copying = ref(false);

  watch(
    () => desk.shot?.id,
    () => {
      for (const set of [keys, picked, open, folded]) set.value = new Set();
      view.value = loop.value = null;
      words.value = "";
    },
  );

  const places = computed<KeyPlace[]>(() =>
    rows.value.flatMap((row) =>
      row.keys
        .filter((key) => keys.value.has(keyName(row, key.frame)))
        .map((key) => ({ node: row.node, dial: row.dial, frame: key.frame })),
    ),
  );
  const chosen = computed(() => rows.value.filter((row) => picked.value.has(nameOf(row))));

  const has = (row: TimelineRow, frame: number) => keys.value.has(keyName(row, frame));

  function pick(row: TimelineRow, frame: number, add: boolean) {
    const name = keyName(row, frame);
    if (add && keys.value.delete(name)) return;
    if (!add) clear();
    keys.value.add(name);
  }

  function clear() {
    leave();
    keys.value = new Set();
    picked.value.clear();
  }

  /** Where a key is seen. */
  const shownAt = (row: TimelineRow, frame: number) =>
    has(row, frame) && !copying.value ? frame + away.value : frame;

  /** How far what is picked may go: it stays in the shot and passes no other key of its row. */
  function limits(): [number, number] {
    let low = -Infinity;
    let high = Infinity;
    for (const row of rows.value) {
      const mine = row.keys.filter((key) => has(row, key.frame)).map((key) => key.frame);
      if (!mine.length) continue;
      const others = copying.value
        ? []
        : row.keys.filter((key) => !has(row, key.frame)).map((key) => key.frame);
      for (const frame of mine) {
        low = Math.max(low, desk.first - frame, ...others.filter((o) => o < frame).map((o) => o + 1 - frame));
        high = Math.min(
          high,
          desk.last - frame,
          ...others.filter((o) => o > frame).map((o) => o - 1 - frame),
        );
      }
    }
    return [Math.min(low, 0), Math.max(high, 0)];
  }

  function moveTo(by: number) {
    const [low, high] = limits();
    away.value = Math.min(Math.max(Math.round(by), low), high);
  }

  let busy = false;
  /** Whether what is seen moved is to stay, and how many of its frames are on their way to the server. */
  let wanted = false;
  let sent = 0;

  /** Lets what was moved stay where it is seen now. */
  async function settle() {
    wanted = true;
    if (busy) return;
    busy = true;
    while (wanted && away.value) {
      wanted = false;
      const mine = keys.value;
      const moved = places.value;
      const by = (sent = away.value);
      const wrong = copying.value ? await copy(by) : await desk.timing.retimeKeys(moved, { by });
      sent = 0;
      // Other keys may be in the hand by now.
      if (keys.value !== mine) continue;
      const old = new Set(moved.map((key) => keyName(key, key.frame)));
      keys.value = new Set([
        ...[...mine].filter((name) => !old.has(name)),
        ...moved.map((key) => keyName(key, wrong ? key.frame : key.frame + by)),
      ]);
      away.value = wrong ? 0 : away.value - by;
      copying.value = false;
    }
    wanted = busy = false;
  }

  /** What was moved further since the server was asked follows, though other keys are taken up. */
  function leave() {
    const by = away.value - sent;
    if (busy && wanted && by)
      void desk.timing.retimeKeys(
        places.value.map((key) => ({ ...key, frame: key.frame + sent })),
        { by },
      );
    away.value = 0;
    wanted = false;
  }

  /** Keys again, some frames later. */
  function copy(by: number): Promise<string | null> {
    const edits: Edit[] = rows.value.flatMap((row) =>
      row.keys
        .filter((key) => has(row, key.frame))
        .map((key) => ({ do: "key", node: row.node, dial: row.dial, ...key, frame: key.frame + by })),
    );
    return desk.timing.carry(edits);
  }

  /** Copies the picked keys so that the first of them comes to the frame that is seen. */
  async function copyHere() {
    const first = Math.min(...places.value.map((key) => key.frame));
    if (Number.isFinite(first) && first !== desk.frame) await copy(desk.frame - first);
  }

  /** Moves keys, or else rows, or else all there is. */
  function retime(how: Retiming): Promise<string | null> {
    if (places.value.length) return desk.timing.retimeKeys(places.value, how);
    return desk.timing.retimeRows(targets.value, how);
  }

  /** Moves a row, and with it all others that are picked where it is one of them. */
  function retimeRow(row: TimelineRow, by: number): Promise<string | null> {
    const mine = picked.value.has(nameOf(row)) ? targets.value : [{ node: row.node }];
    return desk.timing.retimeRows(mine, { by });
  }

  /** A row that acts stands for all of its thing; others for themselves. */
  const targets = computed(() =>
    (chosen.value.length ? chosen.value : rows.value).map((row) =>
      row.spans ? { node: row.node } : { node: row.node, dial: row.dial },
    ),
  );

  function setLoop(from: number, to: number) {
    const [low, high] = [Math.min(from, to), Math.max(from, to)].map((frame) =>
      Math.min(Math.max(frame, desk.first), desk.last),
    );
    loop.value = low === desk.first && high === desk.last ? null : { from: low, to: high };
  }

  return {
    rows,
    keys,
    picked,
    open,
    folded,
    words,
    only,
    view,
    loop,
    pace,
    away,
    copying,
    places,
    chosen,
    targets,
    has,
    pick,
    clear,
    shownAt,
    moveTo,
    settle,
    copyHere,
    retime,
    retimeRow,
    setLoop,
  };
});
