<script setup lang="ts">
import { computed, nextTick, ref } from "vue";
import { plain, snap, stepOf } from "../lib/numbers";

const props = defineProps<{
  value: number;
  low: number;
  high: number;
  whole?: boolean;
  label: string;
  tinted?: boolean;
}>();
const emit = defineEmits<{ preview: [value: number]; commit: [value: number]; cancel: [] }>();

const typing = ref(false);
const text = ref("");
const input = ref<HTMLInputElement | null>(null);
const step = computed(() => (props.whole ? 1 : stepOf(props.low, props.high)));

let drag: { x: number; from: number; last: number; moved: boolean } | null = null;

function pace(event: { altKey: boolean; shiftKey: boolean }) {
  return event.altKey ? 0.1 : event.shiftKey ? 10 : 1;
}

function down(event: PointerEvent) {
  if (event.button !== 0 || typing.value) return;
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  drag = { x: event.clientX, from: props.value, last: props.value, moved: false };
}

function move(event: PointerEvent) {
  if (!drag) return;
  const far = event.clientX - drag.x;
  if (!drag.moved && Math.abs(far) < 3) return;
  drag.moved = true;
  const fine = props.whole ? 1 : step.value * Math.min(pace(event), 1);
  drag.last = snap(drag.from + far * 0.5 * step.value * pace(event), fine);
  emit("preview", drag.last);
}

function up() {
  if (!drag) return;
  const { moved, last } = drag;
  drag = null;
  if (moved) emit("commit", last);
  else void type();
}

async function type() {
  text.value =
    plain(props.value) === String(props.value)
      ? String(props.value)
      : String(Number(props.value.toPrecision(7)));
  typing.value = true;
  await nextTick();
  input.value?.select();
}

function accept() {
  if (!typing.value) return;
  typing.value = false;
  const value = Number(text.value.replace(",", "."));
  // What is no number goes to the server as it is, which says what is allowed.
  if (text.value.trim() !== "" && value !== props.value)
    emit("commit", Number.isNaN(value) ? (text.value as never) : value);
}

function keys(event: KeyboardEvent) {
  if (event.key === "Enter") return void type();
  const way = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
  if (!way) return;
  event.preventDefault();
  event.stopPropagation();
  const by = props.whole ? Math.max(1, pace(event)) : step.value * pace(event);
  emit("commit", snap(props.value + way * by, props.whole ? 1 : Math.min(by, step.value)));
}

defineExpose({ type });
</script>

<template>
  <input
    v-if="typing"
    ref="input"
    v-model="text"
    class="field"
    :aria-label="label"
    inputmode="decimal"
    @blur="accept"
    @keydown.enter.stop="accept"
    @keydown.esc.stop="typing = false"
    @keydown.stop
  />
  <span
    v-else
    class="number"
    :class="{ tinted }"
    tabindex="0"
    role="spinbutton"
    :aria-label="label"
    :aria-valuenow="value"
    :aria-valuemin="low"
    :aria-valuemax="high"
    @pointerdown="down"
    @pointermove="move"
    @pointerup="up"
    @pointercancel="drag = null"
    @keydown="keys"
    >{{ plain(value) }}</span
  >
</template>

<style scoped>
.number {
  cursor: ew-resize;
  touch-action: none;
  user-select: none;
  padding: 1px 3px;
  border-radius: 5px;
  min-width: 34px;
  text-align: right;
  display: inline-block;
}

.number:hover {
  background: var(--track);
}

.tinted {
  color: var(--accent);
}

.field {
  width: 66px;
  font: inherit;
  color: inherit;
  background: var(--surround);
  border: 1px solid var(--accent);
  border-radius: 5px;
  padding: 0 4px;
  text-align: right;
}
</style>
