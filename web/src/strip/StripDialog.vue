<script setup lang="ts">
import { useElementSize } from "@vueuse/core";
import { computed, nextTick, onUnmounted, ref, watch, type ComponentPublicInstance } from "vue";
import DeskDialog from "../lib/DeskDialog.vue";
import { duration } from "../lib/numbers";
import { useClip } from "../lib/useClip";
import { useDesk } from "../stores/desk";
import { useStrip } from "../stores/strip";
import { laidOut } from "./layout";
import StripPages from "./StripPages.vue";
import StripPicked from "./StripPicked.vue";
import StripSetup from "./StripSetup.vue";
import StripTime from "./StripTime.vue";
import { useTiles } from "./useTiles";

/** A test strip: variations of the shot side by side, playing together on one time axis and turning together. */
const desk = useDesk();
const strips = useStrip();
const canvas = ref<HTMLCanvasElement | null>(null);
const sheet = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(sheet);
const frame = ref(desk.frame);
const playing = ref(false);
const page = ref(0);
const tiles = useTiles(
  canvas,
  () => strips.strip,
  () => frame.value,
);

const laid = computed(() => laidOut(strips.strip, page.value));
const first = computed(() => strips.strip?.first ?? 1);
const last = computed(() => first.value + (strips.strip?.frames ?? 1) - 1);
/** As large as the sheet has room for, four to three. */
const size = computed(() => {
  const wide = (width.value - 70) / Math.max(laid.value.across.length, 1) - 10;
  const tall = (height.value - 34) / Math.max(laid.value.rows.length, 1) - 12;
  const one = Math.max(Math.min(wide, (4 / 3) * tall, 420), 72);
  return [Math.round(one), Math.round(0.75 * one)];
});
const job = computed(() =>
  [...desk.jobs.values()].find(
    (one) => one.id === strips.strip?.job && ["queued", "running"].includes(one.state),
  ),
);
const done = computed(() => {
  const { strip } = strips;
  if (!strip) return "";
  if (strip.size > strip.cells.filter((cell) => cell).length)
    return `${strip.there} of ${strip.of} frames there`;
  return `${strip.cells.filter((cell) => cell && cell.done === cell.rows.length).length} done`;
});
const failed = computed(() => {
  const ended = [...desk.jobs.values()].find((one) => one.id === strips.strip?.job);
  return ((ended?.result?.failed as string[] | undefined) ?? [])[0] ?? "";
});

const set = (n: number) => (element: Element | ComponentPublicInstance | null) =>
  tiles.lay(n, element as HTMLCanvasElement | null);

watch(size, ([wide, tall]) => width.value && void tiles.begin(wide, tall), { flush: "post" });
watch([() => strips.strip, frame, page], () => void tiles.work(), { flush: "post" });
watch([page, () => strips.strip?.number], (_, [, before]) => {
  const { strip } = strips;
  if (!strip) return;
  if (before !== undefined && before !== strip.number) page.value = 0;
  else if (laid.value.from !== strip.from) void strips.look(strip.number, laid.value.from);
});
watch(
  () => desk.stripped,
  (told) => told && strips.hear(told.number),
);
watch(
  () => job.value?.state,
  (now, before) => before && !now && strips.strip && strips.look(strips.strip.number),
);
watch(first, () => (frame.value = Math.min(Math.max(frame.value, first.value), last.value)));

let timer: ReturnType<typeof setTimeout> | undefined;
function tick() {
  timer = setTimeout(tick, 1000 / desk.rate);
  // All of them stand at the frame before the next one comes.
  const there = strips.strip?.cells.filter((cell) => cell?.done).length ?? 0;
  if (tiles.drawn.value < Math.min(there, laid.value.rows.flat().length)) return void tiles.work();
  tiles.drawn.value = 0;
  frame.value = frame.value >= last.value ? first.value : frame.value + 1;
}
watch(playing, (now) => {
  clearTimeout(timer);
  if (now) tick();
});
onUnmounted(() => clearTimeout(timer));

const { going: clipping, make: makeClip, stop: stopClip } = useClip();

/** The whole sheet over all frames as a movie. */
async function movie() {
  if (clipping.value) return stopClip();
  playing.value = false;
  const frames = Array.from({ length: last.value - first.value + 1 }, (_, n) => first.value + n);
  const draw = async (at: number) => {
    frame.value = at;
    await nextTick();
    await tiles.work();
    return tiles.sheet(laid.value.rows, laid.value.across, laid.value.down);
  };
  await makeClip(frames, draw, `${desk.shot?.name} strip ${strips.strip?.number}`);
}

let drag: { x: number; y: number; far: number } | null = null;
function press(event: PointerEvent) {
  drag = { x: event.clientX, y: event.clientY, far: 0 };
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
}
function move(event: PointerEvent) {
  if (!drag) return;
  const [aside, up] = [event.clientX - drag.x, event.clientY - drag.y];
  drag = { x: event.clientX, y: event.clientY, far: drag.far + Math.hypot(aside, up) };
  if (drag.far > 4) tiles.turn(0.01 * aside, 0.01 * up);
}
function release(n: number) {
  if (drag && drag.far <= 4) strips.picked = n;
  drag = null;
}

function keys(event: KeyboardEvent) {
  if (/^(INPUT|TEXTAREA)$/.test((event.target as HTMLElement).tagName)) return;
  const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (event.key === " ") playing.value = !playing.value;
  else if (way) frame.value = Math.min(Math.max(frame.value + way, first.value), last.value);
  else return;
  event.preventDefault();
}

function words(n: number): string {
  const cell = strips.strip?.cells[n];
  if (!cell) return "";
  if (strips.strip?.dropped.includes(n)) return "dropped";
  if (cell.done < cell.rows.length) return job.value ? `${cell.done} of ${cell.rows.length}` : "not run";
  const { peak, fastest } = cell.figures;
  return peak ? `${peak} K` : fastest ? `${fastest} m/s` : "";
}
</script>

<template>
  <desk-dialog label="Test strip" width="96vw" data-strip @close="strips.open = false">
    <div class="strip" @keydown="keys">
      <header>
        <strong>{{ strips.strip ? `Test strip ${strips.strip.number}` : "Test strip" }}</strong>
        <span v-if="strips.strip" class="quiet" role="status" data-strip-state>
          frame {{ frame }} in all · {{ strips.strip.size.toLocaleString("en") }}
          {{ strips.strip.quality }} variations, {{ done
          }}<template v-if="job?.left"> · {{ duration(job.left) }} left</template>
        </span>
        <span v-if="failed" class="wrong">{{ failed }}</span>
        <span class="space" />
        <button v-if="job" class="link" title="What is finished stays" @click="strips.cancel()">Stop</button>
        <button class="pill" title="Esc" @click="strips.open = false">Close</button>
      </header>
      <strip-setup class="side" />
      <div class="middle">
        <div ref="sheet" class="sheet">
          <canvas ref="canvas" class="drawer" aria-hidden="true" />
          <template v-if="strips.strip">
            <div class="line top">
              <span class="word" />
              <span v-for="(word, n) in laid.across" :key="n" :style="{ width: `${size[0]}px` }">{{
                word
              }}</span>
            </div>
            <div v-for="(row, j) in laid.rows" :key="j" class="line">
              <span class="word">{{ laid.down[j] }}</span>
              <button
                v-for="n in row"
                :key="n"
                class="tile"
                :class="{
                  here: n === strips.picked,
                  marked: strips.strip.marked.includes(n),
                  dropped: strips.strip.dropped.includes(n),
                }"
                :style="{ width: `${size[0]}px`, height: `${size[1]}px` }"
                :aria-label="`Variation ${strips.strip.cells[n]?.shown.join(', ')}`"
                :aria-pressed="n === strips.picked"
                title="Click to pick it; drag to turn all of them, wheel to come nearer"
                data-tile
                @pointerdown="press"
                @pointermove="move"
                @pointerup="release(n)"
                @wheel.prevent="tiles.near($event.deltaY > 0 ? 1.15 : 1 / 1.15)"
                @keydown.enter="strips.picked = n"
              >
                <canvas :ref="set(n)" :data-cell="n" />
                <span v-if="laid.named" class="own">{{ strips.strip.cells[n]?.shown.join("\n") }}</span>
                <span class="figure">{{ words(n) }}</span>
              </button>
            </div>
          </template>
          <p v-else class="quiet empty">
            Choose one to three dials on the left, say their values, and run the strip: every value is tried
            with every other, and all of them are looked at together. A right click on a dial's name brings it
            here.
          </p>
        </div>
        <strip-pages v-if="laid.pages.length > 1" v-model="page" :laid="laid" />
        <strip-time
          v-if="strips.strip"
          v-model:frame="frame"
          v-model:playing="playing"
          :first="first"
          :last="last"
          :clipping="clipping"
          @movie="movie"
        />
      </div>
      <strip-picked class="side" :frame="frame" />
    </div>
  </desk-dialog>
</template>

<style scoped>
.strip {
  display: grid;
  grid-template: 34px minmax(0, 1fr) / 230px minmax(0, 1fr) 240px;
  gap: 12px 18px;
  height: 82vh;
}

header {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 12px;
}

.space {
  flex: 1;
}

.middle {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-width: 0;
}

.sheet {
  flex: 1;
  min-height: 0;
  overflow: auto;
  position: relative;
}

.drawer {
  position: absolute;
  visibility: hidden;
  pointer-events: none;
}

.line {
  display: flex;
  align-items: center;
  gap: 10px;
  margin-bottom: 10px;
}

.top {
  margin-bottom: 4px;
  text-align: center;
  color: var(--quiet);
}

.word {
  width: 52px;
  text-align: right;
  color: var(--quiet);
}

.tile {
  position: relative;
  flex: none;
  padding: 0;
  overflow: hidden;
  border: 2px solid #d8d6c8;
  border-radius: 3px;
  background: #07090b;
  touch-action: none;
}

.tile canvas {
  width: 100%;
  height: 100%;
  display: block;
}

.tile.here {
  border-color: var(--accent, #bdd45e);
  box-shadow: 0 0 0 2px rgb(189 212 94 / 35%);
}

.tile.marked::after {
  content: "";
  position: absolute;
  left: 5px;
  top: 5px;
  width: 8px;
  height: 8px;
  border-radius: 50%;
  background: var(--accent, #bdd45e);
}

.tile.dropped {
  opacity: 0.35;
}

.own {
  position: absolute;
  left: 5px;
  top: 2px;
  font-size: 10px;
  line-height: 1.2;
  text-align: left;
  white-space: pre;
  color: #e8e6da;
  text-shadow: 0 0 3px #000;
}

.figure {
  position: absolute;
  right: 5px;
  bottom: 3px;
  font-size: 11px;
  color: #e8e6da;
  text-shadow: 0 0 3px #000;
}

.empty {
  max-width: 420px;
}

.wrong {
  color: #f0a08a;
}
</style>
