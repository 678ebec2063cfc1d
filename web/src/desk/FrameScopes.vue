<script setup lang="ts">
import { onMounted, ref, watch } from "vue";

/** How bright a picture is along its width, which hues it has, and how often each brightness comes up: of the pixels as the
 * screen has them. */
const props = defineProps<{ picture: string }>();
const canvas = ref<HTMLCanvasElement | null>(null);
/** Pixels of the picture that are looked at, and those of each scope. */
const [ACROSS, DOWN] = [256, 144];
const [WIDE, HIGH] = [256, 110];
const RGB = [
  [224, 88, 78],
  [88, 179, 104],
  [91, 143, 217],
];

/** Light that is added up, place by place, and shown at once. */
class Field {
  private readonly sums = new Float32Array(WIDE * HIGH * 3);

  add(x: number, y: number, colour: number[], much: number) {
    const [i, j] = [Math.round(x), Math.round(y)];
    if (i < 0 || j < 0 || i >= WIDE || j >= HIGH) return;
    for (let c = 0; c < 3; c++) this.sums[3 * (j * WIDE + i) + c] += colour[c] * much;
  }

  onto(to: CanvasRenderingContext2D, top: number) {
    const image = to.createImageData(WIDE, HIGH);
    for (let n = 0; n < WIDE * HIGH; n++) {
      for (let c = 0; c < 3; c++) image.data[4 * n + c] = 14 + this.sums[3 * n + c];
      image.data[4 * n + 3] = 235;
    }
    to.putImageData(image, 0, top);
  }
}

function plot(pixels: Uint8ClampedArray, to: CanvasRenderingContext2D) {
  const [wave, hues, often] = [0, 1, 2].map(() => new Field());
  const counts = [0, 1, 2].map(() => new Float32Array(256));
  for (let n = 0; n < pixels.length / 4; n++) {
    const x = ((n % ACROSS) * WIDE) / ACROSS;
    const [r, g, b] = [pixels[4 * n] / 255, pixels[4 * n + 1] / 255, pixels[4 * n + 2] / 255];
    for (let c = 0; c < 3; c++) {
      const value = pixels[4 * n + c];
      counts[c][value]++;
      wave.add(x, HIGH - 4 - ((HIGH - 8) * value) / 255, RGB[c], 0.12);
    }
    // Hue and strength of colour (Rec. 709), as far from the middle as the colour is strong.
    const grey = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    const [across, up] = [((b - grey) / 1.8556) * HIGH, ((r - grey) / 1.5748) * HIGH];
    hues.add(WIDE / 2 + across, HIGH / 2 - up, [200, 208, 216], 0.15);
  }
  for (let c = 0; c < 3; c++) {
    // The ends may be far more than all the rest.
    const most = Math.max(...counts[c].slice(2, 254), 1);
    counts[c].forEach((count, at) => {
      const high = Math.min(count / most, 1) * (HIGH - 8);
      for (let up = 0; up < high; up++) often.add((at * WIDE) / 256, HIGH - 4 - up, RGB[c], 0.55);
    });
  }
  [wave, hues, often].forEach((field, n) => field.onto(to, n * HIGH));
  to.strokeStyle = "#3a444b";
  for (const at of [HIGH, 2 * HIGH]) {
    to.beginPath();
    to.moveTo(0, at);
    to.lineTo(WIDE, at);
    to.stroke();
  }
  to.strokeRect(WIDE / 2 - 0.5, HIGH * 1.5 - 0.5, 1, 1);
}

/** One picture at a time; of those that come meanwhile only the last. */
let drawing = false;
let small: CanvasRenderingContext2D | null = null;

async function draw() {
  if (drawing) return;
  drawing = true;
  for (let shown = ""; shown !== props.picture && canvas.value;) {
    shown = props.picture;
    const image = new Image();
    image.src = shown;
    await image.decode().catch(() => null);
    const to = canvas.value?.getContext("2d");
    small ??= Object.assign(document.createElement("canvas"), { width: ACROSS, height: DOWN }).getContext(
      "2d",
      { willReadFrequently: true },
    );
    if (!to || !small || !image.naturalWidth) break;
    small.drawImage(image, 0, 0, ACROSS, DOWN);
    plot(small.getImageData(0, 0, ACROSS, DOWN).data, to);
    // Pictures that play come first.
    await new Promise((rest) => setTimeout(rest, 60));
  }
  drawing = false;
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
