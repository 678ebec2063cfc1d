<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { api } from "../api/client";
import type { Holdings, ShotRow } from "../api/types";
import JobProgress from "../lib/JobProgress.vue";
import { bytes } from "../lib/numbers";
import { useReel } from "./useReel";

/** A shot on the shelf: its newest print, which moves while one looks at it, and what there is of it. */
const props = defineProps<{ shot: ShotRow }>();
const emit = defineEmits<{ duplicate: []; away: [] }>();
const held = ref<Holdings | null>(null);
const { look, leave, making, playing } = useReel(() => props.shot);

/** What goes on in the shot: what runs comes before what waits. */
const work = computed(
  () =>
    props.shot.jobs
      .filter((job) => job.kind === "run" || job.kind === "export")
      .sort((a, b) => Number(b.state === "running") - Number(a.state === "running"))[0],
);
watch(
  () => [props.shot.changed, props.shot.print, !work.value],
  async () => (held.value = await api.holdings(props.shot.id).catch(() => held.value)),
  { immediate: true },
);

const facts = computed(() => {
  const { value } = held;
  if (!value) return "";
  const frames = value.frames
    ? `${value.frames === value.of ? value.of : `${value.frames} of ${value.of}`} frames, ${value.quality}`
    : `${value.of} frames, not run`;
  return value.bytes ? `${frames} · ${bytes(value.bytes)}` : frames;
});

const when = (seconds: number) =>
  new Date(seconds * 1000).toLocaleString("en-GB", {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  });
</script>

<template>
  <article :data-shot="shot.id" @pointerenter="look" @pointerleave="leave" @focusin="look" @focusout="leave">
    <router-link :to="`/shots/${shot.id}`" class="paper" :title="`Open ${shot.name}`">
      <span class="sr-only">Open {{ shot.name }}:</span>
      <img v-if="playing" :src="api.reelUrl(shot.id, playing)" alt="" data-reel />
      <img v-else-if="shot.print" :src="api.printUrl(shot.id, shot.print)" alt="" />
      <span v-else class="blank">no print yet</span>
      <span v-if="making" class="making" role="status" data-reel-making
        >getting it moving{{ making.total ? ` ${making.done}/${making.total}` : "…" }}</span
      >
    </router-link>
    <div class="line">
      <router-link :to="`/shots/${shot.id}`" class="name">{{ shot.name }}</router-link>
      <span class="faint">{{ when(shot.changed) }}</span>
    </div>
    <div v-if="work" class="line small work" role="status" data-work>
      <job-progress brief :job="work" :title="work.kind === 'export' ? 'Export' : 'Frames'" />
    </div>
    <div class="line small">
      <span class="quiet" data-held>{{ facts }}</span>
      <span class="acts">
        <button class="faint" title="Make a copy, which shares the frames" @click="emit('duplicate')">
          Duplicate
        </button>
        <button class="faint" title="Take it off the shelf; it can be put back" @click="emit('away')">
          Take away
        </button>
      </span>
    </div>
  </article>
</template>

<style scoped>
.paper {
  display: block;
  position: relative;
  text-decoration: none;
  border: 5px solid var(--paper);
  border-radius: 3px;
  background: #0a0c0d;
  aspect-ratio: 16 / 9;
  overflow: hidden;
}

.paper:hover {
  border-color: #f4efe4;
}

.paper img {
  display: block;
  width: 100%;
  height: 100%;
  object-fit: cover;
}

.blank {
  display: grid;
  place-items: center;
  height: 100%;
  color: var(--faint);
}

.making {
  position: absolute;
  left: 6px;
  bottom: 6px;
  padding: 1px 7px;
  border-radius: 5px;
  font-size: 11px;
  color: var(--text);
  background: rgb(16 20 22 / 72%);
}

.line {
  display: flex;
  gap: 12px;
  align-items: baseline;
  padding-top: 7px;
}

.line > .faint:last-child,
.acts {
  margin-left: auto;
}

.acts {
  display: flex;
  gap: 12px;
  flex: none;
}

.name {
  color: var(--text);
  display: inline-block;
  min-height: 24px;
  line-height: 24px;
  font-weight: 600;
  font-size: 13.5px;
  text-decoration: none;
}

.small {
  font-size: 11.5px;
  padding-top: 2px;
}

.work {
  align-items: center;
  min-width: 0;
}
</style>
