<script setup lang="ts">
import { computed, useTemplateRef, watchEffect } from "vue";
import { useDesk } from "../stores/desk";
import { useTimes } from "../stores/times";
import TimeMarkers from "./TimeMarkers.vue";
import type { TimeAxis } from "./useTimeAxis";

/** The frames in numbers, and which of them are there: up to date, from before a change, being made, drawn. */
const props = defineProps<{ axis: TimeAxis; width: number }>();
const desk = useDesk();
const times = useTimes();
const slider = useTemplateRef<HTMLElement>("slider");
// Without showing all of it anew.
watchEffect(() => slider.value?.setAttribute("aria-valuenow", `${desk.frame}`));
const count = computed(() => Math.max(props.axis.to.value - props.axis.from.value, 1));
const x = (frame: number) => props.axis.x(frame);
const ticks = computed(() => {
  const room = Math.max(4, Math.floor(props.width / 80));
  const step =
    [1, 2, 5, 6, 10, 12, 24, 48, 96, 100, 240, 500, 1000, 5000].find((s) => count.value / s <= room) ?? 10000;
  const list = [];
  // From the first frame on, whatever part is seen.
  const begin = desk.first + Math.max(Math.floor((props.axis.from.value - desk.first) / step), 0) * step;
  for (let frame = begin; frame <= Math.min(props.axis.to.value, desk.last); frame += step) list.push(frame);
  return list;
});
const cells = computed(() => {
  const runs: { from: number; to: number; state: string }[] = [];
  for (const row of desk.frames?.rows ?? []) {
    const end = runs.at(-1);
    const state = desk.running && row.state !== "fresh" ? "working" : row.state;
    if (end?.state === state) end.to = row.frame;
    else runs.push({ from: row.frame, to: row.frame, state });
  }
  return runs.filter((run) => !["none", "still"].includes(run.state));
});
/** Frames that play from pictures that were kept. */
const ready = computed(() => {
  const runs: { from: number; to: number }[] = [];
  for (const frame of desk.kept) {
    const end = runs.at(-1);
    if (end?.to === frame - 1) end.to = frame;
    else runs.push({ from: frame, to: frame });
  }
  return runs;
});
/** From half a frame before to half a frame after, and never out of the window. */
function span({ from, to }: { from: number; to: number }) {
  const left = Math.max(x(from - 0.5), 0);
  return { left: `${left}px`, width: `${Math.max(Math.min(x(to + 0.5), props.width) - left, 0)}px` };
}
</script>

<template>
  <div
    ref="slider"
    class="ruler"
    role="slider"
    tabindex="0"
    aria-label="Frame"
    :aria-valuemin="desk.first"
    :aria-valuemax="desk.last"
  >
    <span v-if="times.loop" class="loop" title="Played over and over" data-loop :style="span(times.loop)" />
    <time-markers :axis="axis" />
    <span v-for="frame in ticks" :key="frame" class="tick" :style="{ left: `${x(frame)}px` }">{{
      frame
    }}</span>
    <span
      v-for="run in cells"
      :key="`${run.state}${run.from}`"
      class="cached"
      :class="run.state"
      :data-cached="run.state"
      :style="span(run)"
    />
    <span
      v-for="run in ready"
      :key="`ready${run.from}`"
      class="ready"
      title="Drawn and kept: plays at the shot's rate"
      :data-ready="`${run.from}-${run.to}`"
      :style="span(run)"
    />
  </div>
</template>

<style scoped>
.ruler {
  position: relative;
  height: 22px;
  overflow: hidden;
}

.loop {
  position: absolute;
  top: 0;
  bottom: 0;
  background: rgb(189 212 94 / 13%);
  border: 1px solid var(--accent);
  border-width: 0 1.5px;
}

.tick {
  position: absolute;
  color: var(--faint);
  font-size: 11px;
  pointer-events: none;
  transform: translateX(-2px);
}

.cached {
  position: absolute;
  bottom: 2px;
  height: 3px;
  border-radius: 2px;
  min-width: 2px;
}

.ready {
  position: absolute;
  bottom: 7px;
  height: 1px;
  min-width: 2px;
  background: var(--accent);
}

.fresh {
  background: var(--paper);
}

.stale {
  background: repeating-linear-gradient(115deg, var(--quiet) 0 2px, transparent 2px 5px);
}

/* Hollow, so that it is told apart by its shape. */
.working {
  height: 6px;
  border-radius: 3px;
  box-shadow: inset 0 0 0 1px var(--quiet);
}
</style>
