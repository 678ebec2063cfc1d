<script setup lang="ts">
import { computed } from "vue";
import DialRow from "../dials/DialRow.vue";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

/** Frames, rate and seed of the shot, where they are read. */
const desk = useDesk();
const catalog = useCatalog();
const node = computed(() => desk.byId.get("general"));
</script>

<template>
  <div v-if="node" class="settings" data-shot-settings>
    <dial-row v-for="dial in catalog.kind('general').dials" :key="dial.name" :node="node" :dial="dial" />
  </div>
</template>

<style scoped>
.settings {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(190px, 1fr));
  gap: 0 26px;
  padding: 2px 14px 8px;
  border-bottom: 1px solid var(--line);
}
</style>
