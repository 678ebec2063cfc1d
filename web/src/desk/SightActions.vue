<script setup lang="ts">
import { computed, ref } from "vue";
import { api } from "../api/client";
import JobProgress from "../lib/JobProgress.vue";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

/** Takes the camera from spots that were followed in a plate. */
const desk = useDesk();
const catalog = useCatalog();
const job = computed(() => desk.active.find((one) => one.kind === "sighting"));
const followed = computed(() =>
  desk.nodes.filter((node) => node.kind === "track" && (node.keys.x?.length ?? 0) > 1),
);
const known = computed(
  () =>
    followed.value.filter((node) => catalog.read(node, "prop") || catalog.read(node, "known") === true)
      .length,
);
const zooms = ref(false);

async function take(how: "free" | "tripod") {
  if (desk.shot) await desk.attempt(() => api.sight(desk.shot!.id, desk.frame, how, zooms.value));
}
</script>

<template>
  <div v-if="followed.length" class="acts">
    <template v-if="job">
      <job-progress :job="job" />
      <button class="link" title="Stop here; nothing of it is kept" @click="api.cancel(job.id)">Stop</button>
    </template>
    <template v-else>
      <span class="faint">From {{ followed.length }} followed spots:</span>
      <button
        class="link"
        :disabled="followed.length < 2"
        :title="`It stays where it is and turns so that the spots go with it; at frame ${desk.frame} it stays as it is`"
        data-sight="tripod"
        @click="take('tripod')"
      >
        Turn it on a tripod
      </button>
      <button
        class="link"
        :disabled="known < 3"
        :title="`It goes to where ${known} spots whose places are known are seen as in the plate; three are needed, six are better`"
        data-sight="free"
        @click="take('free')"
      >
        Move it freely
      </button>
      <label class="faint" title="Its focal length is sought too">
        <input v-model="zooms" type="checkbox" data-sight-zooms /> it zooms
      </label>
    </template>
  </div>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  margin: 2px 0 6px;
}

.acts > span {
  flex-basis: 100%;
}

input {
  vertical-align: -2px;
}
</style>
