<script setup lang="ts">
import type { Dial } from "../../api/types";
import NumberField from "../NumberField.vue";

defineProps<{
  dial: Dial;
  value: number;
  formulas: (string | null)[];
  set: (value: unknown) => Promise<string | null>;
  reckon?: (formula: string | null) => Promise<string | null>;
}>();
const emit = defineEmits<{ preview: [value: number | undefined]; forget: [] }>();
</script>

<template>
  <number-field
    :value="value"
    :low="dial.slider?.[0] ?? 0"
    :high="dial.slider?.[1] ?? 1"
    :range="dial.range"
    :whole="dial.type === 'whole'"
    :label="dial.label"
    :formula="formulas[0]"
    :reckon="reckon"
    :set="set"
    @preview="emit('preview', $event)"
    @forget="emit('forget')"
  />
</template>
