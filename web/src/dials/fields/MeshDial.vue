<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { api, checkSize } from "../../api/client";
import type { Dial, Mesh } from "../../api/types";
import { useCatalog } from "../../stores/catalog";
import { useDesk } from "../../stores/desk";

/** A file that was brought: a mesh, a picture, a drawing, a volume, a plate or a table. */
const props = defineProps<{
  dial: Dial;
  value: string | null;
  set: (value: unknown) => Promise<string | null>;
}>();
const picture = computed(() => props.dial.type === "picture");
/** How each type is listed, brought, and which files it takes. */
const ways = {
  mesh: { list: api.meshes, bring: (files: File[]) => api.bringMeshes(files, rate()) },
  picture: {
    list: api.pictures,
    bring: ([file]: File[]) => api.bringPicture(file),
    endings: ".png,.jpg,.jpeg,.tif,.tiff,.exr,.hdr",
  },
  volume: { list: api.volumes, bring: ([file]: File[]) => api.bringVolume(file), endings: ".vdb" },
  plate: { list: api.plates, bring: (files: File[]) => api.bringPlate(files) },
  table: { list: api.tables, bring: ([file]: File[]) => api.bringTable(file), endings: ".cube" },
  drawing: { list: api.drawings, bring: ([file]: File[]) => api.bringDrawing(file), endings: ".svg" },
} as const;
const way = computed(() => ways[props.dial.type as keyof typeof ways]);
const desk = useDesk();
const catalog = useCatalog();
const meshes = ref<Mesh[]>([]);
const reading = ref(false);
const input = ref<HTMLInputElement | null>(null);
const mesh = computed(() => meshes.value.find((candidate) => candidate.digest === props.value));
const endings = computed(() => {
  if ("endings" in way.value) return way.value.endings;
  if (props.dial.type === "plate") return (catalog.catalog?.plates ?? []).join(",");
  return [...(catalog.catalog?.meshes ?? []), ".mtl", ".bin"].join(",");
});

const facts = computed(() => {
  const found = mesh.value?.facts;
  if (!found) return "";
  if (props.dial.type === "drawing") return `${found.outlines} outlines of ${found.points} points`;
  if (props.dial.type === "volume") {
    const left = found.left_out?.length ? `; left out: ${found.left_out.join(", ")}` : "";
    return `${found.size?.join(" × ")} voxels of ${found.voxel} m, values ${found.range?.join(" to ")}${left}`;
  }
  if (props.dial.type === "table")
    return `${found.size} colours ${found.flat ? "in a row" : "along each edge"}`;
  if (props.dial.type === "plate") {
    const left = found.left_out?.length ? `; ${found.left_out.join(" ")}` : "";
    const rate = found.rate ? ` at ${found.rate} a second` : "";
    return `${found.frames} frames${rate}, ${found.width} × ${found.height} pixels${left}`;
  }
  if (picture.value) return `${found.width} × ${found.height} pixels`;
  const frames = (found.frames ?? 1) > 1 ? `, ${found.frames} frames` : "";
  return `${found.triangles} triangles${frames}${found.open_edges ? `, ${found.open_edges} open edges` : ", closed"}`;
});

const rate = () => catalog.read(desk.byId.get("general")!, "rate") as number;

onMounted(async () => {
  meshes.value = await way.value.list().catch(() => []);
});

async function bring(event: Event) {
  const files = [...((event.target as HTMLInputElement).files ?? [])];
  if (!files.length) return;
  reading.value = true;
  const brought = await desk.attempt(async () => {
    files.forEach((file) => checkSize(file, catalog.catalog?.limits.file ?? Infinity));
    return way.value.bring(files);
  });
  reading.value = false;
  if (!brought) return;
  meshes.value = [...meshes.value.filter((other) => other.digest !== brought.digest), brought];
  await props.set(brought.digest);
}
</script>

<template>
  <span class="mesh">
    <span v-if="mesh" class="name" :title="facts">{{ mesh.name }}</span>
    <button class="link" title="From this machine" @click="input?.click()">
      {{ reading ? "reading…" : "Bring a file" }}
    </button>
    <input
      ref="input"
      type="file"
      :multiple="['mesh', 'plate'].includes(dial.type)"
      class="sr-only"
      tabindex="-1"
      :accept="endings"
      :aria-label="dial.label"
      @change="bring"
    />
  </span>
</template>

<style scoped>
.mesh {
  align-items: center;
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
