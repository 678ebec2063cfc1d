<script setup lang="ts">
import { useElementSize } from "@vueuse/core";
import * as THREE from "three";
import { computed, onMounted, onUnmounted, ref, shallowRef, watch } from "vue";
import type { ShotNode } from "../api/types";
import { bytes, plain } from "../lib/numbers";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { tints } from "../theme";
import { Stage } from "../view/stage";
import { volumeName, Volumes } from "../view/volumes";
import { usePlayback } from "./usePlayback";

const desk = useDesk();
const catalog = useCatalog();
const canvas = ref<HTMLCanvasElement | null>(null);
const holder = ref<HTMLElement | null>(null);
const stage = shallowRef<Stage | null>(null);
const shown = ref({ smoke: true, heat: false });
const drawnName = ref<string | null>(null);
const coarse = ref(1);
const readout = ref<{ x: number; y: number; text: string } | null>(null);
const noView = ref(false);
const volumes = new Volumes();
const { width, height } = useElementSize(holder);
const { ahead } = usePlayback(volumes);

const wantedName = computed(() => volumeName(desk.row));
const stale = computed(() => desk.row?.state === "stale");
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
  stage.value.drawn = () => (coarse.value = stage.value!.marcher.scale);
  resize();
  scene();
  chamber();
  stage.value.fit();
  void showFrame();
});

onUnmounted(() => stage.value?.dispose());

function resize() {
  if (width.value && height.value) stage.value?.resize(width.value, height.value);
}

function scene() {
  const answer = desk.shot;
  if (!answer || !stage.value) return;
  stage.value.setRig(answer.scene);
  const read = (node: ShotNode, dial: string) => catalog.read(node, dial);
  const props = desk.nodes
    .filter((node) => node.kind === "prop")
    .map((node) => ({
      id: node.id,
      outline: answer.shapes[node.id],
      position: read(node, "position") as number[],
      turn: read(node, "turn") as number[],
      scale: read(node, "scale") as number[],
      colour: read(node, "colour") as number[],
      shown: read(node, "shown") as boolean,
    }));
  const lamps = desk.nodes
    .filter((node) => node.kind === "lamp")
    .map((node) => ({
      id: node.id,
      position: read(node, "position") as number[],
      colour: read(node, "colour") as number[],
    }));
  stage.value.props.setLamps(lamps, desk.selected);
  void stage.value.props.set(props, desk.selected).then(() => stage.value?.touch());
}

function chamber() {
  const frames = desk.frames;
  if (frames && stage.value) stage.value.setChamber(frames.corner, frames.size, frames.voxel);
}

async function showFrame() {
  const name = wantedName.value;
  if (!stage.value) return;
  const volume = name ? (volumes.get(name) ?? (await volumes.fetch(name))) : null;
  // Another frame may have been asked for meanwhile; what is not there yet leaves the last one.
  if (name !== wantedName.value || (!volume && desk.row?.key)) return;
  stage.value.setVolume(volume);
  drawnName.value = name;
}

watch([width, height], resize);
watch(() => [desk.shot, desk.selected], scene);
watch(() => desk.frames && [desk.frames.corner, desk.frames.size, desk.frames.voxel].join(), chamber);
watch(wantedName, showFrame);
watch(() => desk.frames, ahead);
watch(
  shown,
  (chips) => {
    stage.value?.marcher.setShown(chips.smoke, chips.heat);
    stage.value?.touch();
  },
  { deep: true },
);

// Picking and moving.
let press: {
  x: number;
  y: number;
  id: string | null;
  plane: THREE.Plane;
  from: THREE.Vector3;
  start: THREE.Vector3;
} | null = null;
let moving: THREE.Vector3 | null = null;

function place(event: PointerEvent) {
  const box = canvas.value!.getBoundingClientRect();
  return [
    ((event.clientX - box.left) / box.width) * 2 - 1,
    1 - ((event.clientY - box.top) / box.height) * 2,
  ] as const;
}

function down(event: PointerEvent) {
  if (event.button !== 0 || !stage.value) return;
  const [x, y] = place(event);
  const hit = stage.value.pick(x, y);
  const object = hit && stage.value.props.object(hit.id);
  press = {
    x: event.clientX,
    y: event.clientY,
    id: hit?.id ?? null,
    plane: new THREE.Plane(),
    from: hit?.point ?? new THREE.Vector3(),
    start: object?.position.clone() ?? new THREE.Vector3(),
  };
  // What is picked already can be moved; dragging anything else turns the view.
  if (hit && hit.id === desk.selected) {
    stage.value.orbit.enabled = false;
    canvas.value!.setPointerCapture(event.pointerId);
  }
}

function move(event: PointerEvent) {
  if (!press || !stage.value || stage.value.orbit.enabled || !press.id) return;
  if (!moving && Math.hypot(event.clientX - press.x, event.clientY - press.y) < 4) return;
  const object = stage.value.props.object(press.id);
  if (!object) return;
  // Along the floor; with Alt up and down.
  const normal = event.altKey
    ? stage.value.camera.getWorldDirection(new THREE.Vector3()).setY(0).normalize()
    : new THREE.Vector3(0, 1, 0);
  press.plane.setFromNormalAndCoplanarPoint(normal, press.from);
  const at = stage.value.ray(...place(event)).intersectPlane(press.plane, new THREE.Vector3());
  if (!at) return;
  const far = at.sub(press.from);
  if (event.altKey) far.set(0, far.y, 0);
  const to = press.start.clone().add(far);
  const grid = event.shiftKey ? 0.1 : 0.01;
  moving = new THREE.Vector3(...to.toArray().map((c) => Number((Math.round(c / grid) * grid).toFixed(4))));
  object.position.copy(moving);
  stage.value.touch();
  const box = holder.value!.getBoundingClientRect();
  readout.value = {
    x: event.clientX - box.left + 14,
    y: event.clientY - box.top + 10,
    text: `${moving.toArray().map(plain).join(", ")} m`,
  };
}

async function up(event: PointerEvent) {
  if (!press || !stage.value) return;
  const { id, x, y } = press;
  const still = Math.hypot(event.clientX - x, event.clientY - y) < 4;
  press = null;
  stage.value.orbit.enabled = true;
  readout.value = null;
  if (moving && id) {
    const to = moving.toArray();
    moving = null;
    await desk.set(id, "position", to);
  } else if (still) {
    desk.selected = id;
    const node = id && desk.byId.get(id);
    if (node) desk.chapter = catalog.kind(node.kind).chapter;
  }
}

function lookThrough() {
  if (desk.shot) stage.value?.lookThrough(desk.shot.scene);
}

defineExpose({ fit: () => stage.value?.fit(), lookThrough });
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
    <div class="chips">
      <button
        v-for="chip in ['smoke', 'heat'] as const"
        :key="chip"
        class="chip"
        :class="{ on: shown[chip] }"
        :aria-pressed="shown[chip]"
        :data-chip="chip"
        @click="shown[chip] = !shown[chip]"
      >
        <span class="dot" :style="{ background: tints[chip] }" />{{ chip === "smoke" ? "Smoke" : "Heat" }}
      </button>
      <span class="gap" />
      <button
        v-for="kind in ['draft', 'full'] as const"
        :key="kind"
        class="chip"
        :class="{ on: desk.quality === kind }"
        :aria-pressed="desk.quality === kind"
        :data-quality="kind"
        @click="desk.show(kind)"
      >
        {{ kind === "draft" ? "Draft" : "Full" }}
      </button>
    </div>
    <div v-if="noView" class="notice">
      This browser gives no WebGL2, so the view stays dark. Prints and exports work all the same.
    </div>
    <div v-else-if="desk.row?.state === 'none' && !desk.running" class="notice">
      This frame has not been run.
      <button class="link" @click="desk.run(desk.quality)">
        Run {{ desk.quality === "draft" ? "a draft" : "it in full" }}
      </button>
    </div>
    <div v-else-if="stale && !desk.running" class="notice">
      This frame is from before the last change.
      <button class="link" @click="desk.run(desk.quality)">Run again</button>
    </div>
    <div class="corner left">
      <button class="plain" title="Look through the shot's camera (C)" @click="lookThrough">
        {{ camera }}
      </button>
      <button class="plain" title="See the whole chamber (0)" @click="stage?.fit()">Fit</button>
      <span v-if="coarse < 1" class="faint" title="The smoke is drawn coarser while this machine is busy">
        smoke at {{ Math.round(coarse * 100) }} %
      </span>
    </div>
    <div class="corner right">
      <div v-if="desk.frames">
        {{ desk.frames.size.join(" × ") }} voxels, {{ plain(desk.frames.voxel) }} m
      </div>
      <div v-if="facts">
        peak {{ plain(facts.speed) }} m/s · {{ facts.substeps }}
        {{ facts.substeps === 1 ? "substep" : "substeps" }} · {{ bytes(facts.bytes) }} a frame
      </div>
    </div>
    <div v-if="readout" class="readout" :style="{ left: `${readout.x}px`, top: `${readout.y}px` }">
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

canvas:focus-visible {
  outline-offset: -2px;
}

.chips {
  position: absolute;
  left: 11px;
  right: 11px;
  top: 11px;
  display: flex;
  gap: 4px;
  pointer-events: none;
}

.chips .gap {
  flex: 1;
}

.chip {
  pointer-events: auto;
  display: flex;
  align-items: center;
  gap: 7px;
  height: 26px;
  padding: 0 12px;
  border: 1px solid transparent;
  border-radius: 999px;
  color: var(--quiet);
}

.chip.on {
  color: var(--text);
  background: rgb(26 31 35 / 85%);
  border-color: var(--line);
}

.dot {
  width: 7px;
  height: 7px;
  border-radius: 50%;
  opacity: 0.45;
}

.on .dot {
  opacity: 1;
}

.notice {
  position: absolute;
  top: 48px;
  right: 12px;
  max-width: 270px;
  padding: 9px 13px;
  background: rgb(26 31 35 / 92%);
  border: 1px solid var(--line);
  border-radius: 10px;
}

.corner {
  position: absolute;
  bottom: 11px;
  color: var(--quiet);
  text-shadow: 0 1px 3px #000;
}

.corner.left {
  left: 12px;
  display: flex;
  gap: 14px;
}

.corner.right {
  right: 12px;
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
