<script setup lang="ts">
import { computed, nextTick, ref } from "vue";
import { onEscape } from "../lib/escape";
import { plain, snap, stepOf, written } from "../lib/numbers";

/** A number: drag it, type it, or step it with the arrows. Esc takes back what is not finished. */
const props = defineProps<{
  value: number;
  /** What the track covers, which says how large a step is. */
  low: number;
  high: number;
  /** What is allowed at all. */
  range?: [number, number];
  whole?: boolean;
  label: string;
  /** The formula that it goes by; then it is typed, not dragged. */
  formula?: string | null;
  /** Takes a formula, or nothing to be without one; gives a sentence where it is refused. */
  reckon?: (formula: string | null) => Promise<string | null>;
  /** Takes the new value; gives a sentence where it is refused, and what was typed stays. */
  set?: (value: number | string) => Promise<string | null>;
}>();
const emit = defineEmits<{ preview: [value: number | undefined]; commit: [value: number]; forget: [] }>();

const typing = ref(false);
const refused = ref(false);
const text = ref("");
const input = ref<HTMLInputElement | null>(null);
const shown = ref<HTMLElement | null>(null);
const step = computed(() => (props.whole ? 1 : stepOf(props.low, props.high)));
const least = computed(() => props.range?.[0] ?? props.low);
const most = computed(() => props.range?.[1] ?? props.high);
const held = (value: number) => Math.min(Math.max(value, least.value), most.value);

let drag: { x: number; from: number; last: number; moved: boolean; free: () => void } | null = null;

function pace(event: { altKey: boolean; shiftKey: boolean }) {
  return event.altKey ? 0.1 : event.shiftKey ? 10 : 1;
}

async function give(value: number | string): Promise<string | null> {
  if (props.set) return props.set(value);
  emit("commit", value as number);
  return null;
}

function down(event: PointerEvent) {
  if (event.button !== 0 || typing.value) return;
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  drag = { x: event.clientX, from: props.value, last: props.value, moved: false, free: onEscape(cancel) };
}

function move(event: PointerEvent) {
  if (!drag || props.formula) return;
  const far = event.clientX - drag.x;
  if (!drag.moved && Math.abs(far) < 3) return;
  drag.moved = true;
  const fine = props.whole ? 1 : step.value * Math.min(pace(event), 1);
  drag.last = held(snap(drag.from + far * 0.5 * step.value * pace(event), fine));
  emit("preview", drag.last);
}

function up() {
  if (!drag) return;
  const { moved, last, free } = drag;
  free();
  drag = null;
  if (moved) void give(last);
  else void type();
}

function cancel() {
  if (!drag) return;
  drag.free();
  drag = null;
  emit("preview", undefined);
}

async function type() {
  const number =
    plain(props.value) === String(props.value)
      ? String(props.value)
      : String(Number(props.value.toPrecision(7)));
  text.value = props.formula ?? number;
  typing.value = true;
  await nextTick();
  input.value?.select();
}

async function leave(stay: boolean) {
  typing.value = refused.value = false;
  if (!stay) return;
  await nextTick();
  shown.value?.focus();
}

let sending = false;

/** What is no number is a formula, or goes to the server as it is, which says what is allowed. */
function send(typed: string, value: number) {
  if (props.reckon && (Number.isNaN(value) || typed === "")) return props.reckon(typed || null);
  return give(Number.isNaN(value) ? typed : value);
}

/** @param stay keep the focus on the number */
async function accept(stay: boolean) {
  if (!typing.value || sending) return;
  // Many begin a formula with "=".
  const typed = text.value.trim().replace(/^=\s*/, "");
  const value = Number(typed.replace(",", "."));
  const same = props.formula ? typed === props.formula : value === props.value;
  if (same || (typed === "" && !props.formula)) return giveUp(stay);
  sending = true;
  const wrong = await send(typed, value);
  sending = false;
  if (!wrong) return leave(stay);
  refused.value = true;
  if (stay) input.value?.select();
}

function giveUp(stay: boolean) {
  if (refused.value) emit("forget");
  return leave(stay);
}

function keys(event: KeyboardEvent) {
  if (event.key === "Enter") {
    event.preventDefault();
    return void type();
  }
  const way = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
  if (!way) return;
  event.preventDefault();
  event.stopPropagation();
  if (props.formula) return;
  const by = props.whole ? Math.max(1, pace(event)) : step.value * pace(event);
  const to = held(snap(props.value + way * by, props.whole ? 1 : Math.min(by, step.value)));
  if (to !== props.value) void give(to);
}
</script>

<template>
  <input
    v-if="typing"
    ref="input"
    v-model="text"
    class="field"
    :class="{ refused, wide: formula || Number.isNaN(Number(text.replace(',', '.'))) }"
    :aria-label="label"
    :aria-invalid="refused"
    spellcheck="false"
    @blur="accept(false)"
    @keydown.enter.prevent.stop="accept(true)"
    @keydown.esc.stop="giveUp(true)"
    @keydown.stop
  />
  <span
    v-else
    ref="shown"
    class="number"
    :class="{ reckoned: formula }"
    :title="formula ? `= ${formula}` : undefined"
    tabindex="0"
    role="spinbutton"
    :aria-label="label"
    :aria-valuenow="written(value)"
    :aria-valuemin="written(least)"
    :aria-valuemax="written(most)"
    @pointerdown="down"
    @pointermove="move"
    @pointerup="up"
    @pointercancel="cancel"
    @keydown="keys"
    >{{ plain(value) }}</span
  >
</template>

<style scoped>
.number {
  cursor: ew-resize;
  touch-action: none;
  user-select: none;
  padding: 3px;
  border-radius: 5px;
  min-width: 34px;
  min-height: 24px;
  text-align: right;
  display: inline-block;
}

.number:hover {
  background: var(--track);
}

.reckoned {
  cursor: text;
  font-style: italic;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}

.field {
  width: 66px;
  min-height: 24px;
  font: inherit;
  color: inherit;
  background: var(--surround);
  border: 1px solid var(--accent);
  border-radius: 5px;
  padding: 0 4px;
  text-align: right;
}

.field.wide {
  width: 150px;
  text-align: left;
}

.field.refused {
  border-color: var(--error);
  color: var(--error);
}
</style>
