<script setup lang="ts">
import { NSelect } from "naive-ui";
import { computed } from "vue";
import type { Dial } from "../../api/types";
import { useDesk } from "../../stores/desk";

/** One thing of the shot, or several. */
const props = defineProps<{
  dial: Dial;
  value: string | string[] | null;
  set: (value: unknown) => Promise<string | null>;
}>();
const desk = useDesk();
const several = computed(() => props.dial.type === "nodes");
const options = computed(() =>
  desk.nodes
    .filter((node) => node.kind === props.dial.of)
    .map((node) => ({ label: node.name, value: node.id })),
);
</script>

<template>
  <n-select
    size="small"
    class="select"
    :clearable="!several"
    :multiple="several"
    :max-tag-count="1"
    :placeholder="several ? 'none' : `choose a ${dial.of}`"
    :value="value"
    :options="options"
    :consistent-menu-width="false"
    :aria-label="dial.label"
    @update:value="set"
  />
</template>

<style scoped>
.select {
  width: 132px;
}
</style>
