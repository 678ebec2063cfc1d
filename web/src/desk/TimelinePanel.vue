<script setup lang="ts">
import { useElementSize } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import type { Key, TimelineRow } from "../api/types";
import { useDesk } from "../stores/desk";
import { tints } from "../theme";
import ShotSettings from "./ShotSettings.vue";
import TimelineHead from "./TimelineHead.vue";
import TimelineRuler from "./TimelineRuler.vue";
import { useCurves } from "./useCurves";

const desk = useDesk();
const lanes = ref<HTMLElement | null>(null);
const { width } = useElementSize(lanes);
const HEIGHT = 26;

const count = computed(() => Math.max(desk.last - desk.first, 1));
const x = (frame: number) => ((frame - desk.first) / count.value) * Math.max(width.value - 12, 1) + 6;
const rows = computed(() => desk.shot?.timeline ?? []);
const { chosen, choices, curves } = useCurves(x, HEIGHT);

/** The ribbon: as thick at each frame as the thing is strong there. */
function ribbon(row: TimelineRow): string {
  const top: string[] = [];
  const bottom: string[] = [];
  const middle = HEIGHT / 2 - 1;
  row.values.forEach((value, i) => {
    const half = (Math.abs(value) / row.peak) * 7.5;
    top.push(`${x(desk.first + i).toFixed(1)},${(middle - half).toFixed(2)}`);
    bottom.push(`${x(desk.first + i).toFixed(1)},${(middle + half).toFixed(2)}`);
  });
  return `M${top.join("L")}L${bottom.reverse().join("L")}Z`;
}

function frameAt(event: PointerEvent): number {
  const box = lanes.value!.getBoundingClientRect();
  const at = (event.clientX - box.left - 6) / Math.max(width.value - 12, 1);
  return Math.min(Math.max(Math.round(desk.first + at * count.value), desk.first), desk.last);
}

let scrubbing = false;

function scrubDown(event: PointerEvent) {
  if (event.button !== 0) return;
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  scrubbing = true;
  desk.playing = false;
  desk.frame = frameAt(event);
}

function scrub(event: PointerEvent) {
  if (scrubbing) desk.frame = frameAt(event);
}

const dragged = ref<{ row: TimelineRow; key: Key; to: number } | null>(null);

function keyDown(event: PointerEvent, row: TimelineRow, key: Key) {
  if (event.button !== 0) return;
  event.stopPropagation();
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  dragged.value = { row, key, to: shownAt(row, key) };
}

function shownAt(row: TimelineRow, key: Key): number {
  if (dragged.value?.row === row && dragged.value.key === key) return dragged.value.to;
  return moved.value.get(nameOf(row, key)) ?? key.frame;
}

/** A key stays in the shot and stops beside its neighbours. */
function beside(row: TimelineRow, key: Key, to: number): number {
  const others = row.keys.filter((other) => other !== key).map((other) => shownAt(row, other));
  const here = shownAt(row, key);
  const before = Math.max(desk.first - 1, ...others.filter((frame) => frame < here));
  const after = Math.min(desk.last + 1, ...others.filter((frame) => frame > here));
  return Math.min(Math.max(to, before + 1), after - 1);
}

function keyMove(event: PointerEvent) {
  const drag = dragged.value;
  if (drag) drag.to = beside(drag.row, drag.key, frameAt(event));
}

function keyUp() {
  const drag = dragged.value;
  if (!drag) return;
  dragged.value = null;
  if (drag.to !== shownAt(drag.row, drag.key)) moveTo(drag.row, drag.key, drag.to);
  else desk.go(drag.to);
}

/** Keys whose move the server has not answered yet, by their place in the row: none passes another. */
const moved = ref(new Map<string, number>());
const nameOf = (row: TimelineRow, key: Key) => `${row.node}.${row.dial}#${row.keys.indexOf(key)}`;
watch(
  () => desk.unanswered,
  (left) => left || moved.value.clear(),
);

function moveTo(row: TimelineRow, key: Key, to: number) {
  const from = shownAt(row, key);
  if (to === from) return;
  moved.value.set(nameOf(row, key), to);
  void desk.edit([{ do: "move_key", node: row.node, dial: row.dial, frame: from, to }]);
}

function keyKeys(event: KeyboardEvent, row: TimelineRow, key: Key) {
  const place = { node: row.node, dial: row.dial, frame: shownAt(row, key) };
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (by) moveTo(row, key, beside(row, key, shownAt(row, key) + by));
  else if (event.key === "Delete" || event.key === "Backspace")
    void desk.edit([{ do: "drop_key", ...place }]);
  else return;
  event.preventDefault();
  event.stopPropagation();
}
</script>

<template>
  <section class="timeline" aria-label="Timeline">
    <timeline-head v-model:chosen="chosen" :choices="choices" />
    <shot-settings v-if="desk.settings" />
    <div class="rows">
      <div class="names">
        <div class="ruler" />
        <div v-for="row in rows" :key="row.node + row.dial" class="name" :title="row.name">
          {{ row.name }}
        </div>
        <div v-for="curve in curves" :key="curve.name" class="name" :title="curve.label">
          {{ curve.label }}
        </div>
      </div>
      <div
        ref="lanes"
        class="lanes"
        @pointerdown="scrubDown"
        @pointermove="scrub"
        @pointerup="scrubbing = false"
        @pointercancel="scrubbing = false"
      >
        <timeline-ruler :x="x" :width="width" />
        <div v-for="row in rows" :key="row.node + row.dial" class="lane" :class="{ off: row.off }">
          <svg :width="width" :height="HEIGHT" aria-hidden="true">
            <line x1="0" :x2="width" :y1="HEIGHT / 2 - 1" :y2="HEIGHT / 2 - 1" class="axis" />
            <path :d="ribbon(row)" :fill="tints[row.tint] ?? '#a3a298'" opacity="0.85" />
          </svg>
          <button
            v-for="(key, index) in row.keys"
            :key="index"
            class="key"
            :style="{ left: `${x(shownAt(row, key))}px` }"
            :title="`Frame ${shownAt(row, key)}: ${[key.value].flat().join(', ')}, ${key.ease}`"
            :aria-label="`Key at frame ${key.frame}; arrows move it, Delete takes it away`"
            data-timeline-key
            @pointerdown="keyDown($event, row, key)"
            @pointermove="keyMove"
            @pointerup="keyUp"
            @pointercancel="dragged = null"
            @keydown="keyKeys($event, row, key)"
          >
            <svg width="9" height="9" viewBox="0 0 9 9"><path d="M.5.5h8v4L4.500 8.500.5 4.500z" /></svg>
          </button>
        </div>
        <div v-for="curve in curves" :key="curve.name" class="lane" :data-fact="curve.name">
          <svg :width="width" :height="HEIGHT" aria-hidden="true">
            <path :d="curve.path" class="seconds" />
          </svg>
          <span class="peak faint live">{{ curve.value }}</span>
        </div>
        <span class="head live" :style="{ transform: `translateX(${x(desk.frame)}px)` }" />
      </div>
    </div>
  </section>
</template>

<style scoped>
.timeline {
  background: var(--panel);
  border-top: 1px solid var(--line);
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}

.rows {
  display: flex;
  padding-right: 14px;
  flex: 1;
  overflow: hidden auto;
}

.names {
  width: 116px;
  flex: none;
  padding-left: 14px;
}

.name {
  height: 26px;
  line-height: 24px;
  color: var(--quiet);
  font-size: 11.5px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}

.lanes {
  position: relative;
  flex: 1;
  min-width: 0;
  touch-action: none;
  cursor: default;
}

.ruler {
  position: relative;
  height: 22px;
}

.lane {
  position: relative;
  height: 26px;
}

.lane svg {
  display: block;
}

.lane.off {
  opacity: 0.35;
}

.axis {
  stroke: var(--track);
}

.seconds {
  fill: none;
  stroke: var(--quiet);
  stroke-width: 1.2;
}

.peak {
  position: absolute;
  right: 4px;
  top: 2px;
  font-size: 10.5px;
}

.key {
  position: absolute;
  top: 4px;
  width: 24px;
  height: 24px;
  margin-left: -12px;
  padding-top: 12px;
  display: grid;
  place-items: center;
  cursor: ew-resize;
  touch-action: none;
}

.key svg {
  fill: var(--accent);
}

.head {
  position: absolute;
  left: 0;
  top: 0;
  bottom: 0;
  width: 1.5px;
  background: var(--accent);
  pointer-events: none;
}

.head::before {
  content: "";
  position: absolute;
  top: 0;
  left: -3px;
  width: 7px;
  height: 7px;
  border-radius: 50%;
  background: var(--accent);
}
</style>
