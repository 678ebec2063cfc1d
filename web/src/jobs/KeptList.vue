<script setup lang="ts">
import { onMounted, ref } from "vue";
import { past, type Cache } from "../api/past";
import { bytes } from "../lib/numbers";
import { useSaid } from "../lib/useSaid";

/** Runs that are kept, of all shots: handed on in one go, or let go. */
const { attempt, done } = useSaid();
const caches = ref<Cache[]>([]);
const picked = ref<string[]>([]);
const list = () => attempt(async () => (caches.value = await past.caches()));
onMounted(list);

/** Gas as volumes, liquids as meshes. */
async function handOn() {
  let jobs = 0;
  for (const [what, as] of [
    ["gas", "vdb"],
    ["liquid", "ply"],
  ]) {
    const asked = caches.value.filter(
      ({ digest, holds }) => picked.value.includes(digest) && holds.includes(what),
    );
    if (!asked.length) continue;
    const answer = await attempt(() =>
      past.export(
        asked.map(({ digest }) => digest),
        as,
      ),
    );
    if (!answer) return;
    jobs += answer.jobs.length;
  }
  done(`${jobs === 1 ? "One is" : `${jobs} are`} being written, as OpenVDB or as meshes.`);
  picked.value = [];
}

async function letGo(cache: Cache) {
  const answer = await attempt(() => past.letGo(cache.digest));
  if (answer) done(`${cache.name} is kept no longer; ${bytes(answer.given)} were given back.`);
  picked.value = picked.value.filter((digest) => digest !== cache.digest);
  await list();
}
</script>

<template>
  <section aria-label="Kept runs" data-kept-list>
    <h2>Kept runs</h2>
    <p v-if="!caches.length" class="quiet">
      A run is kept from the desk's list of runs, or from a test strip; it can be placed in any shot.
    </p>
    <label v-for="cache in caches" :key="cache.digest" class="part" :data-cache="cache.digest">
      <input v-model="picked" type="checkbox" :value="cache.digest" :aria-label="cache.name" />
      <span>{{ cache.name }}</span>
      <span class="quiet"
        >frames {{ cache.first }} to {{ cache.last }}, {{ cache.quality
        }}{{ cache.holds.includes("liquid") ? ", a liquid" : "" }}</span
      >
      <span class="space" />
      <button class="link" title="Its frames make room when room is needed" @click.prevent="letGo(cache)">
        Let go
      </button>
    </label>
    <button
      v-if="caches.length"
      class="link"
      :disabled="!picked.length"
      title="Those that are ticked, each in a folder of its own: gas as OpenVDB, liquids as meshes"
      data-hand-on
      @click="handOn"
    >
      Hand {{ picked.length || "those ticked" }} on
    </button>
  </section>
</template>

<style scoped src="./work.css"></style>
