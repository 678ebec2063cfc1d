<script setup lang="ts">
import { computed } from "vue";
import type { Job } from "../api/types";
import { duration } from "./numbers";

/** How far a job is: a bar, frames, and the time left. */
const props = defineProps<{ job: Job; title?: string; brief?: boolean }>();
const part = computed(() => (props.job.total ? (100 * props.job.done) / props.job.total : 0));
const state = computed(() => {
  const { job } = props;
  if (job.held) return "held back on the page of all work";
  if (job.state === "queued") return job.done ? `waits at ${job.done} of ${job.total}` : "waiting";
  return job.total ? `${job.done} of ${job.total}` : "starting";
});
</script>

<template>
  <span v-if="title">{{ title }}</span>
  <span
    class="bar"
    role="progressbar"
    :aria-label="title ?? 'Progress'"
    :aria-valuenow="Math.round(part)"
    aria-valuemin="0"
    aria-valuemax="100"
    ><span :style="{ width: `${part}%` }"
  /></span>
  <span class="quiet words">
    {{ state }}<template v-if="job.resumed && !brief"> · taken up again</template
    ><template v-if="job.left !== null"> · {{ duration(job.left) }} left</template
    ><template v-if="job.note && !brief"> · {{ job.note }}</template>
  </span>
</template>

<style scoped>
.bar {
  flex: 1 1 40px;
  max-width: 150px;
  height: 4px;
  border-radius: 2px;
  background: var(--track);
  overflow: hidden;
}

.bar span {
  display: block;
  height: 100%;
  background: var(--accent);
}

.words {
  flex: 0 1 auto;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
