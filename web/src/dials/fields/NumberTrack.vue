<script setup lang="ts">
import { computed } from "vue";
import type { Dial } from "../../api/types";
import { onEscape } from "../../lib/escape";
import { snap, stepOf } from "../../lib/numbers";

/** The track under a number, with a tick at the default. */
const props = defineProps<{ dial: Dial; value: number; set: (value: unknown) => Promise<string | null> }>();
const emit = defineEmits<{ preview: [value: number | undefined] }>();
const low = computed(() => props.dial.slider?.[0] ?? 0);
const high = computed(() => props.dial.slider?.[1] ?? 1);
const part = (number: number) =>
  `${(100 * Math.min(Math.max((number - low.value) / (high.value - low.value || 1), 0), 1)).toFixed(2)}%`;

let drag: { from: number; last: number; free: () => void } | null = null;

function at(event: PointerEvent) {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  const value = low.value + ((event.clientX - box.left) / box.width) * (high.value - low.value);
  const step = props.dial.type === "whole" ? 1 : stepOf(low.value, high.value) * (event.altKey ? 0.1 : 1);
  return snap(Math.min(Math.max(value, low.value), high.value), step);
}

function down(event: PointerEvent) {
  if (event.button !== 0) return;
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  drag = { from: props.value, last: at(event), free: onEscape(cancel) };
  emit("preview", drag.last);
}

function move(event: PointerEvent) {
  if (!drag) return;
  drag.last = at(event);
  emit("preview", drag.last);
}

function up() {
  if (!drag) return;
  const { from, last, free } = drag;
  free();
  drag = null;
  if (last !== from) void props.set(last);
  else emit("preview", undefined);
}

function cancel() {
  drag?.free();
  drag = null;
  emit("preview", undefined);
}
</script>

<template>
  <div
    class="track"
    aria-hidden="true"
    @pointerdown="down"
    @pointermove="move"
    @pointerup="up"
    @pointercancel="cancel"
  >
    <span class="rail" />
    <span class="fill" :style="{ width: part(value) }" />
    <span class="tick" :style="{ left: part(dial.default as number) }" />
  </div>
</template>

<style scoped>
.track {
  position: relative;
  height: 11px;
  margin-right: 24px;
  cursor: pointer;
  touch-action: none;
}

.rail,
.fill {
  position: absolute;
  left: 0;
  top: 4px;
  height: 3px;
  border-radius: 2px;
}

.rail {
  right: 0;
  background: var(--track);
}

.fill {
  background: var(--dial-fill, var(--quiet));
}

.tick {
  position: absolute;
  top: 2px;
  width: 1px;
  height: 7px;
  background: var(--faint);
}
</style>
