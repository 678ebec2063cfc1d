<script setup lang="ts">
import { onMounted, onUnmounted, ref } from "vue";
import { api } from "../api/client";
import { Turntable } from "../view/turntable";

/** A mesh from all sides; in metres there stands a person beside it. */
const props = defineProps<{ digest: string; unit?: string; up?: string; wide?: boolean }>();
const canvas = ref<HTMLCanvasElement | null>(null);
const shown = ref(false);
let table: Turntable | null = null;

onMounted(async () => {
  try {
    table = new Turntable(canvas.value!, !matchMedia("(prefers-reduced-motion: reduce)").matches);
  } catch {
    // Without WebGL its numbers must do.
    return;
  }
  const buffer = await fetch(
    api.shapeUrl({ shape: "mesh", mesh: props.digest, unit: props.unit, up: props.up }),
  )
    .then((response) => (response.ok ? response.arrayBuffer() : null))
    .catch(() => null);
  if (!buffer?.byteLength) return;
  table?.show(new Float32Array(buffer), !!props.unit);
  shown.value = true;
});
onUnmounted(() => {
  table?.dispose();
  table = null;
});
</script>

<template>
  <canvas ref="canvas" role="img" aria-label="The mesh, turning" :class="{ wide }" :data-mesh-shown="shown" />
</template>

<style scoped>
canvas {
  width: 132px;
  height: 98px;
  border-radius: 8px;
  background: var(--surround);
}

canvas.wide {
  width: 300px;
  height: 240px;
}
</style>
