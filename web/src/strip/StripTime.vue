<script setup lang="ts">
/** The one time axis of all variations, and all of them over it as a movie. */
defineProps<{ first: number; last: number; clipping: string }>();
defineEmits<{ movie: [] }>();
const frame = defineModel<number>("frame", { required: true });
const playing = defineModel<boolean>("playing", { required: true });
</script>

<template>
  <div class="time">
    <button
      class="pill"
      :aria-label="playing ? 'Stop' : 'Play all together'"
      :title="playing ? 'Stop (Space)' : 'Play all together (Space)'"
      data-strip-play
      @click="playing = !playing"
    >
      {{ playing ? "❚❚" : "▶" }}
    </button>
    <span>{{ frame }}</span>
    <input
      v-model.number="frame"
      type="range"
      :min="first"
      :max="last"
      aria-label="Frame of all"
      data-strip-frame
    />
    <button
      class="link"
      :title="clipping ? 'Stop' : 'All of them over all frames, as one movie'"
      data-strip-movie
      @click="$emit('movie')"
    >
      {{ clipping ? `Movie: ${clipping}` : "Movie" }}
    </button>
  </div>
</template>

<style scoped>
.time {
  display: flex;
  align-items: center;
  gap: 10px;
}

.time input {
  flex: 1;
  accent-color: var(--accent, #bdd45e);
}
</style>
