<script setup lang="ts">
import { NSelect } from "naive-ui";
import { onMounted, ref } from "vue";
import { api } from "../../api/client";
import type { Dial } from "../../api/types";
import { useDesk } from "../../stores/desk";

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
  <n-select
    class="shot"
    size="small"
    filterable
    clearable
    :value="value"
    :options="shots"
    placeholder="choose a shot"
    :aria-label="dial.label"
    :input-props="{ 'aria-label': dial.label }"
    @update:value="set($event)"
  />
</template>

<style scoped>
.shot {
  width: 150px;
}
</style>
