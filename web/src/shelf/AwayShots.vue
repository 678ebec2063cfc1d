<script setup lang="ts">
import { ref } from "vue";
import type { AwayRow } from "../api/types";
import DeskDialog from "../lib/DeskDialog.vue";

/** What was taken off the shelf: it can be put back, or let go for good. */
defineProps<{ shots: AwayRow[] }>();
const emit = defineEmits<{ close: []; back: [id: string]; go: [id: string] }>();
const doomed = ref<string | null>(null);
const DAYS = 30;
const left = (shot: AwayRow) => Math.max(Math.ceil(DAYS - (Date.now() / 1000 - shot.away_at) / 86400), 0);

function go(id: string) {
  doomed.value = null;
  emit("go", id);
}
</script>

<template>
  <desk-dialog label="Taken away" width="560px" @close="emit('close')">
    <h2>Taken away</h2>
    <p class="quiet">Shots stay here for {{ DAYS }} days with all their frames and prints.</p>
    <p v-if="!shots.length" class="quiet">Nothing is left here.</p>
    <div v-for="shot in shots" :key="shot.id" class="row" :data-away="shot.id">
      <template v-if="doomed === shot.id">
        <span>End {{ shot.name }} with its frames, prints and exports?</span>
        <button class="link" title="Leave it here" @click="doomed = null">Keep it</button>
        <button class="link" title="There is no way back" @click="go(shot.id)">Let it go</button>
      </template>
      <template v-else>
        <b>{{ shot.name }}</b>
        <span class="faint">{{ left(shot) }} days left</span>
        <button class="link" title="Put it back on the shelf as it was" @click="emit('back', shot.id)">
          Put back
        </button>
        <button class="faint" title="End it now, which frees the disk; no way back" @click="doomed = shot.id">
          Let go for good
        </button>
      </template>
    </div>
    <footer><button class="pill" title="Esc" @click="emit('close')">Close</button></footer>
  </desk-dialog>
</template>

<style scoped>
h2 {
  margin: 0;
  font-size: 15px;
}

.row {
  display: flex;
  gap: 14px;
  align-items: baseline;
  padding: 6px 0;
  border-top: 1px solid var(--line);
}

.row > :first-child {
  margin-right: auto;
}

footer {
  display: flex;
  justify-content: flex-end;
  padding-top: 14px;
}
</style>
