<script setup lang="ts">
import { NColorPicker, NSelect } from "naive-ui";
import { computed, ref, watch } from "vue";
import { api } from "../../api/client";
import type { Dial, Histogram, ShotNode, Stop } from "../../api/types";
import { oneByOne } from "../../lib/oneByOne";
import { hexOf, linearOf, plain, stepOf } from "../../lib/numbers";
import { useCatalog } from "../../stores/catalog";
import { useDesk } from "../../stores/desk";
import NumberField from "../NumberField.vue";
import { bars, course, inserted, moved, rampAt, spanOf } from "./ramps";

const props = defineProps<{
  dial: Dial;
  node: ShotNode;
  value: Stop[];
  set: (value: unknown) => Promise<string | null>;
}>();
const emit = defineEmits<{ preview: [value: Stop[] | undefined] }>();
const desk = useDesk();
const catalog = useCatalog();

const WIDTH = 268;
const HEIGHT = 74;
const picked = ref(0);
const histogram = ref<Histogram | null>(null);
const colour = computed(() => props.dial.of === "colour");
const stop = computed<Stop | undefined>(() => props.value[Math.min(picked.value, props.value.length - 1)]);
const span = computed(() => spanOf(props.value, histogram.value));
const top = computed(() =>
  colour.value ? 1 : 1.1 * Math.max(1e-3, ...props.value.map((each) => each.value as number)),
);
const x = (at: number) => ((at - span.value[0]) / (span.value[1] - span.value[0])) * WIDTH;
const y = (value: number) => HEIGHT - (value / top.value) * HEIGHT;
const path = computed(() => course(props.value, span.value, WIDTH, (value) => y(value as number)));
const shades = computed(() =>
  Array.from({ length: 49 }, (_, n) => {
    const at = span.value[0] + (n / 48) * (span.value[1] - span.value[0]);
    return { offset: n / 48, hex: hexOf(rampAt(props.value, at) as number[]) };
  }),
);
const passes = computed(() =>
  Object.entries(catalog.catalog?.passes ?? {}).map(([value, label]) => ({ label, value })),
);

// What the volume holds at this frame stands behind the ramp.
const key = computed(() => desk.frames?.rows.find((row) => row.frame === desk.frame)?.key ?? null);
/** A step's curve goes over the values before it, which may be others after every edit. */
const queue = oneByOne();
const before = computed(() => props.dial.over === "before");
const asked = computed(() => (before.value ? `${desk.shot?.head} ${desk.frame}` : key.value));
watch(
  [asked, () => props.dial.over],
  async () => {
    const { over } = props.dial;
    const name = asked.value;
    const shot = desk.shot?.id;
    if (!name || !over || over === "life" || !shot) return void (histogram.value = null);
    const wanted = () => asked.value === name;
    const count = async () => (wanted() ? api.stepValues(shot, props.node.id, desk.frame) : null);
    const found = await (before.value ? queue(count) : api.histogram(shot, name, over)).catch(() => null);
    if (wanted()) histogram.value = found;
  },
  { immediate: true },
);

let drag: { index: number; stops: Stop[]; last: Stop[] | null } | null = null;

function place(event: PointerEvent) {
  const box = (event.currentTarget as Element).closest("svg")!.getBoundingClientRect();
  const part = (event.clientX - box.left) / box.width;
  const height = 1 - (event.clientY - box.top) / box.height;
  const [low, high] = span.value;
  return { at: low + part * (high - low), value: height * top.value };
}

function grab(event: PointerEvent, index: number) {
  if (event.button !== 0) return;
  picked.value = index;
  (event.currentTarget as Element).closest("svg")!.setPointerCapture(event.pointerId);
  drag = { index, stops: props.value, last: null };
}

function pull(event: PointerEvent) {
  if (!drag) return;
  const { at, value } = place(event);
  const next = moved(drag.stops, drag.index, at, colour.value ? null : value, props.dial);
  picked.value = next.index;
  drag.last = next.stops;
  emit("preview", next.stops);
}

function drop() {
  if (!drag) return;
  // What was drawn counts, whatever came from the server meanwhile.
  const { last } = drag;
  drag = null;
  if (last) void props.set(last);
}

/** A new stop where there was none, on the course as it is. */
function add(event: PointerEvent) {
  if (event.button !== 0 || drag) return;
  const next = inserted(props.value, place(event).at, props.dial);
  picked.value = next.index;
  void props.set(next.stops);
}

function change(part: Partial<Stop>) {
  if (!stop.value) return;
  const index = props.value.indexOf(stop.value);
  const stops = props.value.map((each, n) => (n === index ? { ...each, ...part } : each));
  const next = moved(stops, index, stops[index].at, null, props.dial);
  picked.value = next.index;
  return next.stops;
}

function commit(part: Partial<Stop>) {
  const stops = change(part);
  if (stops) void props.set(stops);
}

function take(index: number) {
  void props.set(props.value.filter((_, n) => n !== index));
  picked.value = Math.max(index - 1, 0);
}

function keys(event: KeyboardEvent, index: number) {
  const step = (span.value[1] - span.value[0]) * (event.shiftKey ? 0.05 : 0.01);
  const rise = top.value * (event.shiftKey ? 0.1 : 0.02);
  const sideways = { ArrowLeft: -step, ArrowRight: step }[event.key];
  const upwards = { ArrowDown: -rise, ArrowUp: rise }[event.key];
  picked.value = index;
  if (event.key === "Delete" || event.key === "Backspace") take(index);
  else if (sideways) commit({ at: props.value[index].at + sideways });
  else if (upwards && !colour.value)
    commit({ value: Math.max((props.value[index].value as number) + upwards, 0) });
  else return;
  event.preventDefault();
  event.stopPropagation();
}

/** Begins with what changes nothing. */
function begin() {
  const high = histogram.value?.high ?? 1;
  void props.set([
    { at: 0, value: 0, pass: "linear" },
    { at: high, value: high, pass: "linear" },
  ]);
}
</script>

<template>
  <div class="ramp">
    <button
      v-if="!value.length"
      class="link"
      title="Give it a course over what the volume has"
      data-begin-ramp
      @click="begin"
    >
      Shape it with stops
    </button>
    <template v-else>
      <svg
        :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
        role="group"
        :aria-label="`${dial.label} over ${dial.over}`"
        @pointermove="pull"
        @pointerup="drop"
        @pointercancel="drop"
      >
        <defs v-if="colour">
          <linearGradient :id="`shade-${dial.name}`">
            <stop
              v-for="shade in shades"
              :key="shade.offset"
              :offset="shade.offset"
              :stop-color="shade.hex"
            />
          </linearGradient>
        </defs>
        <rect
          class="ground"
          :width="WIDTH"
          :height="HEIGHT"
          :style="colour ? { fill: `url(#shade-${dial.name})` } : {}"
          @pointerdown="add"
        />
        <path
          v-if="histogram"
          class="counts"
          :class="{ over: colour }"
          :d="bars(histogram, span, WIDTH, HEIGHT)"
          data-histogram
        />
        <path v-if="!colour" class="course" :d="path" />
        <g v-for="(each, index) in value" :key="index">
          <line class="stem" :x1="x(each.at)" :x2="x(each.at)" y1="0" :y2="HEIGHT" />
          <circle
            class="stop"
            :class="{ here: each === stop }"
            :cx="x(each.at)"
            :cy="colour ? HEIGHT - 9 : y(each.value as number)"
            r="6"
            tabindex="0"
            role="slider"
            :aria-label="`Stop ${index + 1} of ${dial.label}`"
            :aria-valuenow="each.at"
            :aria-valuetext="`at ${plain(each.at)} ${dial.unit ?? ''}`"
            :fill="colour ? hexOf(each.value as number[]) : undefined"
            data-stop
            @pointerdown.stop="grab($event, index)"
            @dblclick.stop="take(index)"
            @focus="picked = index"
            @keydown="keys($event, index)"
          />
        </g>
      </svg>
      <div class="ends">
        <span>{{ plain(span[0]) }}</span><span v-if="histogram">{{
          before ? "values before this step" : `${dial.over} in this frame`
        }}</span
        ><span>{{ plain(span[1]) }} {{ dial.unit }}</span>
      </div>
      <div v-if="stop" class="row">
        <span class="quiet">At</span>
        <number-field
          :value="stop.at"
          :low="span[0]"
          :high="span[1]"
          :label="`Where the stop of ${dial.label} stands`"
          @preview="emit('preview', $event === undefined ? undefined : change({ at: $event }))"
          @commit="commit({ at: $event })"
        />
        <n-color-picker
          v-if="colour"
          size="small"
          class="shade"
          :show-alpha="false"
          :modes="['hex']"
          :value="hexOf(stop.value as number[])"
          :aria-label="`Colour of the stop of ${dial.label}`"
          @update:value="emit('preview', change({ value: linearOf($event) }))"
          @complete="commit({ value: linearOf($event) })"
        />
        <number-field
          v-else
          :value="stop.value as number"
          :low="0"
          :high="Math.max(top, stepOf(0, top) * 100)"
          :label="`Value of the stop of ${dial.label}`"
          @preview="emit('preview', $event === undefined ? undefined : change({ value: $event }))"
          @commit="commit({ value: $event })"
        />
        <n-select
          size="small"
          class="pass"
          :value="stop.pass"
          :options="passes"
          :aria-label="`How the stop of ${dial.label} goes on`"
          @update:value="commit({ pass: $event })"
        />
        <button
          class="reset"
          :aria-label="`Take the stop away`"
          title="Take the stop away (Delete)"
          @click="take(value.indexOf(stop))"
        >
          ×
        </button>
      </div>
    </template>
  </div>
</template>

<style scoped>
.ramp {
  padding: 2px 0 6px;
}

svg {
  display: block;
  width: 100%;
  border-radius: 6px;
  overflow: visible;
  touch-action: none;
}

.ground {
  fill: var(--surround);
  cursor: copy;
}

.counts {
  fill: var(--track);
  pointer-events: none;
}

.counts.over {
  fill: #0c0f11;
  opacity: 0.34;
}

.course {
  fill: none;
  stroke: var(--accent);
  stroke-width: 1.6;
  pointer-events: none;
}

.stem {
  stroke: var(--faint);
  stroke-width: 0.5;
  pointer-events: none;
}

.stop {
  fill: var(--card);
  stroke: var(--text);
  stroke-width: 1.5;
  cursor: grab;
}

.stop.here {
  stroke: var(--accent);
  stroke-width: 2.5;
}

.ends {
  display: flex;
  justify-content: space-between;
  color: var(--faint);
  font-size: 11px;
  padding: 2px 0;
}

.row {
  display: flex;
  align-items: center;
  gap: 6px;
}

.quiet {
  color: var(--faint);
}

.shade {
  width: 74px;
}

.pass {
  flex: 1;
}

.reset {
  color: var(--faint);
  font-size: 14px;
}
</style>
