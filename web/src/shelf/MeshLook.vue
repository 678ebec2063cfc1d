<script setup lang="ts">
import { onMounted, onUnmounted, ref } from "vue";
import { api } from "../api/client";
import { Turntable } from "../view/turntable";

/** A mesh from all sides. */
const props = defineProps<{ digest: string }>();
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
  const buffer = await fetch(api.shapeUrl({ shape: "mesh", mesh: props.digest }))
    .then((response) => (response.ok ? response.arrayBuffer() : null))
    .catch(() => null);
  if (!buffer?.byteLength) return;
  table?.show(new Float32Array(buffer));
  shown.value = true;
});
onUnmounted(() => {
  table?.dispose();
  table = null;
});
</script>

<template>
  <canvas ref="canvas" role="img" aria-label="The mesh, turning" :data-mesh-shown="shown" />
</template>

<style scoped>
canvas {
  width: 132px;
  height: 98px;
  border-radius: 8px;
  background: var(--surround);
}
</style>
