<script setup lang="ts">
import { onMounted, ref, watch } from "vue";

/** How bright a picture is along its width, which hues it has, and how often each brightness comes up: of the pixels as the
 * screen has them. */
const props = defineProps<{ picture: string }>();
const canvas = ref<HTMLCanvasElement | null>(null);
/** Pixels of the picture that are looked at, and those of each scope. */
const [ACROSS, DOWN] = [256, 144];
const [WIDE, HIGH] = [256, 110];
const RGB = ["#e0584e", "#58b368", "#5b8fd9"];

function plot(pixels: Uint8ClampedArray, to: CanvasRenderingContext2D) {
  to.fillStyle = "#0c0f11e6";
  to.fillRect(0, 0, WIDE, 3 * HIGH);
  to.globalCompositeOperation = "lighter";
  const counts = [0, 1, 2].map(() => new Float32Array(256));
  for (let n = 0; n < pixels.length / 4; n++) {
    const x = n % ACROSS;
    for (let c = 0; c < 3; c++) {
      const value = pixels[4 * n + c];
      counts[c][value]++;
      to.fillStyle = `${RGB[c]}18`;
      to.fillRect((x * WIDE) / ACROSS, HIGH - 4 - ((HIGH - 8) * value) / 255, 1, 1);
    }
    if (n % 2) continue;
    // Hue and strength of colour (Rec. 709), as far from the middle as the colour is strong.
    const [r, g, b] = [0, 1, 2].map((c) => pixels[4 * n + c] / 255);
    const grey = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    to.fillStyle = "#c8d0d828";
    to.fillRect(WIDE / 2 + ((b - grey) / 1.8556) * HIGH, HIGH * 1.5 - ((r - grey) / 1.5748) * HIGH, 1.2, 1.2);
  }
  for (let c = 0; c < 3; c++) {
    // The ends may be far more than all the rest.
    const most = Math.max(...counts[c].slice(2, 254), 1);
    to.fillStyle = `${RGB[c]}88`;
    counts[c].forEach((count, at) => {
      const high = Math.min(count / most, 1) * (HIGH - 8);
      to.fillRect((at * WIDE) / 256, 3 * HIGH - 4 - high, 1, high);
    });
  }
  to.globalCompositeOperation = "source-over";
  to.strokeStyle = "#3a444b";
  for (const at of [HIGH, 2 * HIGH]) {
    to.beginPath();
    to.moveTo(0, at);
    to.lineTo(WIDE, at);
    to.stroke();
  }
  to.strokeRect(WIDE / 2 - 0.5, HIGH * 1.5 - 0.5, 1, 1);
}

async function draw() {
  const image = new Image();
  image.src = props.picture;
  await image.decode().catch(() => null);
  const to = canvas.value?.getContext("2d");
  const small = Object.assign(document.createElement("canvas"), { width: ACROSS, height: DOWN });
  const from = small.getContext("2d", { willReadFrequently: true });
  if (!to || !from || !image.naturalWidth) return;
  from.drawImage(image, 0, 0, ACROSS, DOWN);
  plot(from.getImageData(0, 0, ACROSS, DOWN).data, to);
}

onMounted(draw);
watch(() => props.picture, draw);
</script>

<template>
  <canvas
    ref="canvas"
    :width="WIDE"
    :height="3 * HIGH"
    role="img"
    aria-label="From above: brightness of red, green and blue along the width; hues, stronger further out; how often each brightness comes up"
    data-scopes
  />
</template>

<style scoped>
canvas {
  border: 1px solid var(--line);
  border-radius: 6px;
}
</style>
