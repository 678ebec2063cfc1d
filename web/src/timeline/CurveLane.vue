<script setup lang="ts">
import { computed, ref } from "vue";
import type { Key, Slope, TimelineRow } from "../api/types";
import { plain } from "../lib/numbers";
import { useDesk } from "../stores/desk";
import { useTimes } from "../stores/times";
import type { TimeAxis } from "./useTimeAxis";
import { OPEN } from "./useTimeLines";

/** An open row: its course as curves, with keys that are dragged both ways and slopes by their handles. */
const props = defineProps<{ row: TimelineRow; axis: TimeAxis; width: number }>();
const emit = defineEmits<{ step: [event: KeyboardEvent, key: Key] }>();
const desk = useDesk();
const times = useTimes();
const TOP = 14;
const BOTTOM = OPEN - 12;

/** What of a vector it is: told apart by their strokes, not by colour alone. */
const DASHES = ["", "7 4", "2 3"];
const number = (value: unknown) => (value === true ? 1 : value === false ? 0 : (value as number));
const parts = computed(() =>
  Array.isArray(props.row.raw?.[0]) ? (props.row.raw![0] as number[]).length : 1,
);
const valueOf = (key: Key, part: number) => number(Array.isArray(key.value) ? key.value[part] : key.value);
const sampled = (part: number) =>
  (props.row.raw ?? props.row.values).map((value) => number(Array.isArray(value) ? value[part] : value));

/** What is dragged: a key, or how steeply the course leaves or comes to one. */
interface Grip {
  index: number;
  part: number;
  side: "key" | "arrive" | "leave";
  x: number;
  y: number;
  frames: number;
  value: number;
  slope: number;
  both: boolean;
}
const grip = ref<Grip | null>(null);

const range = computed(() => {
  const all = Array.from({ length: parts.value }, (_, part) => [
    ...sampled(part),
    ...props.row.keys.map((key) => valueOf(key, part)),
  ]).flat();
  const low = Math.min(...all);
  const high = Math.max(...all);
  const room = high - low || Math.abs(high) || 1;
  return { low: low - 0.06 * room, high: high + 0.06 * room };
});
const y = (value: number) =>
  BOTTOM - ((value - range.value.low) / (range.value.high - range.value.low)) * (BOTTOM - TOP);
const perPixel = computed(() => (range.value.high - range.value.low) / (BOTTOM - TOP));

/** Keys as they are seen while one is dragged. */
const shown = computed(() =>
  props.row.keys.map((key, index) => {
    const mine = grip.value?.index === index ? grip.value : null;
    const values = Array.from(
      { length: parts.value },
      (_, part) => valueOf(key, part) + (mine?.side === "key" && mine.part === part ? mine.value : 0),
    );
    const slopes = Array.from({ length: parts.value }, (_, part) =>
      (["arrive", "leave"] as const).map((side, n) => {
        const own = part0(props.row.slopes?.[index]?.[n] ?? 0, part);
        return mine && mine.part === part && (mine.side === side || (mine.both && mine.side !== "key"))
          ? mine.slope
          : own;
      }),
    );
    const frame = times.shownAt(props.row, key.frame) + (mine?.side === "key" ? mine.frames : 0);
    return { key, index, frame, values, slopes, picked: times.has(props.row, key.frame) };
  }),
);
function part0(slope: Slope, part: number): number {
  return (Array.isArray(slope) ? slope[part] : slope) ?? 0;
}

const paths = computed(() =>
  Array.from({ length: parts.value }, (_, part) => {
    const values = sampled(part);
    const { x, from, to } = props.axis;
    const dots = (low: number, high: number) => {
      const list = [];
      for (
        let frame = Math.max(low, Math.floor(from.value) - 1, desk.first);
        frame <= Math.min(high, Math.ceil(to.value) + 1, desk.last);
        frame++
      )
        list.push(`${x(frame).toFixed(1)},${y(values[frame - desk.first] ?? 0).toFixed(1)}`);
      return list;
    };
    // By a formula there is nothing between keys but what comes out.
    if (props.row.formula || !shown.value.length) return `M${dots(desk.first, desk.last).join("L")}`;
    const ends = [shown.value[0], shown.value.at(-1)!];
    const before = dots(desk.first, Math.ceil(ends[0].frame) - 1);
    const after = dots(Math.floor(ends[1].frame) + 1, desk.last);
    let path = before.length ? `M${before.join("L")}L` : "M";
    shown.value.forEach((key, n) => {
      const at = `${x(key.frame).toFixed(1)},${y(key.values[part]).toFixed(1)}`;
      const last = shown.value[n - 1];
      if (!last) path += at;
      else if (last.key.ease === "held" || typeof key.key.value === "boolean")
        path += `H${x(key.frame).toFixed(1)}V${y(key.values[part]).toFixed(1)}`;
      else if (last.key.ease === "linear") path += `L${at}`;
      else {
        // A cubic by its ends' slopes, as one by its handles.
        const third = (key.frame - last.frame) / 3;
        const one = `${x(last.frame + third).toFixed(1)},${y(last.values[part] + third * last.slopes[part][1]).toFixed(1)}`;
        const two = `${x(key.frame - third).toFixed(1)},${y(key.values[part] - third * key.slopes[part][0]).toFixed(1)}`;
        path += `C${one} ${two} ${at}`;
      }
    });
    return after.length ? `${path}L${after.join("L")}` : path;
  }),
);

/** Handles of the keys that are picked, where the course is a sweep. */
const handles = computed(() =>
  shown.value.flatMap((key, n) => {
    if (!key.picked || typeof key.key.value === "boolean" || props.row.formula) return [];
    const found = [];
    for (const [side, other, by] of [
      ["arrive", shown.value[n - 1], -1],
      ["leave", shown.value[n + 1], 1],
    ] as const) {
      const ease = by < 0 ? other?.key.ease : key.key.ease;
      if (!other || ease === "held" || ease === "linear") continue;
      const third = Math.abs(other.frame - key.frame) / 3;
      for (let part = 0; part < parts.value; part++) {
        const slope = key.slopes[part][by < 0 ? 0 : 1];
        found.push({
          side,
          part,
          index: key.index,
          third: by * third,
          slope,
          from: [props.axis.x(key.frame), y(key.values[part])],
          to: [props.axis.x(key.frame + by * third), y(key.values[part] + by * third * slope)],
        });
      }
    }
    return found;
  }),
);

function take(event: PointerEvent, index: number, part: number, side: Grip["side"], slope = 0) {
  if (event.button !== 0) return;
  event.stopPropagation();
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  const key = props.row.keys[index];
  if (!times.has(props.row, key.frame) || event.shiftKey) times.pick(props.row, key.frame, event.shiftKey);
  grip.value = {
    index,
    part,
    side,
    x: event.clientX,
    y: event.clientY,
    frames: 0,
    value: 0,
    slope,
    both: !event.altKey,
  };
}

function move(event: PointerEvent, third = 1) {
  const drag = grip.value;
  if (!drag) return;
  const [aside, up] = [event.clientX - drag.x, drag.y - event.clientY];
  if (drag.side !== "key") {
    drag.slope += (up * perPixel.value) / (third || 1);
    drag.y = event.clientY;
    return;
  }
  const keys = props.row.keys;
  const key = keys[drag.index];
  const low = (keys[drag.index - 1]?.frame ?? desk.first - 1) + 1 - key.frame;
  const high = (keys[drag.index + 1]?.frame ?? desk.last + 1) - 1 - key.frame;
  drag.frames = Math.min(Math.max(Math.round(props.axis.frames(aside)), low), high);
  // One way at a time, unless the hand goes far both ways.
  drag.value = Math.abs(up) > 3 && typeof key.value !== "boolean" ? up * perPixel.value : 0;
}

async function release() {
  const drag = grip.value;
  if (!drag) return;
  const key = props.row.keys[drag.index];
  const at = { node: props.row.node, dial: props.row.dial, frame: key.frame };
  if (drag.side === "key") {
    const value = Array.isArray(key.value)
      ? key.value.map((each, n) => (n === drag.part ? round(each + drag.value) : each))
      : typeof key.value === "number"
        ? round(key.value + drag.value)
        : key.value;
    if (drag.frames || drag.value) await desk.timing.rekey(at, { value, to: key.frame + drag.frames });
    else desk.go(key.frame);
    if (drag.frames) times.pick(props.row, key.frame + drag.frames, false);
  } else {
    const set = (before: Slope | undefined) =>
      Array.isArray(key.value)
        ? key.value.map((_, n) =>
            n === drag.part ? round(drag.slope) : ((before as (number | null)[] | null)?.[n] ?? null),
          )
        : round(drag.slope);
    const sides = drag.both ? (["arrive", "leave"] as const) : [drag.side];
    await desk.timing.rekey(at, Object.fromEntries(sides.map((side) => [side, set(key[side])])));
  }
  grip.value = null;
}

const round = (value: number) => Number(value.toPrecision(5));

/** A handle goes back to what its neighbours make of it. */
function even(index: number) {
  const key = props.row.keys[index];
  void desk.timing.rekey(
    { node: props.row.node, dial: props.row.dial, frame: key.frame },
    { arrive: null, leave: null },
  );
}
</script>

<template>
  <div class="lane" :class="{ off: row.off }" :data-curve="`${row.node}.${row.dial}`">
    <svg :width="width" :height="OPEN" aria-hidden="true">
      <line x1="0" :x2="width" :y1="TOP" :y2="TOP" class="axis" />
      <line x1="0" :x2="width" :y1="BOTTOM" :y2="BOTTOM" class="axis" />
      <path
        v-for="(path, part) in paths"
        :key="part"
        :d="path"
        class="curve"
        :stroke-dasharray="DASHES[part]"
      />
      <line
        v-for="(handle, n) in handles"
        :key="n"
        :x1="handle.from[0]"
        :y1="handle.from[1]"
        :x2="handle.to[0]"
        :y2="handle.to[1]"
        class="arm"
      />
    </svg>
    <span class="value" :style="{ top: `${TOP - 13}px` }">{{ plain(range.high) }}</span>
    <span class="value" :style="{ top: `${BOTTOM - 4}px` }">{{ plain(range.low) }}</span>
    <template v-for="part in parts" :key="part">
      <button
        v-for="key in shown"
        :key="key.index"
        class="key"
        :class="{ picked: key.picked }"
        :style="{ left: `${axis.x(key.frame)}px`, top: `${y(key.values[part - 1])}px` }"
        :title="`Frame ${key.frame}: ${plain(key.values[part - 1])}, ${key.key.ease}; drag it both ways`"
        :aria-label="`Key at frame ${key.key.frame}, ${plain(key.values[part - 1])}; arrows move it, Delete takes it away`"
        data-curve-key
        @pointerdown="take($event, key.index, part - 1, 'key')"
        @pointermove="move($event)"
        @pointerup="release"
        @pointercancel="grip = null"
        @keydown="emit('step', $event, key.key)"
      />
    </template>
    <span
      v-for="handle in handles"
      :key="`${handle.index}${handle.side}${handle.part}`"
      class="handle"
      title="How steeply; with Alt this side alone, double-click for even"
      :style="{ left: `${handle.to[0]}px`, top: `${handle.to[1]}px` }"
      :data-handle="handle.side"
      @pointerdown="take($event, handle.index, handle.part, handle.side, handle.slope)"
      @pointermove="move($event, handle.third)"
      @pointerup="release"
      @pointercancel="grip = null"
      @dblclick.stop="even(handle.index)"
    />
  </div>
</template>

<style scoped>
.lane {
  position: relative;
  height: 118px;
  background: rgb(12 15 17 / 45%);
  overflow: hidden;
}

.lane svg {
  display: block;
}

.off {
  opacity: 0.35;
}

.axis {
  stroke: var(--track);
}

.curve {
  fill: none;
  stroke: var(--text);
  stroke-width: 1.5;
}

.arm {
  stroke: var(--accent);
  stroke-width: 1;
}

.value {
  position: absolute;
  left: 6px;
  color: var(--faint);
  font-size: 10.5px;
  pointer-events: none;
}

.key,
.handle {
  position: absolute;
  width: 24px;
  height: 24px;
  margin: -12px 0 0 -12px;
  display: grid;
  place-items: center;
  cursor: move;
  touch-action: none;
}

.key::after {
  content: "";
  width: 8px;
  height: 8px;
  border-radius: 2px;
  background: var(--accent);
}

.key.picked::after {
  background: var(--text);
  box-shadow: 0 0 0 1.5px var(--accent);
}

.handle {
  cursor: ns-resize;
}

.handle::after {
  content: "";
  width: 7px;
  height: 7px;
  border-radius: 50%;
  border: 1.5px solid var(--accent);
  background: var(--surround);
}
</style>
