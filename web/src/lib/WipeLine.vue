<script setup lang="ts">
/** The line between two that are laid over each other, in hundredths of the width; arrows move it, Shift by ten. */
defineProps<{ label: string }>();
const at = defineModel<number>({ required: true });
const within = (place: number) => Math.min(Math.max(place, 0), 100);

function drag(event: PointerEvent) {
  const handle = event.currentTarget as HTMLElement;
  if (event.type === "pointerdown") handle.setPointerCapture(event.pointerId);
  if (event.buttons !== 1) return;
  const box = handle.parentElement!.getBoundingClientRect();
  at.value = within((100 * (event.clientX - box.left)) / box.width);
}

function nudge(event: KeyboardEvent) {
  if (event.key === "Home") at.value = 0;
  else if (event.key === "End") at.value = 100;
  else {
    const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!way) return;
    at.value = within(at.value + way * (event.shiftKey ? 10 : 1));
  }
  event.preventDefault();
  event.stopPropagation();
}
</script>

<template>
  <span
    class="line"
    tabindex="0"
    role="slider"
    :aria-label="label"
    aria-valuemin="0"
    aria-valuemax="100"
    :aria-valuenow="Math.round(at)"
    :style="{ left: `${at}%` }"
    @pointerdown="drag"
    @pointermove="drag"
    @keydown="nudge"
  />
</template>

<style scoped>
.line {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 24px;
  margin-left: -12px;
  background: linear-gradient(90deg, transparent 11px, var(--accent) 11px 13px, transparent 13px);
  cursor: ew-resize;
  touch-action: none;
}
</style>
