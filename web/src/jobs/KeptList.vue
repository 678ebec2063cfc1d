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

async function handOn() {
  const answer = await attempt(() => past.export(picked.value, "vdb"));
  if (!answer) return;
  done(`${answer.jobs.length === 1 ? "One is" : `${answer.jobs.length} are`} being written as OpenVDB.`);
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
      A run is kept from the desk's list of runs, or from a test strip; a sculpt of any shot can begin with
      it.
    </p>
    <label v-for="cache in caches" :key="cache.digest" class="part" :data-cache="cache.digest">
      <input v-model="picked" type="checkbox" :value="cache.digest" :aria-label="cache.name" />
      <span>{{ cache.name }}</span>
      <span class="quiet">frames {{ cache.first }} to {{ cache.last }}, {{ cache.quality }}</span>
      <span class="space" />
      <button class="link" title="Its frames make room when room is needed" @click.prevent="letGo(cache)">
        Let go
      </button>
    </label>
    <button
      v-if="caches.length"
      class="link"
      :disabled="!picked.length"
      title="Those that are ticked, each in a folder of its own"
      data-hand-on
      @click="handOn"
    >
      Hand {{ picked.length || "those ticked" }} on as OpenVDB
    </button>
  </section>
</template>

<style scoped src="./work.css"></style>
