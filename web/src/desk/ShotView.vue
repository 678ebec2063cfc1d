<script setup lang="ts">
import { useElementSize } from "@vueuse/core";
import { computed, onMounted, onUnmounted, ref, shallowRef, watch } from "vue";
import { api } from "../api/client";
import { bytes, plain } from "../lib/numbers";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { Stage } from "../view/stage";
import { volumeName, Volumes } from "../view/volumes";
import { useDrawAhead } from "./useDrawAhead";
import { useFlipBook } from "./useFlipBook";
import { useMarks } from "./useMarks";
import { usePicking } from "./usePicking";
import { usePlayback } from "./usePlayback";
import { useSeen } from "./useSeen";
import ViewChips from "./ViewChips.vue";
import ViewNotice from "./ViewNotice.vue";

const desk = useDesk();
const catalog = useCatalog();
const canvas = ref<HTMLCanvasElement | null>(null);
const holder = ref<HTMLElement | null>(null);
const stage = shallowRef<Stage | null>(null);
const drawnName = ref<string | null>(null);
const coarse = ref(1);
const noView = ref(false);
const volumes = new Volumes();
const { width, height } = useElementSize(holder);
const { ahead } = usePlayback(volumes);
const { shown, quantity, slice, range, setShown } = useSeen(stage);
const { readout, down, move, up } = usePicking(stage, canvas, holder);

const { list, marks, forces } = useMarks();

const wantedName = computed(() => volumeName(desk.row));
/** Whether all that belongs to this frame is drawn, and nothing besides. */
const whole = () =>
  !quantity.value &&
  !slice.on &&
  !!drawnName.value &&
  drawnName.value === wantedName.value &&
  (!glows.value || sparksOf === desk.frame);
const { covered, keep, cover, uncover } = useFlipBook(stage, wantedName);
const facts = computed(() => desk.row?.facts);
const camera = computed(() => {
  const node = desk.byId.get("camera");
  return node ? `Camera: ${plain(catalog.read(node, "focal") as number)} mm` : "";
});
onMounted(() => {
  try {
    stage.value = new Stage(canvas.value!);
  } catch {
    noView.value = true;
    return;
  }
  stage.value.drawn = () => {
    coarse.value = stage.value!.resolution;
    if (whole()) keep(canvas.value!, coarse.value === 1);
  };
  stage.value.changed = () => uncover() && void showFrame();
  resize();
  setShown();
  scene();
  chamber();
  stage.value.fit();
  void showFrame();
});

onUnmounted(() => {
  stage.value?.dispose();
  volumes.dispose();
});

function resize() {
  if (width.value && height.value) stage.value?.resize(width.value, height.value);
}

const picture = (dial: string) => catalog.read(desk.byId.get("picture")!, dial) as number;

function scene() {
  const answer = desk.shot;
  if (!answer || !stage.value) return;
  stage.value.setRig(answer.scene);
  stage.value.props.setMarks(marks(), desk.selected);
  stage.value.guides.set(forces(), desk.selected);
  const lens = desk.selected === "camera" && answer.scene.camera.aperture > 0 ? answer.scene.camera : null;
  stage.value.guides.setFocus(lens, picture("width") / picture("height"));
  const paints = new Map(
    desk.nodes
      .filter((node) => node.kind === "prop")
      .map((node) => [
        node.id,
        {
          colour: list(node, "colour"),
          uneven: catalog.read(node, "uneven") as number,
          size: catalog.read(node, "uneven_size") as number,
        },
      ]),
  );
  stage.value.props.go(desk.frame);
  void stage.value.props.set(desk.bodies, paints, desk.selected).then(() => stage.value?.touch());
}

function chamber() {
  const frames = desk.frames;
  if (frames && stage.value) stage.value.setChambers(frames.boxes, frames.voxel);
}

async function showFrame() {
  const name = wantedName.value;
  if (!stage.value) return;
  if (cover()) {
    drawnName.value = name;
    if (!desk.playing) coarse.value = 1;
    return;
  }
  uncover();
  if (stage.value.props.go(desk.frame)) stage.value.next();
  const volume = name ? (volumes.get(name) ?? (await volumes.fetch(name))) : null;
  // Another frame may have been asked for meanwhile; what is not there yet leaves the last one.
  if (name !== wantedName.value || (!volume && desk.row?.key)) return;
  stage.value.setVolume(volume);
  drawnName.value = name;
}

const glows = computed(() =>
  desk.nodes.some(
    (node) =>
      node.kind === "emitter" && ((catalog.read(node, "glow") as number) > 0 || node.keys.glow?.length),
  ),
);

/** Puts the sparks of a frame into the view. @return whether they are there */
async function sparks(frame: number): Promise<boolean> {
  if (!desk.shot || !stage.value) return false;
  const asked = ++sparksAsked;
  const rows = glows.value ? await api.sparks(desk.shot.id, frame).catch(() => null) : new Float32Array(0);
  if (!rows || asked !== sparksAsked) return false;
  stage.value.sparks.set(rows);
  sparksOf = frame;
  stage.value.next();
  return true;
}

let sparksOf = 0;
let sparksAsked = 0;

watch([width, height], resize);
watch(
  () => [desk.shot, desk.frame, glows.value],
  () => sparks(desk.frame),
);
watch(() => [desk.shot, desk.selected, desk.bodies], scene);
watch(() => desk.frames && JSON.stringify([desk.frames.boxes, desk.frames.voxel]), chamber);
watch(wantedName, showFrame);
watch(() => desk.frames, ahead);
watch(() => [desk.frame, desk.playing], showFrame);

useDrawAhead(stage, volumes, whole, sparks, cover);

function lookThrough() {
  if (desk.shot) stage.value?.lookThrough(desk.shot.scene);
}

defineExpose({ fit: () => stage.value?.fit(), lookThrough, lines: () => stage.value?.toggleLines() });
</script>

<template>
  <div ref="holder" class="view" data-view :data-drawn="drawnName ?? ''" :data-scale="coarse">
    <canvas
      ref="canvas"
      tabindex="0"
      aria-label="View of the shot: drag to turn, wheel to come nearer, right button to shift"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="up"
      @pointercancel="up"
    />
    <canvas v-show="covered" ref="over" class="over" aria-hidden="true" :data-covered="covered" />
    <view-chips
      :shown="shown"
      :quantity="quantity"
      :slice="slice"
      :range="range"
      @shown="(name) => (shown[name] = !shown[name])"
      @quantity="quantity = $event"
      @slice="Object.assign(slice, $event)"
    />
    <view-notice :dark="noView" />
    <div class="corner left">
      <button class="plain" title="Look through the shot's camera (V)" @click="lookThrough">
        {{ camera }}
      </button>
      <button class="plain" title="See all chambers (0)" @click="stage?.fit()">Fit</button>
      <span v-if="coarse < 1" class="faint" title="The smoke is drawn coarser while this machine is busy">
        smoke at {{ Math.round(coarse * 100) }} %
      </span>
    </div>
    <div class="corner right">
      <div v-if="desk.frames">
        <template v-if="desk.frames.boxes.length > 1">{{ desk.frames.boxes.length }} chambers, </template>
        <template v-else>{{ desk.frames.size.join(" × ") }} voxels, </template>
        {{ plain(desk.frames.voxel) }} m
        <template v-if="facts?.size && facts.size.join() !== desk.frames.size.join()">
          · {{ facts.size.join(" × ") }} in use
        </template>
      </div>
      <div v-if="facts">
        peak {{ plain(facts.speed) }} m/s
        <template v-if="facts.peak"> · {{ plain(facts.peak) }} K</template>
        · {{ facts.substeps }} {{ facts.substeps === 1 ? "substep" : "substeps" }} ·
        {{ bytes(facts.bytes) }} a frame
      </div>
    </div>
    <div
      v-if="readout"
      class="readout"
      :style="{ left: `${readout.x}px`, top: `${readout.y}px` }"
      data-readout
    >
      {{ readout.text }}
    </div>
  </div>
</template>

<style scoped>
.view {
  position: relative;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
  background: var(--surround);
}

canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  display: block;
  touch-action: none;
}

canvas.over {
  pointer-events: none;
}

canvas:focus-visible {
  outline-offset: -2px;
}

.corner {
  position: absolute;
  bottom: 9px;
  padding: 3px 8px;
  border-radius: 6px;
  /* Over a bright sky as over a dark yard. */
  background: rgb(16 20 22 / 80%);
  color: var(--quiet);
}

.corner.left {
  left: 9px;
  display: flex;
  gap: 14px;
}

.corner.right {
  right: 9px;
  text-align: right;
  pointer-events: none;
}

.plain:hover {
  color: var(--text);
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
