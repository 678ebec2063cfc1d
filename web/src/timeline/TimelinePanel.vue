<script setup lang="ts">
import { useElementSize, useScroll } from "@vueuse/core";
import { computed, useTemplateRef } from "vue";
import { useDesk } from "../stores/desk";
import { useTimes } from "../stores/times";
import CurveLane from "./CurveLane.vue";
import PlayHead from "./PlayHead.vue";
import ShotSettings from "./ShotSettings.vue";
import TimeLane from "./TimeLane.vue";
import TimeName from "./TimeName.vue";
import TimelineHead from "./TimelineHead.vue";
import TimelineRuler from "./TimelineRuler.vue";
import { useFacts } from "./useFacts";
import { useScrub } from "./useScrub";
import { useTimeAxis } from "./useTimeAxis";
import { useTimeBox } from "./useTimeBox";
import { useTimeKeys } from "./useTimeKeys";
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
const { scrubDown, scrub, scrubUp } = useScrub(frameAt);
const { grab, move, up, step, press } = useTimeKeys(section, axis, box, shown);

function down(event: PointerEvent) {
  if (event.button !== 0 || left(event) < 0) return;
  section.value?.focus({ preventScroll: true });
  box.down(event);
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
          <play-head class="head knob live" :axis="axis" />
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
            @click="times.folded.delete(line.name) || times.folded.add(line.name)"
          >
            {{ times.folded.has(line.name) ? "▸" : "▾" }} {{ line.label }}
            <span class="faint">{{ line.count }}</span>
          </button>
          <template v-else>
            <time-name :line="line" :shown="shown" />
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
          <play-head class="head live" :axis="axis" />
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

<style scoped src="./names.css"></style>

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
