<script setup lang="ts">
/** What the hand draws over the view: a way, a box around what is picked, and what it reads. */
defineProps<{
  trail: { x: number; y: number }[];
  box: { left: number; top: number; width: number; height: number } | null;
  readout: { x: number; y: number; text: string } | null;
}>();
</script>

<template>
  <svg v-if="trail.length" class="trail" aria-hidden="true" data-trail>
    <polyline :points="trail.map(({ x, y }) => `${x},${y}`).join(' ')" />
  </svg>
  <div
    v-if="box"
    class="box"
    :style="{
      left: `${box.left}px`,
      top: `${box.top}px`,
      width: `${box.width}px`,
      height: `${box.height}px`,
    }"
    data-box
  />
  <div v-if="readout" class="readout" :style="{ left: `${readout.x}px`, top: `${readout.y}px` }" data-readout>
    {{ readout.text }}
  </div>
</template>

<style scoped>
/* A way that is being drawn. */
.trail {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  fill: none;
  stroke: var(--accent);
  stroke-width: 2;
}

.box {
  position: absolute;
  pointer-events: none;
  border: 1px dashed var(--accent);
}

.readout {
  position: absolute;
  pointer-events: none;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 2px 8px;
}
</style>
