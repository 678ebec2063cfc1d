<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted, ref } from "vue";
import { useRouter } from "vue-router";
import { api, checkSize } from "../api/client";
import type { Mesh, Starter } from "../api/types";
import DeskDialog from "../lib/DeskDialog.vue";
import { plain } from "../lib/numbers";
import { useCatalog } from "../stores/catalog";
import StarterCard from "./StarterCard.vue";

const MeshLook = defineAsyncComponent(() => import("./MeshLook.vue"));
const props = defineProps<{ files: File[] }>();
const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const catalog = useCatalog();
const name = ref("");
const starters = ref<Starter[]>([]);
const starter = ref("plume");
const mesh = ref<Mesh | null>(null);
const working = ref("");
const wrong = ref("");
const field = ref<HTMLInputElement | null>(null);
const picker = ref<HTMLInputElement | null>(null);

/** What is refused stands in the dialog. */
async function attempt(words: string, work: () => Promise<unknown>) {
  wrong.value = "";
  working.value = words;
  try {
    await work();
  } catch (error) {
    wrong.value = (error as Error).message;
  } finally {
    working.value = "";
  }
}

onMounted(() => {
  field.value?.focus();
  void attempt("", async () => {
    starters.value = (await api.starters()).starters;
  });
  if (props.files.length) void read(props.files);
});

async function read(files: File[]) {
  mesh.value = null;
  await attempt(`Reading ${files.length === 1 ? files[0].name : `${files.length} files`}…`, async () => {
    files.forEach((file) => checkSize(file, catalog.catalog?.limits.file ?? Infinity));
    mesh.value = await api.bringMeshes(files, 24);
  });
}

function bring(event: Event) {
  const input = event.target as HTMLInputElement;
  const files = [...(input.files ?? [])];
  if (files.length) void read(files).then(() => (input.value = ""));
}

const endings = computed(() => catalog.catalog?.meshes.map((ending) => ending.slice(1).toUpperCase()) ?? []);

/** The size that it has in its file, and the one that it gets. */
const size = computed(() => {
  const { low, high, triangles, open_edges: open } = mesh.value?.facts ?? {};
  if (!low || !high) return null;
  const spans = low.map((from, axis) => high[axis] - from);
  const fit = starters.value.find((one) => one.name === starter.value)?.fit ?? 1;
  const times = fit / Math.max(...spans);
  return {
    own: spans.map(plain).join(" × "),
    here: spans.map((span) => plain(span * times)).join(" × "),
    times: plain(times),
    triangles: triangles!.toLocaleString("en"),
    open,
  };
});

const make = () =>
  attempt("Making the shot…", async () => {
    const digest = mesh.value?.digest ?? null;
    const shot = await api.newShot(name.value.trim() || "Untitled shot", starter.value, digest);
    // A first draft, so that something moves at once.
    if (starter.value !== "empty") await api.run(shot.id, "draft");
    await router.push(`/shots/${shot.id}`);
  });
</script>

<template>
  <desk-dialog label="New shot" width="820px" @close="emit('close')">
    <form class="form" @submit.prevent="make">
      <h2>New shot</h2>
      <label class="row">
        <span>Name</span>
        <input
          ref="field"
          v-model="name"
          name="name"
          maxlength="80"
          placeholder="Untitled shot"
          autocomplete="off"
        />
      </label>
      <fieldset>
        <legend>Begin with</legend>
        <starter-card v-for="row in starters" :key="row.name" v-model="starter" :starter="row" />
      </fieldset>
      <div class="row">
        <span>Your mesh</span>
        <span class="file">
          <mesh-look v-if="mesh" :key="mesh.digest" :digest="mesh.digest" />
          <span v-if="mesh" class="facts" data-brought>
            <b>{{ mesh.name }}</b>
            <template v-if="size">
              <span>{{ size.here }} m in the shot</span>
              <span class="quiet">
                {{ size.own }} in its file, so it is scaled by {{ size.times }};
                {{ size.triangles }} triangles
              </span>
              <span v-if="(mesh.facts.frames ?? 1) > 1">It moves: {{ mesh.facts.frames }} frames</span>
              <span v-for="line in mesh.facts.left_out ?? []" :key="line" class="warning">{{ line }}</span>
              <span v-if="size.open" class="warning"
                >It has {{ size.open }} open edges, so it is hollow.</span
              >
            </template>
            <button
              type="button"
              class="link"
              title="Make the shot without it"
              data-without-mesh
              @click="mesh = null"
            >
              Take it out
            </button>
          </span>
          <button
            v-else
            type="button"
            class="link"
            title="It becomes what the smoke comes from"
            :disabled="!!working"
            @click="picker?.click()"
          >
            Bring a mesh (optional): {{ endings.join(", ") }}
          </button>
          <input
            ref="picker"
            type="file"
            multiple
            name="mesh"
            class="sr-only"
            tabindex="-1"
            aria-label="Mesh file"
            :accept="[...(catalog.catalog?.meshes ?? []), '.mtl', '.bin'].join(',')"
            @change="bring"
          />
        </span>
      </div>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <footer>
        <span class="quiet" role="status">{{ working }}</span>
        <button type="button" class="pill" title="Esc" @click="emit('close')">Close</button>
        <button class="pill main" :disabled="!!working" title="Make the shot and run a first draft" data-make>
          Make it
        </button>
      </footer>
    </form>
  </desk-dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 14px;
}

h2 {
  margin: 0;
  font-size: 15px;
}

.row {
  display: grid;
  grid-template-columns: 90px 1fr;
  align-items: center;
}

.row input[name="name"] {
  font: inherit;
  color: inherit;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 8px;
  padding: 7px 10px;
}

.file {
  display: flex;
  gap: 14px;
  align-items: center;
}

.facts {
  display: grid;
  justify-items: start;
}

.warning {
  color: var(--warning);
}

fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 10px;
}

legend {
  padding: 0 0 6px;
}

.wrong {
  margin: 0;
  color: var(--error);
}

footer {
  display: flex;
  gap: 10px;
  align-items: center;
}

footer .quiet {
  flex: 1;
}
</style>
