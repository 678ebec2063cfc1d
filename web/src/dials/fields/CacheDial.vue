<script setup lang="ts">
import { computed, onMounted } from "vue";
import type { Dial } from "../../api/types";
import { usePast } from "../../stores/past";
import PickOne from "./PickOne.vue";

/** A run that was kept, of this shot or of another. */
defineProps<{
  dial: Dial;
  value: string | null;
  set: (value: unknown) => Promise<string | null>;
}>();
const story = usePast();
const options = computed(() => story.caches.map(({ digest, name }) => ({ value: digest, label: name })));
onMounted(() => story.load());
</script>

<template>
  <pick-one :dial="dial" :value="value" :options="options" none="keep one under Runs first" :set="set" />
</template>
