<script setup lang="ts">
import { computed, ref } from "vue";
import { api } from "../api/client";
import type { ShotNode } from "../api/types";
import JobProgress from "../lib/JobProgress.vue";
import { useDesk } from "../stores/desk";

/** Finds spots in a layer's picture by themselves, from the frame that is looked at. */
const props = defineProps<{ node: ShotNode }>();
const desk = useDesk();
const job = computed(() => desk.active.find((one) => one.kind === "spots"));
const count = ref(24);

async function find() {
  if (desk.shot)
    await desk.attempt(() =>
      api.findSpots(desk.shot!.id, props.node.id, desk.frame, Math.round(count.value)),
    );
}
</script>

<template>
  <div class="acts">
    <template v-if="job">
      <job-progress :job="job" />
      <button class="link" title="Stop here; nothing of it is kept" @click="api.cancel(job.id)">Stop</button>
    </template>
    <template v-else>
      <button
        class="link"
        :title="`Finds corners and specks at frame ${desk.frame} and follows them over the shot; a mask that counts for tracking keeps them away from what passes by`"
        data-find-spots
        @click="find"
      >
        Find spots
      </button>
      <label class="faint">
        up to <input v-model.number="count" type="number" min="1" max="200" title="At most so many" />
      </label>
    </template>
  </div>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  align-items: center;
  margin: 2px 0 6px;
}

input {
  width: 56px;
  height: 24px;
  padding: 0 6px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--field, transparent);
  color: inherit;
}
</style>
