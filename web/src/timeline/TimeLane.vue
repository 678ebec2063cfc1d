<script setup lang="ts">
import { computed, ref } from "vue";
import type { Key, TimelineRow } from "../api/types";
import { useDesk } from "../stores/desk";
import { useTimes } from "../stores/times";
import { tints } from "../theme";
import type { TimeAxis } from "./useTimeAxis";
import { LANE } from "./useTimeLines";

/** One row: a ribbon as thick as the thing is strong, when it begins and ends, and its keys. */
const props = defineProps<{ row: TimelineRow; axis: TimeAxis; width: number }>();
const emit = defineEmits<{ grab: [event: PointerEvent, key: Key]; step: [event: KeyboardEvent, key: Key] }>();
const desk = useDesk();
const times = useTimes();
const MIDDLE = LANE / 2 - 1;

const path = computed(() => {
  const { values, peak } = props.row;
  const low = Math.max(Math.floor(props.axis.from.value) - 1, desk.first) - desk.first;
  const high = Math.min(Math.ceil(props.axis.to.value) + 1, desk.last) - desk.first;
  const top: string[] = [];
  const bottom: string[] = [];
  for (let n = low; n <= high; n++) {
    const half = (Math.abs(values[n] ?? 0) / peak) * 7.5;
    const x = props.axis.x(desk.first + n).toFixed(1);
    top.push(`${x},${(MIDDLE - half).toFixed(2)}`);
    bottom.push(`${x},${(MIDDLE + half).toFixed(2)}`);
  }
  return `M${top.join("L")}L${bottom.reverse().join("L")}Z`;
});

const seenKeys = computed(() =>
  props.row.keys
    .map((key, index) => ({ key, index, at: times.shownAt(props.row, key.frame) }))
    .filter(({ at }) => at >= props.axis.from.value - 1 && at <= props.axis.to.value + 1),
);

/** A frame among its dials that is being moved. */
const held = ref<{ dial: string; from: number; to: number; x: number; both: boolean } | null>(null);
const spans = computed(() =>
  (props.row.spans ?? []).map((span) => {
    const moved = held.value && (held.value.dial === span.dial || (held.value.both && span.frame));
    const open = span.at === "to" && span.frame === 0;
    const frame = (open ? desk.last : span.frame) + (moved ? held.value!.to - held.value!.from : 0);
    return { ...span, frame, open };
  }),
);
const bar = computed(() => {
  const from = spans.value.find((span) => span.at === "from");
  const to = spans.value.find((span) => span.at === "to");
  // What is always there has no ends to be seen.
  if (!from || !to || (to.open && from.frame <= desk.first && !held.value)) return null;
  return { from: from.frame, to: to.frame };
});

function hold(event: PointerEvent, dial: string, frame: number, both = false) {
  if (event.button !== 0) return;
  event.stopPropagation();
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  held.value = { dial, from: frame, to: frame, x: event.clientX, both };
}

function drag(event: PointerEvent) {
  const drag = held.value;
  if (drag) drag.to = drag.from + Math.round(props.axis.frames(event.clientX - drag.x));
}

async function release() {
  const drag = held.value;
  if (drag && drag.to !== drag.from) {
    const by = drag.to - drag.from;
    if (drag.both) await times.retimeRow(props.row, by);
    else await desk.set(props.row.node, drag.dial, Math.max(drag.to, drag.dial === "last" ? 1 : 0));
  }
  held.value = null;
}

function nudge(event: KeyboardEvent, dial: string, frame: number) {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (!by) return;
  event.preventDefault();
  event.stopPropagation();
  void desk.set(props.row.node, dial, Math.max(frame + by, 0));
}

const words = (key: Key) => `Frame ${key.frame}: ${[key.value].flat().join(", ")}, ${key.ease}`;
</script>

<template>
  <div class="lane" :class="{ off: row.off }">
    <svg :width="width" :height="LANE" aria-hidden="true">
      <line x1="0" :x2="width" :y1="MIDDLE" :y2="MIDDLE" class="axis" />
      <path :d="path" :fill="tints[row.tint] ?? '#a3a298'" opacity="0.85" />
    </svg>
    <span
      v-if="bar"
      class="bar"
      title="Drag to move all of it in time"
      :style="{ left: `${axis.x(bar.from)}px`, width: `${Math.max(axis.x(bar.to) - axis.x(bar.from), 6)}px` }"
      @pointerdown="hold($event, '', bar.from, true)"
      @pointermove="drag"
      @pointerup="release"
      @pointercancel="held = null"
    />
    <template v-for="span in spans" :key="span.dial">
      <button
        v-if="span.at === 'at' || bar"
        class="end"
        :class="span.at"
        :style="{ left: `${axis.x(span.frame)}px` }"
        :title="`${span.label} ${span.open ? 'the end' : span.frame}; drag it`"
        :aria-label="`${span.label} ${span.frame}; arrows move it`"
        :data-span="`${row.node}.${span.dial}`"
        @pointerdown="hold($event, span.dial, span.frame)"
        @pointermove="drag"
        @pointerup="release"
        @pointercancel="held = null"
        @keydown="nudge($event, span.dial, span.frame)"
      >
        <svg width="7" height="13" viewBox="0 0 7 13">
          <path
            :d="
              span.at === 'to'
                ? 'M1 .8h5v11.4H1'
                : span.at === 'from'
                  ? 'M6 .8H1v11.4h5'
                  : 'M3.5 0v13M.5 3.500h6'
            "
          />
        </svg>
      </button>
    </template>
    <button
      v-for="{ key, index, at } in seenKeys"
      :key="index"
      class="key"
      :class="{ picked: times.has(row, key.frame) }"
      :style="{ left: `${axis.x(at)}px` }"
      :title="words(key)"
      :aria-label="`Key at frame ${key.frame}; arrows move it, Delete takes it away`"
      :aria-pressed="times.has(row, key.frame)"
      data-timeline-key
      @pointerdown="emit('grab', $event, key)"
      @keydown="emit('step', $event, key)"
    >
      <svg width="9" height="9" viewBox="0 0 9 9"><path d="M.5.5h8v4L4.500 8.500.5 4.500z" /></svg>
    </button>
  </div>
</template>

<style scoped>
.lane {
  position: relative;
  height: 26px;
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

.bar {
  position: absolute;
  top: 4px;
  height: 16px;
  background: rgb(235 229 216 / 5%);
  border-radius: 3px;
  cursor: grab;
  touch-action: none;
}

.bar:hover {
  background: rgb(235 229 216 / 11%);
}

.end {
  position: absolute;
  top: 0;
  width: 24px;
  height: 24px;
  margin-left: -12px;
  display: grid;
  place-items: center;
  cursor: ew-resize;
  touch-action: none;
}

.end svg {
  fill: none;
  stroke: var(--accent);
  stroke-width: 1.6;
}

.end:hover svg {
  stroke: var(--text);
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
  overflow: visible;
}

.key.picked svg {
  fill: var(--text);
  stroke: var(--surround);
  stroke-width: 1;
}
</style>
