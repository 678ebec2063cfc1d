<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { apart, bands, bright, falseColours, histogram } from "../lib/exposure";

/** What a print's light is like: its histogram, exposure in colours, what differs from another, the pixel under the pointer. */
const props = defineProps<{ url: string; other: string | null; at: { x: number; y: number } | null }>();
const emit = defineEmits<{ shown: [picture: string | null] }>();

type Way = "print" | "exposure" | "difference";
const way = ref<Way>("print");
const pixels = ref<ImageData | null>(null);
const bars = computed(() => (pixels.value ? histogram(pixels.value.data) : []));
const share = (test: (value: number) => boolean) => {
  const data = pixels.value?.data;
  if (!data) return 0;
  let count = 0;
  for (let at = 0; at < data.length; at += 4) if (test(bright(data, at))) count++;
  return (400 * count) / data.length;
};
const figures = computed(
  () => `${share((v) => v > 0.85).toFixed(1)} % bright · ${share((v) => v < 0.15).toFixed(1)} % dark`,
);
/** The pixel that is pointed at, as the screen shows it. */
const pointed = computed(() => {
  const image = pixels.value;
  if (!image || !props.at) return "";
  const [x, y] = [Math.floor(props.at.x * image.width), Math.floor(props.at.y * image.height)];
  if (x < 0 || y < 0 || x >= image.width || y >= image.height) return "";
  const from = 4 * (y * image.width + x);
  const parts = [0, 1, 2].map((c) => image.data[from + c]);
  return `${x}, ${y}: ${parts.join(" ")}`;
});

function drawn(url: string, size?: { width: number; height: number }): Promise<CanvasRenderingContext2D> {
  return new Promise((done, failed) => {
    const image = new Image();
    image.onload = () => {
      const canvas = document.createElement("canvas");
      [canvas.width, canvas.height] = [
        size?.width ?? image.naturalWidth,
        size?.height ?? image.naturalHeight,
      ];
      const context = canvas.getContext("2d", { willReadFrequently: true })!;
      context.drawImage(image, 0, 0, canvas.width, canvas.height);
      done(context);
    };
    image.onerror = failed;
    image.src = url;
  });
}

const read = (context: CanvasRenderingContext2D) =>
  context.getImageData(0, 0, context.canvas.width, context.canvas.height);

watch(
  () => [props.url, props.other, way.value] as const,
  async ([url, other, how]) => {
    const context = await drawn(url).catch(() => null);
    if (!context || url !== props.url) return;
    const data = read(context);
    pixels.value = read(context);
    if (how === "print") return emit("shown", null);
    if (how === "exposure") falseColours(data.data);
    else if (other) {
      // Prints of another size are laid over each other.
      const second = await drawn(other, data);
      apart(data.data, read(second).data);
    }
    context.putImageData(data, 0, 0);
    emit("shown", context.canvas.toDataURL());
  },
  { immediate: true },
);
watch(
  () => props.other,
  (other) => other || (way.value === "difference" && (way.value = "print")),
);
</script>

<template>
  <div class="light">
    <svg
      viewBox="0 0 64 20"
      preserveAspectRatio="none"
      role="img"
      aria-label="How many pixels are how bright"
    >
      <rect v-for="(bar, n) in bars" :key="n" :x="n" :y="20 - 20 * bar" width="1" :height="20 * bar" />
    </svg>
    <p class="faint" data-figures>{{ figures }}</p>
    <p class="faint pointed">{{ pointed || "Point at the picture for its values" }}</p>
    <div class="ways" role="group" aria-label="What is shown">
      <button
        class="chip"
        :class="{ on: way === 'print' }"
        :aria-pressed="way === 'print'"
        title="The print as it is"
        @click="way = 'print'"
      >
        Print
      </button>
      <button
        class="chip"
        :class="{ on: way === 'exposure' }"
        :aria-pressed="way === 'exposure'"
        title="Brightness in colours: violet is black, green middle grey, yellow bright, red white"
        data-exposure
        @click="way = 'exposure'"
      >
        Exposure
      </button>
      <button
        v-if="other"
        class="chip"
        :class="{ on: way === 'difference' }"
        :aria-pressed="way === 'difference'"
        title="How far the two prints are apart, four times as bright"
        data-difference
        @click="way = 'difference'"
      >
        Difference
      </button>
    </div>
    <p v-if="way === 'exposure'" class="bands">
      <span v-for="[top, words, colour] in bands.filter((band) => band[2])" :key="top"
        ><i :style="{ background: `rgb(${colour!.join()})` }" />{{ words }}</span
      >
    </p>
  </div>
</template>

<style scoped>
.light {
  margin-top: 12px;
}

svg {
  width: 100%;
  height: 44px;
  background: var(--track);
  border-radius: 5px;
}

rect {
  fill: var(--quiet);
}

p {
  margin: 3px 0;
  font-size: 11.5px;
  font-variant-numeric: tabular-nums;
}

.ways {
  display: flex;
  gap: 6px;
  margin-top: 6px;
}

.chip {
  padding: 2px 11px;
  border: 1px solid var(--line);
  border-radius: 12px;
  color: var(--quiet);
}

.chip.on {
  border-color: var(--accent);
  color: var(--text);
}

.bands {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
}

.bands i {
  display: inline-block;
  width: 9px;
  height: 9px;
  border-radius: 2px;
  margin-right: 4px;
}
</style>
