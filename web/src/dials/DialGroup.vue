<script setup lang="ts">
import type { Dial, ShotNode } from "../api/types";
import DialRow from "./DialRow.vue";

/** Dials of a node that belong together. */
const props = defineProps<{ label: string; node: ShotNode; dials: Dial[] }>();

/** Types of dials whose rows show nothing of other dials. */
const ALONE = ["number", "whole", "vector", "switch", "colour"];
/** What a dial's row goes by: where another one is turned, most of a long card stays as it is. */
function goesBy(dial: Dial): unknown[] {
  const { node } = props;
  if (!ALONE.includes(dial.type) || dial.units || dial.driven) return [dial, node];
  return [dial, node.id, node.dials[dial.name], node.keys[dial.name], node.formulas?.[dial.name]];
}
</script>

<template>
  <div class="group">
    <h4 v-if="label">{{ label }}</h4>
    <dial-row v-for="dial in dials" :key="dial.name" v-memo="goesBy(dial)" :node="node" :dial="dial" />
  </div>
</template>

<style scoped>
h4 {
  margin: 8px 0 3px;
  font-size: 11.5px;
  font-weight: 500;
  color: var(--faint);
}
</style>
