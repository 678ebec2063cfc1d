<script setup lang="ts">
import { NPopselect } from "naive-ui";
import { computed } from "vue";
import { plain } from "../lib/numbers";
import { useDesk } from "../stores/desk";
import { useTimes } from "../stores/times";
import FrameNow from "./FrameNow.vue";
import TimeTools from "./TimeTools.vue";

/** Play, the frame, what the shot covers, and what the ruler's marks mean. */
defineProps<{ choices: { label: string; value: string }[] }>();
const chosen = defineModel<string[]>("chosen", { required: true });
const desk = useDesk();
const times = useTimes();
const paces = [0.25, 0.5, 1, 2, 4].map((value) => ({
  value,
  label: value === 1 ? "at its rate" : `${value} times as fast`,
}));
const filters = [
  { value: "keys", label: "only rows with keys" },
  { value: "picked", label: "only what is picked" },
];
/** Where a run that was cut off goes on. */
const resumedAt = computed(() =>
  desk.running?.resumed ? desk.frames?.rows.find((row) => row.state !== "fresh")?.frame : undefined,
);
</script>

<template>
  <div class="bar">
    <header>
      <button
        class="play"
        :aria-label="desk.playing ? 'Stop' : 'Play'"
        :title="desk.playing ? 'Stop (Space)' : 'Play (Space)'"
        data-play
        @click="desk.playing = !desk.playing"
      >
        <svg width="14" height="14" viewBox="0 0 14 14">
          <path v-if="desk.playing" d="M2 1h3.4v12H2zM8.6 1H12v12H8.600z" />
          <path v-else d="M2 .8 13 7 2 13.200z" />
        </svg>
      </button>
      <strong class="live" data-frame><frame-now /></strong>
      <button
        class="quiet settings live"
        :aria-expanded="desk.settings"
        title="Frames, rate and seed of the shot"
        data-settings
        @click="desk.settings = !desk.settings"
      >
        <frame-now seconds /> s · frames {{ desk.first }}–{{ desk.last }} · {{ plain(desk.rate) }} fps
      </button>
      <n-popselect v-model:value="times.pace" :options="paces" trigger="click" size="small">
        <button class="quiet live" title="How fast it plays" data-pace>× {{ times.pace }}</button>
      </n-popselect>
      <button
        v-if="times.loop"
        class="link"
        title="Plays the whole shot again"
        data-whole
        @click="times.loop = null"
      >
        {{ times.loop.from }}–{{ times.loop.to }} only ×
      </button>
      <time-tools class="tools" />
      <span v-if="!times.places.length" class="filter">
        <input
          v-model="times.words"
          placeholder="Filter rows"
          aria-label="Filter the timeline's rows by name"
          data-row-filter
          @keydown.esc.stop="times.words = ''"
        />
        <n-popselect v-model:value="times.only" multiple :options="filters" trigger="click" size="small">
          <button class="link" title="Which rows are shown" data-rows-only>Rows</button>
        </n-popselect>
      </span>
      <n-popselect
        v-if="!times.places.length"
        v-model:value="chosen"
        multiple
        :options="choices"
        trigger="click"
        size="small"
      >
        <button class="curves link" title="Curves of what each frame came to" data-curves>Curves</button>
      </n-popselect>
      <span v-if="resumedAt" class="quiet" role="status" data-resumed
        >cut off by a stop, taken up again at frame {{ resumedAt }}</span
      >
      <span v-if="!times.places.length" class="legend"
        ><template v-if="desk.running"><i class="working" /> being made</template> <i class="fresh" /> up to
        date <i class="stale" /> from before a change</span
      >
    </header>
  </div>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  white-space: nowrap;
  gap: 12px;
  padding: 9px 14px 4px;
}

.play svg {
  display: block;
  fill: var(--quiet);
}

.play:hover svg {
  fill: var(--text);
}

strong {
  font-size: 15px;
  min-width: 26px;
}

.tools {
  margin-left: auto;
}

.filter {
  display: flex;
  gap: 8px;
}

.filter input {
  width: 84px;
  font: inherit;
  font-size: 11.5px;
  color: inherit;
  background: var(--surround);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 1px 7px;
}

.legend {
  white-space: nowrap;
  color: var(--faint);
  font-size: 11.5px;
}

.legend i {
  display: inline-block;
  width: 14px;
  height: 3px;
  border-radius: 2px;
  margin: 0 4px 2px 10px;
}

.fresh {
  background: var(--paper);
}

.stale {
  background: repeating-linear-gradient(115deg, var(--quiet) 0 2px, transparent 2px 5px);
}

/* Hollow, so that it is told apart by its shape. */
.working {
  box-shadow: inset 0 0 0 1px var(--quiet);
}

.legend .working {
  height: 6px;
  border-radius: 3px;
}

/* What the marks mean is told where there is room for it. */
.bar {
  container-type: inline-size;
}

@container (max-width: 1080px) {
  .legend {
    display: none;
  }
}

@container (max-width: 760px) {
  .filter input,
  .curves {
    display: none;
  }
}

.settings {
  overflow: hidden;
  text-overflow: ellipsis;
}

.settings:hover {
  color: var(--text);
}
</style>
