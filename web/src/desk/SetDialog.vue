<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { past } from "../api/past";
import type { Difference } from "../api/types";
import DeskDialog from "../lib/DeskDialog.vue";
import { useDesk } from "../stores/desk";

/** All that is not as it comes, in the whole shot. */
const emit = defineEmits<{ close: []; open: [node: string, dial?: string] }>();
const desk = useDesk();
const rows = ref<Difference[]>([]);
const things = computed(() => {
  const found = new Map<string, Difference[]>();
  for (const row of rows.value) found.set(row.node, [...(found.get(row.node) ?? []), row]);
  return [...found];
});

onMounted(async () => {
  if (desk.shot) rows.value = (await desk.attempt(() => past.set(desk.shot!.id))) ?? [];
});
</script>

<template>
  <desk-dialog label="What is set" width="720px" data-set-dialog @close="emit('close')">
    <h3>What is set in {{ desk.shot?.name }}</h3>
    <div class="things">
      <section v-for="[node, all] in things" :key="node">
        <h4>{{ all[0].name }}</h4>
        <button
          v-for="row in all"
          :key="row.dial ?? row.text"
          class="row"
          title="Go to it"
          @click="emit('open', node, row.dial)"
        >
          <template v-if="row.label">
            <span>{{ row.label }}</span>
            <span>{{ row.after }}</span>
            <span class="faint">{{ row.before }}</span>
          </template>
          <span v-else>{{ row.text }}</span>
        </button>
      </section>
    </div>
    <button class="pill" title="Esc" @click="emit('close')">Close</button>
  </desk-dialog>
</template>

<style scoped>
h3 {
  margin: 0 0 10px;
}

h4 {
  margin: 10px 0 2px;
}

.things {
  columns: 2;
  column-gap: 28px;
  margin-bottom: 14px;
}

section {
  break-inside: avoid;
}

.row {
  display: grid;
  grid-template-columns: 1.1fr 1fr 0.8fr;
  gap: 10px;
  width: 100%;
  padding: 2px 6px;
  text-align: left;
  border-radius: 6px;
}

.row:hover {
  background: var(--track);
}

.row span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
