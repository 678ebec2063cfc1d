<script setup lang="ts">
import { useDebounceFn, useElementSize } from "@vueuse/core";
import { computed, ref } from "vue";
import { api } from "../api/client";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import BrightnessBands from "./BrightnessBands.vue";
import FrameMarks from "./FrameMarks.vue";
import FramePart from "./FramePart.vue";
import FrameScopes from "./FrameScopes.vue";
import { MOST, useFinished } from "./useFinished";

/** The finished frame in the place of the view, with what can be moved in it. */
const emit = defineEmits<{ aside: [] }>();
const desk = useDesk();
const catalog = useCatalog();
const holder = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(holder);
/** Pixels of the whole frame. */
const full = computed(() => {
  const node = desk.byId.get("picture");
  return node ? (["width", "height"].map((dial) => catalog.read(node, dial)) as number[]) : [16, 9];
});
/** Pixel by pixel; what does not fit is reached by scrolling. */
const pixels = ref(false);
/** Pixels that the frame takes in the view. */
const fitted = computed(() => {
  const [w, h] = full.value;
  const scale = pixels.value ? Math.min(MOST / w, 1) : Math.min(width.value / w, height.value / h, 2);
  return { width: Math.max(scale * w, 1), height: Math.max(scale * h, 1) };
});
const across = computed(() => fitted.value.width);
/** Half as many pixels each way. */
const coarse = ref(false);
/** The part that is made in full (left, top, right and bottom, 0 to 1), while the rest comes coarsely. */
const part = ref<number[] | null>(null);
const drawing = ref(false);
const { picture, shown, busy, wrong, any, rest } = useFinished(across, full, coarse, part);
const image = ref<HTMLImageElement | null>(null);
const scopes = ref(false);
const marks = ref(true);
/** Brightness in bands of plain colours, so that what is lost in black or white is seen. */
const banded = ref(false);
/** The pixel under the pointer, as the screen has it, and once it rests there its light. */
const pixel = ref("");
const light = ref("");

const ask = useDebounceFn(async (x: number, y: number) => {
  if (!desk.shot || desk.playing || busy.value || !pixel.value) return;
  const here = pixel.value;
  const found = await api.pixel(desk.shot.id, desk.frame, rest.value, x, y, part.value).catch(() => null);
  if (found && pixel.value === here)
    light.value = found.light
      .slice(0, 3)
      .map((c) => Number(c.toPrecision(3)))
      .join(" ");
}, 250);

/** How much of the frame a part has that is taken about the pointer, each way. */
const NEAR = 0.36;
let pointer: number[] | null = null;

function leave() {
  pixel.value = light.value = "";
  pointer = null;
}

/** Only what lies about the pointer, or all again; without a pointer in the frame a part is drawn. */
function crop() {
  const [x, y] = (pointer ?? []).map((c) => Math.min(Math.max(c - NEAR / 2, 0), 1 - NEAR));
  if (part.value || drawing.value) part.value = null;
  else if (pointer) part.value = [x, y, x + NEAR, y + NEAR];
  else return void (drawing.value = true);
  drawing.value = false;
}

function choosePart() {
  if (part.value) part.value = null;
  else drawing.value = !drawing.value;
}

/** @returns whether a part was being drawn */
function giveUp() {
  const was = drawing.value;
  drawing.value = false;
  return was;
}

defineExpose({ crop, giveUp });

const chip = (name: string, mark: string, on: boolean, title: string, turn: () => unknown) => ({
  name,
  mark,
  on,
  title,
  turn,
});
const flip = (what: typeof marks) => () => (what.value = !what.value);
const chips = computed(() => [
  chip(
    "Marks",
    "marks-chip",
    marks.value,
    "Masks and tracked spots that are picked, to be moved",
    flip(marks),
  ),
  chip(
    "1:1",
    "pixels",
    pixels.value,
    "Pixel by pixel, with all the detail there is; scroll to its other parts",
    flip(pixels),
  ),
  chip(
    "Coarse",
    "coarse",
    coarse.value,
    "Half as many pixels each way, which plays and follows the hand sooner",
    flip(coarse),
  ),
  chip(
    "Part",
    "part-chip",
    !!part.value || drawing.value,
    "Only a part is made in full, the rest coarsely (Shift D takes what lies about the pointer)",
    choosePart,
  ),
  chip(
    "Bands",
    "bands",
    banded.value,
    "Brightness in bands: what is lost in black or white, and where middle grey lies",
    flip(banded),
  ),
  chip("Scopes", "scopes-chip", scopes.value, "How bright it is where, and of which colour", flip(scopes)),
]);

let sample: CanvasRenderingContext2D | null = null;
function read(event: PointerEvent) {
  const from = image.value;
  if (!from?.naturalWidth) return;
  const box = from.getBoundingClientRect();
  const [x, y] = [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
  light.value = "";
  if (x < 0 || y < 0 || x >= 1 || y >= 1) return leave();
  pointer = [x, y];
  sample ??= Object.assign(document.createElement("canvas"), { width: 1, height: 1 }).getContext("2d", {
    willReadFrequently: true,
  });
  if (!sample) return;
  sample.drawImage(
    from,
    Math.floor(x * from.naturalWidth),
    Math.floor(y * from.naturalHeight),
    1,
    1,
    0,
    0,
    1,
    1,
  );
  const [r, g, b] = sample.getImageData(0, 0, 1, 1).data;
  pixel.value = `${Math.floor(x * full.value[0])}, ${Math.floor(y * full.value[1])}: ${[r, g, b].join(" ")}`;
  void ask(x, y);
}
</script>

<template>
  <div ref="holder" class="finished" data-finished :data-shown="shown" :data-busy="busy || undefined">
    <div v-if="any" class="scroll">
      <div
        class="frame"
        :style="{ width: `${fitted.width}px`, height: `${fitted.height}px` }"
        @pointermove="read"
        @pointerleave="leave"
      >
        <img
          v-if="picture"
          ref="image"
          :src="picture"
          :class="{ banded }"
          alt="The finished frame"
          draggable="false"
        />
        <brightness-bands v-if="banded" />
        <frame-marks v-if="marks" :width="fitted.width" :height="fitted.height" />
        <frame-part v-model:part="part" v-model:drawing="drawing" />
      </div>
    </div>
    <p v-else class="empty">The finished frame is seen here once there is a layer.</p>
    <div class="chips">
      <button
        class="chip on"
        title="Back to the view of the shot, to turn and pick in it"
        @click="emit('aside')"
      >
        Finished frame
      </button>
      <button
        v-for="one in chips"
        :key="one.name"
        class="chip"
        :class="{ on: one.on }"
        :aria-pressed="one.on"
        :title="one.title"
        v-bind="{ [`data-${one.mark}`]: '' }"
        @click="one.turn"
      >
        {{ one.name }}
      </button>
    </div>
    <frame-scopes v-if="scopes && picture" class="scopes" :picture="picture" />
    <div class="note" role="status">
      <span v-if="wrong" class="wrong">{{ wrong }}</span>
      <span v-else-if="drawing">Drag over the part of the frame that is to be made in full.</span>
      <span v-else-if="busy && !desk.playing">Making the frame…</span>
      <span v-else
        >{{ pixel }}<template v-if="light"> · light {{ light }}</template></span
      >
    </div>
  </div>
</template>

<style scoped>
.finished {
  position: relative;
  z-index: 3;
  display: grid;
  place-items: center;
  background: #0c0f11;
  overflow: hidden;
  min-width: 0;
  min-height: 0;
}

.scroll {
  display: grid;
  place-items: safe center;
  width: 100%;
  height: 100%;
  overflow: auto;
}

.frame {
  position: relative;
}

img {
  width: 100%;
  height: 100%;
  display: block;
}

.banded {
  filter: url(#brightness-bands);
}

.empty {
  color: var(--quiet);
}

.chips {
  position: absolute;
  top: 11px;
  left: 11px;
  display: flex;
  gap: 4px;
}

.chip {
  height: 26px;
  padding: 0 12px;
  border: 1px solid transparent;
  border-radius: 999px;
  color: var(--quiet);
  background: rgb(16 20 22 / 62%);
}

.chip.on {
  color: var(--text);
  background: rgb(26 31 35 / 85%);
  border-color: var(--line);
}

.scopes {
  position: absolute;
  right: 12px;
  top: 10px;
}

.note {
  position: absolute;
  left: 12px;
  bottom: 10px;
  color: var(--quiet);
  font-size: 12px;
  font-variant-numeric: tabular-nums;
  text-shadow: 0 0 4px #000;
}

.wrong {
  color: var(--warning);
}
</style>
