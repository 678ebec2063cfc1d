<script setup lang="ts">
import { useElementSize } from "@vueuse/core";
import { computed, onMounted, onUnmounted, ref, shallowRef, watch } from "vue";
import { plain } from "../lib/numbers";
import { useCatalog } from "../stores/catalog";
import { useChosen } from "../stores/chosen";
import { useDesk } from "../stores/desk";
import { Stage } from "../view/stage";
import { volumeName, Volumes } from "../view/volumes";
import { useFileDrop } from "../lib/useFileDrop";
import { useArrivals } from "../stores/arrivals";
import { useComparing } from "./useComparing";
import { useDeveloping } from "./useDeveloping";
import { useFog } from "./useFog";
import { useFollowing } from "./useFollowing";
import { useDrops } from "./useDrops";
import { useDrawAhead } from "./useDrawAhead";
import { useFrameView } from "./useFrameView";
import { useHandles } from "./useHandles";
import { usePicking } from "./usePicking";
import { usePlateBehind } from "./usePlateBehind";
import { usePlayback } from "./usePlayback";
import { useScene } from "./useScene";
import { useSeen } from "./useSeen";
import { useSparks } from "./useSparks";
import { useStrengths } from "./useStrengths";
import { useViewClip } from "./useViewClip";
import ChosenBar from "./ChosenBar.vue";
import CompareBar from "./CompareBar.vue";
import HandMarks from "./HandMarks.vue";
import ViewCorner from "./ViewCorner.vue";
import ViewFacts from "./ViewFacts.vue";
import ViewChips from "./ViewChips.vue";
import ViewNotice from "./ViewNotice.vue";

const desk = useDesk();
const chosen = useChosen();
const catalog = useCatalog();
const canvas = ref<HTMLCanvasElement | null>(null);
const holder = ref<HTMLElement | null>(null);
const stage = shallowRef<Stage | null>(null);
const noView = ref(false);
const volumes = new Volumes();
const { width, height } = useElementSize(holder);
const { ahead } = usePlayback(volumes, (row) => !compares.value && frames.waits(row));
const { shown, quantity, slice, range, setShown } = useSeen(stage);
const fog = useFog(stage);
const developing = useDeveloping(stage, width, height, holder, fog.foggy);
const { on: develops, picture: developed, come, part, only, crop } = developing;
const { readout, box, trail, down, move, up } = usePicking(stage, canvas, holder);

const { grip, grips, used, follow } = useHandles(stage, (place, by) => {
  const values = place && { move: place.position, turn: place.turn, size: place.scale }[by];
  dragged.value = values ? `${values.map(plain).join(", ")}${{ move: " m", turn: "°", size: "" }[by]}` : "";
  if (place) stage.value?.touch();
});
const laid = useScene(stage, follow);
const { scene, chamber, forget, proportion } = laid;
/** Where a handle has come to. */
const dragged = ref("");
const corner = ref<InstanceType<typeof ViewCorner> | null>(null);

const sparks = useSparks();
const strengths = useStrengths();
const drops = useDrops(stage, slice);
/** Whether one looks through the shot's camera; what lies outside its frame is darkened then. */
const through = ref(false);
const plate = usePlateBehind(stage, through, [width, height]);
const frames = useFrameView(
  stage,
  volumes,
  sparks,
  strengths,
  shown,
  () => !quantity.value && !slice.on && !drops.by.value && !plate.on.value,
  laid,
);
const { covered, drawnName, resolution, drew, keep, uncover, show } = frames;
const comparing = useComparing(stage, volumes, frames);
const { on: compares, painted, work: compare } = comparing;
const { going: clipping, make: makeClip, stop: stopClip } = useViewClip(stage, frames, comparing);
useDrawAhead(stage, frames);
useFollowing(stage, volumes, frames.lay, () => appear());
watch(compares, (now) => now && (develops.value = false));

/** Shows the frame where the desk stands: of the shot, or of two runs together. */
function appear() {
  return compares.value ? compare() : show();
}

/** What is dropped comes to stand on what lies under it. */
const arrivals = useArrivals();
const { over: hovered, on: dropping } = useFileDrop((files, event) => {
  const box = canvas.value!.getBoundingClientRect();
  const [x, y] = [
    ((event.clientX - box.left) / box.width) * 2 - 1,
    1 - ((event.clientY - box.top) / box.height) * 2,
  ];
  void arrivals.bring(files, stage.value?.aim.spot(x, y) ?? null);
});

const camera = computed(() => {
  const node = desk.byId.get("camera");
  return node ? `Camera: ${plain(catalog.read(node, "focal") as number)} mm` : "";
});

onMounted(() => {
  // The first volume is on its way while shaders are built.
  ahead();
  try {
    stage.value = new Stage(canvas.value!);
  } catch {
    noView.value = true;
    return;
  }
  stage.value.drawn = () => {
    resolution.value = stage.value!.resolution;
    drew();
    if (!stage.value!.hasty) void keep(canvas.value!, resolution.value === 1);
  };
  stage.value.changed = () => {
    through.value = stage.value!.eye.through;
    if (compares.value || uncover()) void appear();
  };
  resize();
  setShown();
  scene();
  chamber();
  stage.value.fit();
  void show();
});

onUnmounted(() => {
  stage.value?.dispose();
  volumes.dispose();
});

const within = ([left, top, right, bottom]: number[]) => ({
  left: `${100 * left}%`,
  top: `${100 * top}%`,
  width: `${100 * (right - left)}%`,
  height: `${100 * (bottom - top)}%`,
});

function resize() {
  if (width.value && height.value) stage.value?.resize(width.value, height.value);
}

const bars = computed(() => {
  if (!through.value || !desk.shot) return 0;
  return Math.max(0, (height.value - width.value / proportion()) / 2);
});

/** What was moved by hand stands where the shot has it, whatever comes of it. */
function letGo(event: PointerEvent) {
  forget();
  up(event);
}

watch([width, height], resize);
watch(() => desk.frames, ahead);
watch(
  () => [
    desk.frame,
    desk.playing,
    volumeName(desk.row),
    desk.row?.liquid,
    sparks.edition.value,
    strengths.edition.value,
  ],
  appear,
);

watch(stage, (now) => {
  desk.view = now && {
    outlook: () => now.eye.outlook,
    picture: () => (covered.value ? frames.over.value : now.sketch()),
    lookFrom: (from) => {
      now.eye.lookFrom(from);
      now.touch();
    },
  };
});

function lookThrough() {
  if (!desk.shot) return;
  const { scene, eye } = desk.shot;
  stage.value?.lookThrough({ ...scene, camera: { ...scene.camera, ...eye[desk.frame - desk.first] } });
}

// A camera that moves takes the view along.
watch(
  () => desk.frame,
  () => desk.shot?.eye.length && stage.value?.eye.through && lookThrough(),
);

defineExpose({
  fit: () => stage.value?.fit(),
  lookThrough,
  picked: () => corner.value?.look("picked"),
  grip: (one: "move" | "turn" | "size") => (grip.value = one),
  develop: () => (develops.value = !develops.value),
  crop,
  lines: () => stage.value?.toggleLines(),
  movie: () => makeClip(),
});
</script>

<template>
  <div
    ref="holder"
    class="view"
    :class="{ hovered }"
    data-view
    :data-drawn="drawnName ?? ''"
    :data-fog="fog.drawn.value ? 'drawn' : fog.foggy.value ? 'coming' : undefined"
    :data-scale="resolution"
    :data-props="laid.stands.value ? 'stand' : 'coming'"
    v-on="dropping"
  >
    <canvas
      ref="canvas"
      :class="{ under: covered }"
      tabindex="0"
      aria-label="View of the shot: drag to turn, wheel to come nearer, right button to shift"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="letGo"
      @pointercancel="letGo"
    />
    <canvas v-show="covered" ref="over" class="over" aria-hidden="true" :data-covered="covered" />
    <canvas v-show="compares" ref="both" class="over" aria-hidden="true" />
    <compare-bar v-if="compares" :painted="painted" />
    <img v-if="developed" class="developed" :src="developed" alt="" :data-developed="come" />
    <img
      v-if="developed && part"
      class="part"
      :src="part.picture"
      alt=""
      data-part
      :style="within(part.at)"
    />
    <span v-if="only" class="only" :style="within(only)" />
    <template v-if="bars > 1">
      <div class="bar" :style="{ height: `${bars}px`, top: 0 }" data-bar />
      <div class="bar" :style="{ height: `${bars}px`, bottom: 0 }" />
    </template>
    <view-chips
      :shown="shown"
      :quantity="quantity"
      :slice="slice"
      :range="range || drops.range.value"
      :drops="drops.by.value"
      :wet="drops.wet.value"
      :develops="develops"
      :plate="plate.any.value && through ? plate.on.value : null"
      @plate="plate.wanted.value = !plate.wanted.value"
      @develop="develops = !develops"
      @shown="(name) => (shown[name] = !shown[name])"
      @quantity="quantity = $event"
      @drops="drops.by.value = $event"
      @slice="Object.assign(slice, $event)"
    />
    <view-notice :dark="noView" />
    <div v-if="arrivals.reading || hovered" class="reading" role="status" data-reading>
      {{ arrivals.reading ? `Reading ${arrivals.reading}…` : "Drop a mesh here to bring it in" }}
    </div>
    <div class="foot">
      <chosen-bar v-if="chosen.several" />
      <view-corner
        ref="corner"
        class="corner"
        :stage="stage"
        :camera="camera"
        :through="through"
        :resolution="developed || compares ? 1 : resolution"
        :grips="grips"
        :used="used"
        :dragged="dragged"
        @camera="lookThrough"
        @grip="grip = $event"
      >
        <button
          class="plain"
          :title="clipping ? 'Stop' : 'A movie of the view as it is, of the frames that play'"
          data-clip-view
          @click="clipping ? stopClip() : makeClip()"
        >
          {{ clipping ? `Movie: ${clipping}` : "Movie" }}
        </button>
      </view-corner>
    </div>
    <view-facts class="corner right" />
    <hand-marks :trail="trail" :box="box" :readout="readout" />
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

/* Takes the hand still, but need not be painted. */
canvas.under {
  opacity: 0;
}

canvas.over {
  pointer-events: none;
}

canvas:focus-visible {
  outline-offset: -2px;
}

/* Outside the picture's frame. */
.bar {
  position: absolute;
  left: 0;
  right: 0;
  background: rgb(6 8 9 / 55%);
  pointer-events: none;
}

.reading {
  position: absolute;
  left: 50%;
  top: 45%;
  transform: translateX(-50%);
  padding: 10px 18px;
  border-radius: 10px;
  background: var(--card);
  border: 1px solid var(--line);
  pointer-events: none;
}

.hovered {
  outline: 2px dashed var(--accent);
  outline-offset: -8px;
}

.foot {
  position: absolute;
  left: 9px;
  right: 9px;
  bottom: 9px;
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 8px;
  pointer-events: none;
}

.foot > * {
  pointer-events: auto;
}

.corner {
  padding: 3px 8px;
  border-radius: 6px;
  /* Over a bright sky as over a dark yard. */
  background: rgb(16 20 22 / 80%);
  color: var(--quiet);
}

.corner.right {
  position: absolute;
  right: 9px;
  bottom: 9px;
  /* What is told on the left has room beside it. */
  max-width: calc(100% - 322px);
  text-align: right;
  pointer-events: none;
}

.developed {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}

.part,
.only {
  position: absolute;
  pointer-events: none;
}

.only {
  border: 1px solid var(--accent);
}
</style>
