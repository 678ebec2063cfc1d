<script setup lang="ts">
import { computed } from "vue";
import type { Starter } from "../api/types";
import { duration } from "../lib/numbers";

/** One thing that a shot may begin with: what it looks like, and what it takes. */
const props = defineProps<{ starter: Starter }>();
const chosen = defineModel<string>({ required: true });

const costs = computed(() => {
  const { costs } = props.starter;
  if (!costs) return "nothing to run yet";
  const voxels = `${(costs.full.cells / 1e6).toFixed(1)} M voxels`;
  return `draft ${duration(costs.draft.seconds)} · full ${duration(costs.full.seconds)}, ${voxels}`;
});
const guess = computed(() =>
  props.starter.costs?.draft.measured
    ? "As this machine has been so far"
    : "A guess, until something was run on this machine",
);
</script>

<template>
  <label class="starter" :class="{ on: chosen === starter.name }" :data-starter="starter.name">
    <picture v-if="starter.name !== 'empty'">
      <source :srcset="`/starters/${starter.name}-still.webp`" media="(prefers-reduced-motion: reduce)" />
      <img :src="`/starters/${starter.name}.webp`" width="270" height="152" alt="" />
    </picture>
    <span v-else class="blank" aria-hidden="true" />
    <span class="name">
      <input v-model="chosen" type="radio" name="starter" :value="starter.name" />
      <b>{{ starter.name }}</b>
    </span>
    <span class="quiet">{{ starter.help }}</span>
    <span class="faint cost" :title="guess">{{ costs }}</span>
  </label>
</template>

<style scoped>
.starter {
  display: grid;
  grid-template-rows: auto auto 1fr auto;
  gap: 3px;
  padding: 6px 6px 9px;
  border: 1px solid var(--line);
  border-radius: 10px;
  cursor: pointer;
  min-width: 0;
}

.starter.on {
  border-color: var(--accent);
  box-shadow: inset 0 0 0 1px var(--accent);
}

.starter > span {
  padding: 0 5px;
}

img,
.blank {
  display: block;
  width: 100%;
  height: auto;
  aspect-ratio: 16 / 9;
  border-radius: 6px;
  background: linear-gradient(#3d4a54, #59636a 58%, #3a3731 58%, #24221f);
}

.name {
  display: flex;
  gap: 7px;
  align-items: center;
}

input {
  accent-color: var(--accent);
  margin: 0;
}

b {
  font-weight: 600;
  text-transform: capitalize;
}

.cost {
  font-size: 11px;
}
</style>
