<script setup lang="ts">
import { NPopselect } from "naive-ui";
import { computed } from "vue";
import type { TimelineRow } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

/** What an open row's course does before its first key and after its last. */
const props = defineProps<{ row: TimelineRow }>();
const desk = useDesk();
const catalog = useCatalog();
const options = computed(() =>
  Object.entries(catalog.catalog?.beyond ?? {}).map(([value, label]) => ({ value, label })),
);
const sides = [
  ["before", "Before"],
  ["after", "After"],
] as const;
const set = (side: "before" | "after", way: string) =>
  desk.timing.beyond(props.row.node, props.row.dial, side, way);
</script>

<template>
  <div v-if="row.beyond" class="sides">
    <n-popselect
      v-for="([side, label], n) in sides"
      :key="side"
      :value="row.beyond[n]"
      :options="options"
      size="small"
      trigger="click"
      @update:value="(way: string) => set(side, way)"
    >
      <button :title="`${label} the keys it ${catalog.catalog?.beyond[row.beyond[n]]}`" :data-beyond="side">
        <span class="faint">{{ label }}</span> {{ catalog.catalog?.beyond[row.beyond[n]] }}
      </button>
    </n-popselect>
  </div>
</template>

<style scoped>
.sides {
  display: grid;
  gap: 1px;
}

button {
  text-align: left;
  font-size: 11px;
  line-height: 1.25;
  color: var(--quiet);
}

button:hover {
  color: var(--text);
}
</style>
