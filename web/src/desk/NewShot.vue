<script setup lang="ts">
import { onMounted, ref } from "vue";
import { useRouter } from "vue-router";
import { api, checkSize } from "../api/client";
import DeskDialog from "../lib/DeskDialog.vue";
import { useCatalog } from "../stores/catalog";

const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const catalog = useCatalog();
const name = ref("");
const starter = ref("plume");
const file = ref<File | null>(null);
const working = ref("");
const wrong = ref("");
const field = ref<HTMLInputElement | null>(null);
const picker = ref<HTMLInputElement | null>(null);

onMounted(() => field.value?.focus());

function without() {
  file.value = null;
  if (picker.value) picker.value.value = "";
}

async function make() {
  wrong.value = "";
  try {
    working.value = file.value ? `Reading ${file.value.name}…` : "Making the shot…";
    if (file.value) checkSize(file.value, catalog.catalog?.limits.file ?? Infinity);
    const mesh = file.value ? (await api.bringMesh(file.value)).digest : null;
    const shot = await api.newShot(name.value.trim() || "Untitled shot", starter.value, mesh);
    // A first draft, so that something moves at once.
    if (starter.value !== "empty") await api.run(shot.id, "draft");
    await router.push(`/shots/${shot.id}`);
  } catch (error) {
    wrong.value = (error as Error).message;
  } finally {
    working.value = "";
  }
}
</script>

<template>
  <desk-dialog label="New shot" width="520px" @close="emit('close')">
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
        <label
          v-for="choice in catalog.catalog?.starters"
          :key="choice.name"
          class="starter"
          :class="{ on: starter === choice.name }"
        >
          <input v-model="starter" type="radio" name="starter" :value="choice.name" />
          <b>{{ choice.name }}</b>
          <span class="quiet">{{ choice.help }}</span>
        </label>
      </fieldset>
      <div class="row">
        <span>Your mesh</span>
        <span class="file">
          <button type="button" class="link" @click="picker?.click()">
            {{ file ? file.name : "Bring an OBJ or STL (optional)" }}
          </button>
          <button v-if="file" type="button" class="link" data-without-mesh @click="without">
            take it out
          </button>
          <input
            ref="picker"
            type="file"
            name="mesh"
            class="sr-only"
            tabindex="-1"
            aria-label="Mesh file"
            :accept="catalog.catalog?.meshes.join(',')"
            @change="file = ($event.target as HTMLInputElement).files?.[0] ?? null"
          />
        </span>
      </div>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <footer>
        <span class="quiet" role="status">{{ working }}</span>
        <button type="button" class="pill" @click="emit('close')">Close</button>
        <button class="pill main" :disabled="!!working" data-make>Make it</button>
      </footer>
    </form>
  </desk-dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 14px;
}

.file {
  display: flex;
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

fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
}

legend {
  padding: 0 0 6px;
}

.starter {
  display: grid;
  grid-template-columns: auto 60px 1fr;
  gap: 10px;
  padding: 9px 12px;
  border: 1px solid var(--line);
  border-radius: 10px;
  cursor: pointer;
}

.starter.on {
  border-color: var(--accent);
}

.starter input {
  accent-color: var(--accent);
}

.starter b {
  font-weight: 600;
  text-transform: capitalize;
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
