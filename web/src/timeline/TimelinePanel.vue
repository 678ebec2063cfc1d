<script setup lang="ts">
import { useElementSize, useScroll } from "@vueuse/core";
import { computed, useTemplateRef } from "vue";
import type { Key, TimelineRow } from "../api/types";
import { useDesk } from "../stores/desk";
import { nameOf, useTimes } from "../stores/times";
import CurveLane from "./CurveLane.vue";
import CurveSides from "./CurveSides.vue";
import ShotSettings from "./ShotSettings.vue";
import TimeLane from "./TimeLane.vue";
import TimelineHead from "./TimelineHead.vue";
import TimelineRuler from "./TimelineRuler.vue";
import { useFacts } from "./useFacts";
import { useTimeAxis } from "./useTimeAxis";
import { useTimeBox } from "./useTimeBox";
import { LANE, useTimeLines } from "./useTimeLines";

const desk = useDesk();
const times = useTimes();
const section = useTemplateRef<HTMLElement>("section");
const scroller = useTemplateRef<HTMLElement>("scroller");
const ruler = useTemplateRef<HTMLElement>("ruler");
const { width } = useElementSize(ruler);
const { height } = useElementSize(scroller);
const { y: scroll } = useScroll(scroller);
const axis = useTimeAxis(width);
const { lines, seen, total, shown } = useTimeLines(scroll, height);
const { chosen, choices, curves } = useFacts(axis.x, LANE);
const left = (event: MouseEvent) => event.clientX - ruler.value!.getBoundingClientRect().left;
const frameAt = (event: MouseEvent) =>
  Math.min(Math.max(Math.round(axis.frameAt(left(event))), desk.first), desk.last);
const box = useTimeBox(lines, axis, frameAt);

/** The ruler: a drag goes through the frames, with Shift it says what is played over and over. */
let scrubbing: "frames" | "loop" | null = null;
let began = 0;

function scrubDown(event: PointerEvent) {
  if (event.button !== 0) return;
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  scrubbing = event.shiftKey ? "loop" : "frames";
  desk.playing = false;
  began = frameAt(event);
  if (scrubbing === "frames") desk.frame = began;
}

function scrub(event: PointerEvent) {
  if (scrubbing === "frames") desk.frame = frameAt(event);
  if (scrubbing === "loop") times.setLoop(began, frameAt(event));
}

function scrubUp(event: PointerEvent) {
  if (scrubbing === "loop" && frameAt(event) === began) times.loop = null;
  scrubbing = null;
}

/** A key in the hand, with all others that are picked. */
let grip: { x: number; moved: boolean; frame: number } | null = null;

function grab(event: PointerEvent, row: TimelineRow, key: Key) {
  if (event.button !== 0) return;
  event.stopPropagation();
  (event.currentTarget as Element)?.setPointerCapture?.(event.pointerId);
  (event.target as Element).closest("button")?.setPointerCapture(event.pointerId);
  section.value?.focus({ preventScroll: true });
  if (event.shiftKey || !times.has(row, key.frame)) times.pick(row, key.frame, event.shiftKey);
  times.copying = event.altKey;
  grip = { x: event.clientX, moved: false, frame: key.frame };
}

function move(event: PointerEvent) {
  if (grip) {
    const far = event.clientX - grip.x;
    grip.moved ||= Math.abs(far) > 2;
    if (grip.moved) times.moveTo(axis.frames(far));
  } else box.move(event);
}

function up(event: PointerEvent) {
  if (grip) {
    if (grip.moved) void times.settle();
    else {
      times.copying = false;
      desk.go(grip.frame);
    }
    grip = null;
  } else box.up(event);
}

function down(event: PointerEvent) {
  if (event.button !== 0 || left(event) < 0) return;
  section.value?.focus({ preventScroll: true });
  box.down(event);
}

/** A key's own keys: it takes along what else is picked. */
function step(event: KeyboardEvent, row: TimelineRow, key: Key) {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (by) {
    if (!times.has(row, key.frame)) times.pick(row, key.frame, false);
    times.copying = false;
    times.moveTo(times.away + by);
    void times.settle();
  } else if (event.key === "Delete" || event.key === "Backspace")
    void desk.timing.dropKeys(
      times.has(row, key.frame) ? times.places : [{ node: row.node, dial: row.dial, frame: key.frame }],
    );
  else return;
  event.preventDefault();
  event.stopPropagation();
}

function press(event: KeyboardEvent) {
  if ((event.target as HTMLElement).tagName === "INPUT" || axis.keys(event)) return;
  const all = (event.ctrlKey || event.metaKey) && event.key === "a";
  if (all)
    for (const row of shown.value) for (const key of row.keys) times.keys.add(`${nameOf(row)}@${key.frame}`);
  else if (event.key === "Delete" && times.places.length) void desk.timing.dropKeys(times.places);
  else if (event.key === "Escape" && (times.keys.size || times.picked.size)) times.clear();
  else return;
  event.preventDefault();
  event.stopPropagation();
}

function pickRow(event: MouseEvent, row: TimelineRow) {
  const name = nameOf(row);
  times.keys.clear();
  if (event.shiftKey && times.picked.size) {
    const names = shown.value.map(nameOf);
    const ends = [names.indexOf([...times.picked].at(-1)!), names.indexOf(name)].sort((a, b) => a - b);
    for (const each of names.slice(ends[0], ends[1] + 1)) times.picked.add(each);
  } else if (event.ctrlKey || event.metaKey) {
    if (!times.picked.delete(name)) times.picked.add(name);
  } else {
    times.picked = new Set([name]);
    const node = desk.byId.get(row.node);
    if (node) {
      desk.chapter = desk.chapterOf(node);
      desk.selected = row.node;
    }
  }
}

function toggle(set: Set<string>, name: string) {
  if (!set.delete(name)) set.add(name);
}

function wheel(event: WheelEvent) {
  axis.wheel(event, left(event));
}
const body = computed(() => total.value + curves.value.length * LANE);
</script>

<template>
  <section
    ref="section"
    class="timeline"
    aria-label="Timeline"
    tabindex="-1"
    @keydown="press"
    @pointermove="move"
    @pointerup="up"
    @pointercancel="up"
  >
    <timeline-head v-model:chosen="chosen" :choices="choices" />
    <shot-settings v-if="desk.settings" />
    <div ref="scroller" class="rows" @wheel="wheel">
      <div class="top">
        <div class="name" />
        <div
          ref="ruler"
          class="ruler"
          @pointerdown="scrubDown"
          @pointermove="scrub"
          @pointerup="scrubUp"
          @pointercancel="scrubUp"
        >
          <timeline-ruler :axis="axis" :width="width" />
          <span class="head knob live" :style="{ transform: `translateX(${axis.x(desk.frame)}px)` }" />
        </div>
      </div>
      <div class="body" :style="{ height: `${body}px` }" @pointerdown="down">
        <div
          v-for="line in seen"
          :key="`${line.kind}${line.name}`"
          class="line"
          :style="{ transform: `translateY(${line.top}px)`, height: `${line.height}px` }"
        >
          <button
            v-if="line.kind === 'group'"
            class="group"
            :aria-expanded="!times.folded.has(line.name)"
            :data-time-group="line.name"
            @pointerdown.stop
            @click="toggle(times.folded, line.name)"
          >
            {{ times.folded.has(line.name) ? "▸" : "▾" }} {{ line.label }}
            <span class="faint">{{ line.count }}</span>
          </button>
          <template v-else>
            <div class="name" :class="{ picked: times.picked.has(line.name) }" @pointerdown.stop>
              <button
                class="caret"
                :aria-expanded="line.open"
                :aria-label="`Curve of ${line.row.name}`"
                title="Open its curve"
                :data-open-row="line.name"
                @click="toggle(times.open, line.name)"
              >
                {{ line.open ? "▾" : "▸" }}
              </button>
              <span class="words">
                <button
                  class="what"
                  :title="`${line.row.name}; Ctrl or Shift picks several`"
                  :data-time-row="line.name"
                  @click="pickRow($event, line.row)"
                  @dblclick="toggle(times.open, line.name)"
                >
                  {{ line.row.name }}
                  <i
                    v-if="line.row.formula"
                    class="rule"
                    :title="`= ${[line.row.formula].flat().filter(Boolean).join('; ')}`"
                    >= …</i
                  >
                </button>
                <curve-sides v-if="line.open" :row="line.row" />
              </span>
            </div>
            <div class="cell">
              <curve-lane
                v-if="line.open"
                :row="line.row"
                :axis="axis"
                :width="width"
                @step="(event, key) => step(event, line.row, key)"
              />
              <time-lane
                v-else
                :row="line.row"
                :axis="axis"
                :width="width"
                @grab="(event, key) => grab(event, line.row, key)"
                @step="(event, key) => step(event, line.row, key)"
              />
            </div>
          </template>
        </div>
        <div
          v-for="(curve, n) in curves"
          :key="curve.name"
          class="line fact"
          :style="{ transform: `translateY(${total + n * LANE}px)` }"
        >
          <div class="name" :title="curve.label">
            <span class="what">{{ curve.label }}</span>
          </div>
          <div class="cell" :data-fact="curve.name">
            <svg :width="width" :height="LANE" aria-hidden="true">
              <path :d="curve.path" class="seconds" />
            </svg>
            <span class="peak faint live">{{ curve.value }}</span>
          </div>
        </div>
        <div class="over">
          <span class="head live" :style="{ transform: `translateX(${axis.x(desk.frame)}px)` }" />
          <span v-if="box.shape.value" class="box" :style="box.shape.value" />
        </div>
      </div>
      <p v-if="!lines.length" class="none faint">
        {{
          times.rows.length
            ? "No row has that name."
            : "What acts in time stands here, once there is a source, a force or a key."
        }}
      </p>
    </div>
  </section>
</template>

<style scoped>
.timeline {
  --names: 138px;

  background: var(--panel);
  border-top: 1px solid var(--line);
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
  outline: none;
}

.rows {
  position: relative;
  margin-right: 14px;
  flex: 1;
  overflow: hidden auto;
}

.top {
  position: sticky;
  top: 0;
  z-index: 3;
  display: flex;
  height: 24px;
  background: var(--panel);
}

.ruler {
  position: relative;
  flex: 1;
  min-width: 0;
  touch-action: none;
}

.body {
  position: relative;
  touch-action: pan-y;
  min-height: 8px;
}

.line {
  position: absolute;
  inset: 0 0 auto;
  display: flex;
}

.fact {
  height: 26px;
}

.name {
  width: var(--names);
  flex: none;
  padding-left: 2px;
  display: flex;
  align-items: flex-start;
}

.name.picked {
  background: var(--track);
  border-radius: 6px 0 0 6px;
}

.caret {
  color: var(--faint);
  font-size: 10px;
  min-width: 24px;
  flex: none;
}

.words {
  display: grid;
  min-width: 0;
}

.what {
  line-height: 24px;
  color: var(--quiet);
  font-size: 11.5px;
  text-align: left;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}

.rule {
  color: var(--accent);
}

.what:hover,
.picked .what {
  color: var(--text);
}

.fact .what {
  padding-left: 24px;
}

.group {
  padding-left: 10px;
  min-height: 24px;
  text-align: left;
  width: 100%;
  font-size: 11px;
  color: var(--quiet);
  border-top: 1px solid var(--line);
}

.cell {
  position: relative;
  flex: 1;
  min-width: 0;
  overflow: hidden;
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

.over {
  position: absolute;
  inset: 0 0 0 var(--names);
  pointer-events: none;
  overflow: hidden;
}

.box {
  position: absolute;
  border: 1px solid var(--accent);
  background: rgb(189 212 94 / 9%);
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

.knob {
  top: 16px;
}

.knob::before {
  content: "";
  position: absolute;
  top: 0;
  left: -3px;
  width: 7px;
  height: 7px;
  border-radius: 50%;
  background: var(--accent);
}

.none {
  margin: 10px 16px;
}
</style>
