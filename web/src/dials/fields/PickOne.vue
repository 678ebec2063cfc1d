<script setup lang="ts">
import { NSelect } from "naive-ui";
import type { Dial } from "../../api/types";

/** One of several that are known by their names. */
defineProps<{
  dial: Dial;
  value: string | null;
  options: { value: string; label: string }[];
  /** What is said while none is chosen. */
  none: string;
  set: (value: unknown) => Promise<string | null>;
}>();
</script>

<template>
  <n-select
    class="pick"
    size="small"
    filterable
    clearable
    :value="value"
    :options="options"
    :placeholder="none"
    :aria-label="dial.label"
    :input-props="{ 'aria-label': dial.label }"
    @update:value="set($event)"
  />
</template>

<style scoped>
.pick {
  width: 150px;
}
</style>
