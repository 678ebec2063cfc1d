<script setup lang="ts">
import type { Dial } from "../../api/types";
import NumberField from "../NumberField.vue";

const props = defineProps<{
  dial: Dial;
  value: number[];
  formulas: (string | null)[];
  set: (value: unknown, part?: string) => Promise<string | null>;
  reckon?: (formula: string | null, part?: string) => Promise<string | null>;
}>();
const emit = defineEmits<{ preview: [value: number[] | undefined]; forget: [] }>();

function part(index: number, next: number | string) {
  return props.value.map((each, n) => (n === index ? next : each)) as number[];
}
</script>

<template>
  <div class="vector">
    <label v-for="(axis, index) in ['x', 'y', 'z']" :key="axis">
      <span class="axis">{{ axis }}</span>
      <number-field
        :value="value[index]"
        :low="dial.slider?.[0] ?? 0"
        :high="dial.slider?.[1] ?? 1"
        :range="dial.range"
        :label="`${dial.label} ${axis}`"
        :formula="formulas[index]"
        :reckon="(formula) => reckon!(formula, axis)"
        :set="(next) => set(part(index, next), axis)"
        @preview="emit('preview', $event === undefined ? undefined : part(index, $event))"
        @forget="emit('forget')"
      />
    </label>
    <span class="unit">{{ dial.unit }}</span>
  </div>
</template>

<style scoped>
.vector {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 1px 0 3px;
}

.vector label {
  display: flex;
  align-items: center;
  gap: 3px;
  background: var(--panel);
  border-radius: 6px;
  padding: 0 3px 0 6px;
  flex: 1;
  justify-content: space-between;
}

.axis,
.unit {
  color: var(--faint);
  font-size: 11.5px;
}
</style>
