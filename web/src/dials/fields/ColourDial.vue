<script setup lang="ts">
import { NColorPicker } from "naive-ui";
import type { Dial } from "../../api/types";
import { hexOf, linearOf } from "../../lib/numbers";

defineProps<{ dial: Dial; value: number[]; set: (value: unknown) => Promise<string | null> }>();
const emit = defineEmits<{ preview: [value: number[] | undefined] }>();
</script>

<template>
  <n-color-picker
    size="small"
    :show-alpha="false"
    :modes="['hex']"
    :value="hexOf(value)"
    :aria-label="dial.label"
    @update:value="emit('preview', linearOf($event))"
    @complete="set(linearOf($event))"
  />
</template>
