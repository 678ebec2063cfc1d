<script setup lang="ts">
import { ref } from "vue";

/** The part of the frame that is made in full: drawn with the pointer, and seen as a bright window. */
const part = defineModel<number[] | null>("part", { required: true });
const drawing = defineModel<boolean>("drawing", { required: true });
/** Smaller ones are a slip of the hand. */
const LEAST = 0.03;
const from = ref<number[] | null>(null);
const drawn = ref<number[] | null>(null);

function place(event: PointerEvent): number[] {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  return [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height].map((c) =>
    Math.min(Math.max(c, 0), 1),
  );
}

function begin(event: PointerEvent) {
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  from.value = place(event);
}

function move(event: PointerEvent) {
  if (!from.value) return;
  const [[a, b], [c, d]] = [from.value, place(event)];
  drawn.value = [Math.min(a, c), Math.min(b, d), Math.max(a, c), Math.max(b, d)];
}

function end() {
  const found = drawn.value;
  from.value = drawn.value = null;
  if (!found || found[2] - found[0] < LEAST || found[3] - found[1] < LEAST) return;
  part.value = found;
  drawing.value = false;
}

const style = ([left, top, right, bottom]: number[]) => ({
  left: `${100 * left}%`,
  top: `${100 * top}%`,
  width: `${100 * (right - left)}%`,
  height: `${100 * (bottom - top)}%`,
});
</script>

<template>
  <div class="parts">
    <div v-if="drawn ?? part" class="part" :style="style((drawn ?? part)!)" data-part />
    <div
      v-if="drawing"
      class="sheet"
      data-part-sheet
      @pointerdown="begin"
      @pointermove="move"
      @pointerup="end"
      @pointercancel="from = drawn = null"
    />
  </div>
</template>

<style scoped>
.parts {
  position: absolute;
  inset: 0;
  overflow: hidden;
  pointer-events: none;
}

.part {
  position: absolute;
  outline: 1px solid var(--accent);
  box-shadow: 0 0 0 4000px rgb(8 10 12 / 26%);
}

.sheet {
  position: absolute;
  inset: 0;
  pointer-events: auto;
  cursor: crosshair;
  touch-action: none;
}
</style>
