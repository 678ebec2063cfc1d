<script setup lang="ts">
import { onMounted, ref } from "vue";
import { api } from "../../api/client";
import type { Dial } from "../../api/types";
import { useDesk } from "../../stores/desk";
import PickOne from "./PickOne.vue";

/** Another shot from the shelf. */
defineProps<{
  dial: Dial;
  value: string | null;
  set: (value: unknown) => Promise<string | null>;
}>();
const desk = useDesk();
const shots = ref<{ value: string; label: string }[]>([]);

onMounted(async () => {
  const answer = await api.shots().catch(() => null);
  shots.value = (answer?.shots ?? [])
    .filter((shot) => shot.id !== desk.shot?.id)
    .map((shot) => ({ value: shot.id, label: shot.name }));
});
</script>

<template>
  <pick-one :dial="dial" :value="value" :options="shots" none="choose a shot" :set="set" />
</template>
