<script setup lang="ts">
import { useStorage } from "@vueuse/core";
import { useMessage } from "naive-ui";
import { computed, defineAsyncComponent, onMounted, onUnmounted, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { useArrivals } from "../stores/arrivals";
import AskBar from "../desk/AskBar.vue";
import ChapterBar from "../desk/ChapterBar.vue";
import ChapterPanel from "../desk/ChapterPanel.vue";
import FindAnything from "../desk/FindAnything.vue";
import KeyHelp from "../desk/KeyHelp.vue";
import PrintViewer from "../desk/PrintViewer.vue";
import TimelinePanel from "../timeline/TimelinePanel.vue";
import RunViewer from "../desk/RunViewer.vue";
import SheetViewer from "../desk/SheetViewer.vue";
import SideStrip from "../desk/SideStrip.vue";
import TopLine from "../desk/TopLine.vue";
import { useKeys } from "../desk/useKeys";
import type { Command } from "../desk/useFinds";
import { useOpening } from "../desk/useOpening";
import { useTitle } from "../desk/useTitle";
import { useCatalog } from "../stores/catalog";
import { useBrush } from "../stores/brush";
import { useDesk } from "../stores/desk";
import { usePast } from "../stores/past";
import { useStrip } from "../stores/strip";

// The view is most of the script; the desk stands before it is there.
const ShotView = defineAsyncComponent(() => import("../desk/ShotView.vue"));
const FinishView = defineAsyncComponent(() => import("../desk/FinishView.vue"));
const StripDialog = defineAsyncComponent(() => import("../strip/StripDialog.vue"));
const HistoryDialog = defineAsyncComponent(() => import("../desk/HistoryDialog.vue"));
const SetDialog = defineAsyncComponent(() => import("../desk/SetDialog.vue"));
const BringDialog = defineAsyncComponent(() => import("../desk/BringDialog.vue"));
const arrivals = useArrivals();
const props = defineProps<{ id: string }>();
const desk = useDesk();
const brush = useBrush();
const catalog = useCatalog();
const strips = useStrip();
const story = usePast();
const router = useRouter();
const message = useMessage();
const ready = ref(false);
/** In its chapter the finished frame takes the view's place, unless it was put aside. */
const finished = ref(true);
const finishing = computed(
  () => desk.chapter === "finish" && finished.value && desk.family.layers.length > 0,
);
const finding = ref(false);
const helping = ref(false);
const remembering = ref(false);
const settling = ref(false);
const open = useOpening();
const lookingAtRun = ref<number | null>(null);
const looking = ref<{ a: number; b: number | null } | null>(null);
const view = ref<{
  fit(): void;
  lookThrough(): void;
  lines(): void;
  develop(): void;
  movie(): void;
  crop(): void;
  picked(): void;
  grip(one: "move" | "turn" | "size"): void;
} | null>(null);
const frameView = ref<{ crop(): void; giveUp(): boolean } | null>(null);
const strip = ref<InstanceType<typeof SideStrip> | null>(null);
const panelWidth = useStorage("vumbral-panel-width", 276);
const timelineHeight = useStorage("vumbral-timeline-height", 196);

onMounted(async () => {
  try {
    await Promise.all([catalog.load(), desk.open(props.id)]);
    ready.value = true;
    const cached = desk.frames?.rows.some((row) => row.state === "fresh" && row.lit);
    if (cached) desk.playing = true;
  } catch (error) {
    message.error((error as Error).message, { duration: 8000 });
    await router.push("/");
  }
});
onUnmounted(() => desk.close());

watch(
  () => desk.complaint?.said,
  () => desk.complaint && message.error(desk.complaint.text, { duration: 9000, closable: true }),
);
watch(
  () => desk.done?.said,
  () => desk.done && message.success(desk.done.text, { duration: 2500 }),
);

/** Opens the test strips, with the dial in focus as one that varies. */
function varied() {
  const name = (document.activeElement?.closest("[data-dial]") as HTMLElement | null)?.dataset.dial;
  if (!name || !strips.varyNamed(name)) strips.show();
}

function turnPrint(by: number) {
  const numbers = desk.prints.map((print) => print.number);
  if (!numbers.length) return;
  const at = looking.value ? numbers.indexOf(looking.value.a) : by > 0 ? -1 : numbers.length;
  looking.value = { a: numbers[Math.min(Math.max(at + by, 0), numbers.length - 1)], b: null };
}

useTitle();

function openSet(node: string, dial?: string) {
  settling.value = false;
  void open(node, dial);
}

/** What can be done, to be found by its name. */
const commands: Command[] = [
  { label: "Run a draft", key: "R", act: () => desk.run("draft") },
  { label: "Run in full", key: "Shift+R", act: () => desk.run("full") },
  { label: "Stop the run", act: () => desk.stop() },
  { label: "Take a print", key: "P", act: () => desk.takePrint() },
  { label: "Contact sheet", key: "S", act: () => desk.takeSheet() },
  { label: "Test strip", key: "Shift+T", act: () => strips.show() },
  { label: "History", key: "H", act: () => (remembering.value = true) },
  { label: "What is set in the shot", act: () => (settling.value = true) },
  { label: "Runs", act: () => strip.value?.show("runs") },
  { label: "Prints", act: () => strip.value?.show("prints") },
  { label: "Wipe between two prints", key: "B", act: () => strip.value?.wipe() },
  { label: "Look through the camera", key: "V", act: () => view.value?.lookThrough() },
  { label: "See all chambers", key: "0", act: () => view.value?.fit() },
  { label: "See what is picked", key: "C", act: () => view.value?.picked() },
  { label: "Develop the view", key: "D", act: () => view.value?.develop() },
  { label: "Movie of the view", act: () => view.value?.movie() },
  { label: "Hide or show lines and marks", key: "L", act: () => view.value?.lines() },
  { label: "Expose for this frame", act: () => desk.meter() },
  { label: "Undo", key: "Ctrl+Z", act: () => desk.step("undo") },
  { label: "Do again", key: "Ctrl+Shift+Z", act: () => desk.step("redo") },
  { label: "Keys", key: "?", act: () => (helping.value = true) },
  { label: "Jobs and room", act: () => router.push("/work") },
];

useKeys({
  strip: () => varied(),
  find: () => (finding.value = true),
  help: () => (helping.value = true),
  history: () => (remembering.value = true),
  wipe: () => strip.value?.wipe(),
  turnPrint,
  fit: () => view.value?.fit(),
  camera: () => view.value?.lookThrough(),
  lines: () => view.value?.lines(),
  develop: () => view.value?.develop(),
  crop: () => (frameView.value ?? view.value)?.crop(),
  picked: () => view.value?.picked(),
  grip: (one) => view.value?.grip(one),
  escape: () => {
    if (frameView.value?.giveUp()) return;
    if (story.pair) story.stop();
    else if (desk.focusing) desk.focusing = false;
    else if (desk.placing) desk.placing = null;
    else if (desk.aiming) desk.aiming = null;
    else if (brush.at) brush.at = null;
    else desk.selected = null;
  },
});

const panelTo = (width: number) => (panelWidth.value = Math.min(Math.max(width, 0), 520));
const timelineTo = (height: number) => (timelineHeight.value = Math.min(Math.max(height, 40), 560));

function nudgeEdge(event: KeyboardEvent, edge: "panel" | "timeline") {
  const by = event.shiftKey ? 80 : 16;
  const way = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: 1, ArrowDown: -1 }[event.key];
  if (!way) return;
  event.preventDefault();
  event.stopPropagation();
  if (edge === "panel") panelTo(panelWidth.value + way * by);
  else timelineTo(timelineHeight.value + way * by);
}

function dragEdge(event: PointerEvent, edge: "panel" | "timeline") {
  const from = edge === "panel" ? event.clientX - panelWidth.value : event.clientY + timelineHeight.value;
  const target = event.currentTarget as HTMLElement;
  target.setPointerCapture(event.pointerId);
  target.onpointermove = (move) => {
    if (edge === "panel") panelTo(move.clientX - from);
    else timelineTo(from - move.clientY);
  };
  target.onpointerup = () => (target.onpointermove = null);
}
</script>

<template>
  <div
    v-if="ready"
    class="desk"
    data-desk
    :data-unsaved="desk.unanswered || null"
    :style="{
      gridTemplateColumns: `64px ${panelWidth}px 5px minmax(0, 1fr) 172px`,
      gridTemplateRows: `44px minmax(0, 1fr) 5px ${timelineHeight}px`,
    }"
  >
    <top-line @history="remembering = true" />
    <chapter-bar class="bar" @set="settling = true" />
    <chapter-panel class="panel" />
    <div
      class="edge upright"
      role="separator"
      aria-orientation="vertical"
      aria-label="Width of the panel; arrows change it"
      tabindex="0"
      :aria-valuenow="panelWidth"
      aria-valuemin="0"
      aria-valuemax="520"
      @keydown="nudgeEdge($event, 'panel')"
      @pointerdown="dragEdge($event, 'panel')"
      @dblclick="panelWidth = panelWidth < 40 ? 276 : 0"
    />
    <shot-view ref="view" class="view" />
    <finish-view v-if="finishing" ref="frameView" class="view" @aside="finished = false" />
    <button
      v-else-if="desk.chapter === 'finish'"
      class="view back"
      title="The frame with all layers"
      data-finish-again
      @click="finished = true"
    >
      Finished frame
    </button>
    <side-strip
      ref="strip"
      class="strip"
      @look="looking = { a: $event, b: null }"
      @wipe="looking = { a: $event[0], b: $event[1] }"
      @run="lookingAtRun = $event"
    />
    <div
      class="edge level"
      role="separator"
      aria-orientation="horizontal"
      aria-label="Height of the timeline; arrows change it"
      tabindex="0"
      :aria-valuenow="timelineHeight"
      aria-valuemin="40"
      aria-valuemax="560"
      @keydown="nudgeEdge($event, 'timeline')"
      @pointerdown="dragEdge($event, 'timeline')"
      @dblclick="timelineHeight = timelineHeight < 60 ? 196 : 40"
    />
    <timeline-panel class="timeline" />
    <print-viewer
      v-if="looking"
      :a="looking.a"
      :b="looking.b"
      @close="looking = null"
      @turn="turnPrint($event)"
    />
    <sheet-viewer v-if="desk.sheet" :name="desk.sheet" @close="desk.sheet = null" />
    <strip-dialog v-if="strips.open" />
    <find-anything
      v-if="finding"
      :commands="commands"
      @close="finding = false"
      @print="looking = { a: $event, b: null }"
      @run="lookingAtRun = $event"
    />
    <set-dialog v-if="settling" @close="settling = false" @open="openSet" />
    <history-dialog v-if="remembering" @close="remembering = false" />
    <run-viewer v-if="lookingAtRun !== null" :number="lookingAtRun" @close="lookingAtRun = null" />
    <ask-bar />
    <bring-dialog v-if="arrivals.mesh" />
    <key-help v-if="helping" @close="helping = false" />
  </div>
  <div v-else class="opening" role="status">Opening the shot…</div>
</template>

<style scoped>
.desk {
  display: grid;
  height: 100vh;
  grid-template-areas:
    "top top top top top"
    "bar panel edge view strip"
    "bar panel edge level level"
    "bar panel edge timeline timeline";
}

.bar {
  grid-area: bar;
}

.panel {
  grid-area: panel;
  overflow: hidden;
}

.edge {
  background: var(--panel);
  touch-action: none;
}

.edge:hover {
  background: var(--line);
}

.back {
  place-self: start center;
  margin-top: 44px;
  z-index: 2;
  height: 26px;
  padding: 0 12px;
  border: 1px solid var(--line);
  border-radius: 999px;
  background: rgb(26 31 35 / 85%);
}

.upright {
  grid-area: edge;
  cursor: ew-resize;
}

.level {
  grid-area: level;
  cursor: ns-resize;
}

.view {
  grid-area: view;
  min-width: 0;
  min-height: 0;
}

.strip {
  grid-area: strip;
}

.timeline {
  grid-area: timeline;
}

.opening {
  height: 100vh;
  display: grid;
  place-items: center;
  color: var(--quiet);
}
</style>
