<script setup lang="ts">
import { onUnmounted, ref, watch } from "vue";
import { api } from "../api/client";
import type { ShotNode } from "../api/types";
import { useDesk } from "../stores/desk";

/** How much of the liquid a kick would catch. */
const props = defineProps<{ node: ShotNode }>();
const desk = useDesk();
const caught = ref<{ caught: number; of: number } | null>(null);
let later: ReturnType<typeof setTimeout> | undefined;

async function load() {
  const { id, head } = desk.shot!;
  const answer = await api.caught(id, props.node.id).catch(() => null);
  if (desk.shot?.id === id && desk.shot.head === head) caught.value = answer;
}

watch(
  () => [desk.shot?.head, props.node.id],
  () => {
    clearTimeout(later);
    later = setTimeout(load, 400);
  },
  { immediate: true },
);
onUnmounted(() => clearTimeout(later));
</script>

<template>
  <p v-if="caught?.of" class="quiet" data-caught>
    Catches {{ ((100 * caught.caught) / caught.of).toPrecision(2) }} % of the liquid as it stands then:
    {{ caught.caught.toLocaleString("en") }} of {{ caught.of.toLocaleString("en") }} particles in draft.
  </p>
</template>

<style scoped>
p {
  margin: 0 0 8px;
}
</style>
