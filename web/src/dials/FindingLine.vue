<script setup lang="ts">
import type { Finding } from "../api/types";
import { useDesk } from "../stores/desk";

/** What preflight found, with what mends it. */
defineProps<{ finding: Finding }>();
const desk = useDesk();
</script>

<template>
  <p class="finding" role="note" :data-finding="finding.code">
    {{ finding.text }}
    <button
      v-if="finding.remedy"
      class="link"
      title="Do this; it can be undone"
      data-remedy
      @click="desk.edit(finding.remedy.edits)"
    >
      {{ finding.remedy.label }}
    </button>
  </p>
</template>

<style scoped>
.finding {
  margin: 3px 0 6px;
  padding: 5px 8px;
  border-left: 2px solid var(--warning);
  border-radius: 0 6px 6px 0;
  background: rgb(255 210 119 / 8%);
  color: var(--warning);
  font-size: 11.5px;
  overflow-wrap: anywhere;
}
</style>
