<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { api } from "../api/client";
import type { Mesh } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

const props = defineProps<{ value: string | null; label: string }>();
const emit = defineEmits<{ commit: [value: string] }>();
const desk = useDesk();
const catalog = useCatalog();
const meshes = ref<Mesh[]>([]);
const reading = ref(false);
const input = ref<HTMLInputElement | null>(null);
const mesh = computed(() => meshes.value.find((candidate) => candidate.digest === props.value));
const endings = computed(() => catalog.catalog?.meshes.join(",") ?? "");

onMounted(async () => {
  meshes.value = await api.meshes().catch(() => []);
});

async function bring(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (!file) return;
  reading.value = true;
  const brought = await desk.attempt(() => api.bringMesh(file));
  reading.value = false;
  if (!brought) return;
  meshes.value = [...meshes.value.filter((other) => other.digest !== brought.digest), brought];
  emit("commit", brought.digest);
}
</script>

<template>
  <span class="mesh">
    <span
      v-if="mesh"
      class="name"
      :title="`${mesh.facts.triangles} triangles${mesh.facts.open_edges ? `, ${mesh.facts.open_edges} open edges` : ', closed'}`"
      >{{ mesh.name }}</span
    >
    <button class="link" @click="input?.click()">{{ reading ? "reading…" : "Bring a file" }}</button>
    <input
      ref="input"
      type="file"
      class="sr-only"
      tabindex="-1"
      :accept="endings"
      :aria-label="label"
      @change="bring"
    />
  </span>
</template>

<style scoped>
.mesh {
  display: flex;
  gap: 8px;
}

.name {
  max-width: 110px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  color: var(--quiet);
}
</style>
