<script setup lang="ts">
import { api } from "../api/client";
import DeskDialog from "../lib/DeskDialog.vue";
import { useDesk } from "../stores/desk";

/** Several frames side by side, as they were printed. */
defineProps<{ name: string }>();
const emit = defineEmits<{ close: [] }>();
const desk = useDesk();
</script>

<template>
  <desk-dialog label="Contact sheet" width="auto" data-sheet @close="emit('close')">
    <figure>
      <img :src="api.sheetUrl(desk.shot!.id, name)" alt="Contact sheet" />
      <figcaption>
        <span>Under each picture: frame, how much of it is nearly white, how much nearly black.</span>
        <a class="link" :href="api.sheetUrl(desk.shot!.id, name)" :download="`${desk.shot!.id}-sheet.png`"
          >Keep it</a
        >
        <button class="link" title="Esc" @click="emit('close')">Close</button>
      </figcaption>
    </figure>
  </desk-dialog>
</template>

<style scoped>
figure {
  margin: 0;
}

img {
  display: block;
  max-width: 92vw;
  max-height: 84vh;
}

figcaption {
  display: flex;
  gap: 16px;
  justify-content: space-between;
  padding: 8px 2px;
  color: var(--quiet);
}
</style>
