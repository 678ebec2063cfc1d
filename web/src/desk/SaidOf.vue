<script setup lang="ts">
import { ref, watch } from "vue";

/** A name and a note of one's own, kept as they are left. */
const props = defineProps<{ name: string; note: string; what: string }>();
const emit = defineEmits<{ said: [said: { name?: string; note?: string }] }>();
const name = ref(props.name);
const note = ref(props.note);
watch(
  () => [props.name, props.note],
  ([first, second]) => ([name.value, note.value] = [first, second]),
);
</script>

<template>
  <div class="said">
    <input
      v-model="name"
      :aria-label="`Name of ${what}`"
      placeholder="name"
      maxlength="80"
      data-said-name
      @keydown.enter.prevent="($event.target as HTMLElement).blur()"
      @keydown.stop
      @blur="name.trim() !== props.name && emit('said', { name: name.trim() })"
    />
    <textarea
      v-model="note"
      :aria-label="`Note on ${what}`"
      placeholder="note"
      rows="2"
      maxlength="2000"
      data-said-note
      @keydown.stop
      @blur="note.trim() !== props.note && emit('said', { note: note.trim() })"
    />
  </div>
</template>

<style scoped>
.said {
  display: grid;
  gap: 6px;
  margin: 8px 0;
}

input,
textarea {
  font: inherit;
  color: inherit;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 7px;
  padding: 5px 8px;
  resize: vertical;
}
</style>
