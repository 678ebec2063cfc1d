<script setup lang="ts">
import { computed } from "vue";
import type { Dial, ShotNode } from "../../api/types";
import { plain } from "../../lib/numbers";
import { ANYWHERE } from "../../stores/desk";
import PickedList from "./PickedList.vue";

/** Places on a prop, or faces of it by their middles, picked in the view. */
const props = defineProps<{
  dial: Dial;
  node: ShotNode;
  value: number[][];
  set: (value: unknown) => Promise<string | null>;
}>();
const faces = computed(() => props.dial.of === "faces");
const anywhere = computed(() => props.dial.of === "anywhere");
const prop = computed(() =>
  anywhere.value ? ANYWHERE : ((props.node.dials.prop as string | undefined) ?? null),
);
const hint = computed(() =>
  faces.value
    ? "Click faces, or drag a box… done"
    : anywhere.value
      ? "Click one place after the other, or draw… done"
      : "Click on the prop… done",
);
/** Of many faces a number says more than all their places. */
const words = computed(() => (faces.value ? [] : props.value.map((place) => place.map(plain).join(", "))));
</script>

<template>
  <PickedList
    :dial="dial"
    :node="node"
    :prop="prop"
    :what="faces ? 'faces' : 'places'"
    :hint="hint"
    :words="words"
    :count="value.length"
    @drop="(n: number) => set(value.filter((_, k) => k !== n))"
    @clear="set([])"
  />
</template>
