<script setup lang="ts">
import { computed } from "vue";
import type { Dial, ShotNode } from "../../api/types";
import { useCatalog } from "../../stores/catalog";
import { useDesk } from "../../stores/desk";
import PickedList from "./PickedList.vue";

/** Pieces of a prop that breaks, picked in the view. */
const props = defineProps<{
  dial: Dial;
  node: ShotNode;
  value: number[];
  set: (value: unknown) => Promise<string | null>;
}>();
const desk = useDesk();
const catalog = useCatalog();
const words = computed(() => props.value.map((n) => `piece ${n + 1}`));

/** Pieces can be seen from the frame on which it breaks. */
function begin() {
  const from = catalog.read(props.node, "break_frame") as number;
  if (desk.frame < from) desk.go(from);
}
</script>

<template>
  <PickedList
    :dial="dial"
    :node="node"
    :prop="node.id"
    what="pieces"
    hint="Click pieces, or drag a box… done"
    :words="words"
    :count="value.length"
    @begin="begin"
    @drop="(n: number) => set(value.filter((_, k) => k !== n))"
    @clear="set([])"
  />
</template>
