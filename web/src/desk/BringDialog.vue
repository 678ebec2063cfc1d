<script setup lang="ts">
import { NSelect } from "naive-ui";
import { computed, onMounted, ref } from "vue";
import DeskDialog from "../lib/DeskDialog.vue";
import { plain } from "../lib/numbers";
import MeshLook from "../shelf/MeshLook.vue";
import { useArrivals } from "../stores/arrivals";
import { useCatalog } from "../stores/catalog";

/** What a file holds, how large it will be, and how it shall come into the shot. */
const arrivals = useArrivals();
const catalog = useCatalog();
const unit = ref("m");
const up = ref("y");
const apart = ref(false);
const others = ref(false);
const button = ref<HTMLButtonElement | null>(null);
const mesh = computed(() => arrivals.mesh!);
const facts = computed(() => mesh.value.facts);

const choices = (name: string) => {
  const dial = catalog.kind("prop").dials.find((candidate) => candidate.name === name)!;
  return Object.entries(dial.choices ?? {}).map(([value, label]) => ({ value, label: String(label) }));
};

const size = computed(() => {
  const { low = [0, 0, 0], high = [0, 0, 0] } = facts.value;
  const [x, y, z] = low.map((from, axis) => (high[axis] - from) * (catalog.catalog?.units[unit.value] ?? 1));
  return up.value === "y" ? [x, y, z] : [x, z, y];
});
const strange = computed(() => {
  const largest = Math.max(...size.value);
  if (largest > 60) return "That is larger than a house: perhaps it was made in centimetres or millimetres.";
  if (largest < 0.02) return "That is smaller than a thumb: perhaps it was made in metres or inches.";
  return "";
});
const found = computed(() => {
  const { triangles, parts, open_edges: open, frames = 1, coloured, placed } = facts.value;
  return [
    `${triangles.toLocaleString("en")} triangles in ${parts.length === 1 ? "one part" : `${parts.length} parts`}`,
    open ? `${open} open edges, so it is hollow` : "closed",
    frames > 1 ? `${frames} frames of motion` : "no motion",
    ...(coloured ? ["colours of its own"] : []),
    ...(placed ? ["texture places"] : []),
  ];
});

onMounted(() => button.value?.focus());

const put = () => arrivals.put({ unit: unit.value, up: up.value, apart: apart.value, others: others.value });
</script>

<template>
  <desk-dialog label="Bring in" width="640px" @close="arrivals.drop()">
    <form class="form" data-bring @submit.prevent="put">
      <h2>Bring in {{ mesh.name }}</h2>
      <div class="look">
        <mesh-look :key="`${unit} ${up}`" :digest="mesh.digest" :unit="unit" :up="up" wide />
        <div class="side">
          <p class="size" data-size>{{ size.map(plain).join(" × ") }} m</p>
          <p class="quiet">Beside it stands a person of 1.75 m.</p>
          <p v-if="strange" class="warning">{{ strange }}</p>
          <label class="row">
            <span>Unit of the file</span>
            <n-select
              v-model:value="unit"
              size="small"
              :options="choices('unit')"
              aria-label="Unit of the file"
            />
          </label>
          <label class="row">
            <span>Up in the file</span>
            <n-select v-model:value="up" size="small" :options="choices('up')" aria-label="Up in the file" />
          </label>
          <label v-if="facts.parts.length > 1" class="check">
            <input v-model="apart" type="checkbox" name="apart" />
            Each of its {{ facts.parts.length }} parts as a prop of its own
          </label>
          <label v-if="facts.others?.length" class="check">
            <input v-model="others" type="checkbox" name="others" />
            {{ facts.others.map((other) => `${other.kind} ${other.name}`).join(", ") }} too
          </label>
        </div>
      </div>
      <ul class="quiet" data-found>
        <li v-for="line in found" :key="line">{{ line }}</li>
        <li v-for="line in facts.left_out ?? []" :key="line" class="warning">{{ line }}</li>
      </ul>
      <footer>
        <span class="quiet">{{
          arrivals.place
            ? "It comes to stand where it was dropped."
            : "It stands where it stands in its file."
        }}</span>
        <button type="button" class="pill" title="Esc" @click="arrivals.drop()">Leave it</button>
        <button ref="button" class="pill main" title="Put it into the shot" data-put>Bring it in</button>
      </footer>
    </form>
  </desk-dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 14px;
}

h2,
p,
ul {
  margin: 0;
}

h2 {
  font-size: 15px;
}

.look {
  display: flex;
  gap: 18px;
}

.side {
  flex: 1;
  display: grid;
  gap: 8px;
  align-content: start;
}

.size {
  font-size: 15px;
}

.row {
  display: grid;
  grid-template-columns: 110px 1fr;
  align-items: center;
}

.check {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 24px;
}

.warning {
  color: var(--warning);
}

ul {
  padding-left: 18px;
  display: grid;
  gap: 2px;
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
