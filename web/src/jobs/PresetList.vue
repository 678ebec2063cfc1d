<script setup lang="ts">
import { onMounted, ref } from "vue";
import { api } from "../api/client";
import type { Preset } from "../api/types";
import { useSaid } from "../lib/useSaid";

/** Presets that were kept: as files, brought in, taken away. */
const { attempt } = useSaid();
const presets = ref<Preset[]>([]);
const file = ref<HTMLInputElement | null>(null);
const list = () => attempt(async () => (presets.value = await api.presets()));

const letGo = (preset: Preset) =>
  attempt(async () => (presets.value = (await api.letPresetGo(preset.id)).presets));

async function bring() {
  const given = file.value?.files?.[0];
  if (given) await attempt(() => api.bringPreset(given));
  if (file.value) file.value.value = "";
  await list();
}
onMounted(list);
</script>

<template>
  <section aria-label="Presets" data-preset-list>
    <h2>Presets</h2>
    <p v-if="!presets.length" class="quiet">
      What is set of a thing is kept by <em>Presets</em> on its card, for things of its kind in any shot.
    </p>
    <div v-for="preset in presets" :key="preset.id" class="part" :data-preset="preset.id">
      <img v-if="preset.picture" :src="api.presetUrl(preset.id)" alt="" width="64" height="40" />
      <span>{{ preset.name }}</span>
      <span class="quiet">{{ preset.kind }}, {{ preset.dials }} set</span>
      <span class="space" />
      <a class="link" :href="`/api/presets/${preset.id}`" download title="For others">Save as a file</a>
      <button class="link" title="For good" @click="letGo(preset)">Take away</button>
    </div>
    <button class="link" title="One that was saved as a file" @click="file?.click()">
      Bring in a preset
    </button>
    <input
      ref="file"
      type="file"
      accept=".json"
      class="sr-only"
      tabindex="-1"
      aria-label="Preset file"
      @change="bring"
    />
  </section>
</template>

<style scoped src="./work.css"></style>
