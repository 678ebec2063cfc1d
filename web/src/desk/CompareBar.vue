<script setup lang="ts">
import { computed } from "vue";
import WipeLine from "../lib/WipeLine.vue";
import { usePast, WAYS } from "../stores/past";

/** How two runs are laid against each other in the view, and where the line between them stands. */
defineProps<{ painted: string }>();
const story = usePast();
const nameOf = (number: number | null) => (number === null ? "as it stands" : `R${number}`);
const names = computed(() => [nameOf(story.pair?.one ?? null), nameOf(story.pair?.other ?? null)]);
</script>

<template>
  <wipe-line
    v-if="story.against === 'wipe'"
    v-model="story.line"
    label="Where one run ends and the other begins"
    data-run-line
  />
  <div class="bar" role="group" aria-label="Two runs together" data-compare :data-painted="painted">
    <b>{{ names[0] }}</b> <span class="faint">{{ story.against === "wipe" ? "|" : "and" }}</span>
    <b>{{ names[1] }}</b>
    <button
      v-for="[way, label, help] in WAYS"
      :key="way"
      class="way"
      :class="{ on: story.against === way }"
      :aria-pressed="story.against === way"
      :title="help"
      :data-against="way"
      @click="story.against = way"
    >
      {{ label }}
    </button>
    <button class="link" title="Back to the shot alone (Esc)" data-compare-end @click="story.stop()">
      Done
    </button>
  </div>
</template>

<style scoped>
.bar {
  position: absolute;
  left: 50%;
  transform: translateX(-50%);
  bottom: 44px;
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 4px 12px;
  border: 1px solid var(--line);
  border-radius: 999px;
  background: rgb(19 23 26 / 92%);
  white-space: nowrap;
}

.way {
  height: 24px;
  padding: 0 9px;
  border: 1px solid transparent;
  border-radius: 999px;
  color: var(--quiet);
}

.way.on {
  color: var(--text);
  background: var(--card);
  border-color: var(--line);
}
</style>
