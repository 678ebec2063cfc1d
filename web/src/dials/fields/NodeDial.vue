<script setup lang="ts">
import { NSelect } from "naive-ui";
import { computed } from "vue";
import type { Dial } from "../../api/types";
import { widthOf } from "../../lib/numbers";
import { useDesk } from "../../stores/desk";

/** One thing of the shot, or several. */
const props = defineProps<{
  dial: Dial;
  value: string | string[] | null;
  set: (value: unknown) => Promise<string | null>;
}>();
const desk = useDesk();
const several = computed(() => props.dial.type === "nodes");
const empty = computed(() => (several.value ? "none" : `choose a ${[props.dial.of].flat()[0]}`));
const words = computed(() => {
  const chosen = [props.value ?? []].flat().map((id) => desk.byId.get(id)?.name ?? "");
  return `${chosen[0] ?? empty.value}${chosen.length > 1 ? " + some" : ""}${several.value ? "   " : ""}`;
});
const options = computed(() =>
  desk.nodes
    .filter((node) => [props.dial.of].flat().includes(node.kind))
    .map((node) => ({ label: node.name, value: node.id })),
);
</script>

<template>
  <n-select
    size="small"
    :style="{ width: widthOf(words) }"
    :clearable="!several"
    :multiple="several"
    :max-tag-count="1"
    :placeholder="empty"
    :value="value"
    :options="options"
    :consistent-menu-width="false"
    :aria-label="dial.label"
    @update:value="set"
  />
</template>
