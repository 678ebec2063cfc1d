<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { api, checkSize } from "../api/client";
import type { Mesh } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

/** A file that was brought: a mesh, or a picture that a source takes its strength from. */
const props = defineProps<{ value: string | null; label: string; picture?: boolean }>();
const emit = defineEmits<{ commit: [value: string] }>();
const desk = useDesk();
const catalog = useCatalog();
const meshes = ref<Mesh[]>([]);
const reading = ref(false);
const input = ref<HTMLInputElement | null>(null);
const mesh = computed(() => meshes.value.find((candidate) => candidate.digest === props.value));
const endings = computed(() =>
  props.picture ? ".png,.jpg,.jpeg,.tif,.tiff" : (catalog.catalog?.meshes.join(",") ?? ""),
);

const facts = computed(() => {
  const found = mesh.value?.facts;
  if (!found) return "";
  if (props.picture) return `${found.width} × ${found.height} pixels`;
  return `${found.triangles} triangles${found.open_edges ? `, ${found.open_edges} open edges` : ", closed"}`;
});

onMounted(async () => {
  meshes.value = await (props.picture ? api.pictures() : api.meshes()).catch(() => []);
});

async function bring(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (!file) return;
  reading.value = true;
  const brought = await desk.attempt(async () => {
    checkSize(file, catalog.catalog?.limits.file ?? Infinity);
    return props.picture ? api.bringPicture(file) : api.bringMesh(file);
  });
  reading.value = false;
  if (!brought) return;
  meshes.value = [...meshes.value.filter((other) => other.digest !== brought.digest), brought];
  emit("commit", brought.digest);
}
</script>

<template>
  <span class="mesh">
    <span v-if="mesh" class="name" :title="facts">{{ mesh.name }}</span>
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
