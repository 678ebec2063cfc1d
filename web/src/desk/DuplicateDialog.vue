<script setup lang="ts">
import { NSelect, NSwitch } from "naive-ui";
import { computed, reactive, ref } from "vue";
import NumberField from "../dials/NumberField.vue";
import NumberDial from "../dials/fields/NumberDial.vue";
import VectorDial from "../dials/fields/VectorDial.vue";
import type { Dial, ShotNode } from "../api/types";
import DeskDialog from "../lib/DeskDialog.vue";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

/** Several more of what is chosen, each further one off the one before. */
const props = defineProps<{ nodes: ShotNode[] }>();
const emit = defineEmits<{ close: [] }>();
const desk = useDesk();
const catalog = useCatalog();
/** What each further one is off the one before. */
const STEPS = (
  [
    ["times", "How many more", "whole", 3, [1, 24], [1, 500], ""],
    ["by", "Each further by", "vector", [0.6, 0, 0], [-2, 2], [-10_000, 10_000], "m"],
    ["turn", "Turned by", "vector", [0, 0, 0], [-180, 180], [-3600, 3600], "°"],
    ["size", "As large", "number", 1, [0.5, 1.5], [0.01, 100], "times"],
    ["frames", "Later by", "whole", 0, [-24, 24], [-100_000, 100_000], "frames"],
  ] as const
).map(([name, label, type, value, slider, range, unit]) => ({
  value,
  dial: { name, label, type, slider, range, unit, help: "" } as unknown as Dial,
}));
const steps = reactive<Record<string, number | readonly number[]>>(
  Object.fromEntries(STEPS.map(({ dial, value }) => [dial.name, value])),
);
const feeds = ref(true);
/** Numbers of theirs that differ too. */
const rows = ref<{ dial: string; by: number }[]>([]);
const refused = ref("");

const FEEDS = ["source", "inflow", "emitter", "kick"];
const feeders = computed(() =>
  desk.nodes.filter(
    (node) =>
      FEEDS.includes(node.kind) &&
      props.nodes.some((prop) => prop.id === node.dials.prop) &&
      !props.nodes.includes(node),
  ),
);
const all = computed(() => [...props.nodes, ...(feeds.value ? feeders.value : [])]);
const dials = computed(() =>
  all.value.flatMap((node) =>
    catalog
      .kind(node.kind)
      .dials.filter(
        (dial) => ["number", "whole"].includes(dial.type) && !dial.time && catalog.applies(node, dial),
      )
      .map((dial) => ({ value: `${node.id} ${dial.name}`, label: `${dial.label} of ${node.name}`, dial })),
  ),
);
const slider = (name: string) =>
  (dials.value.find((row) => row.value === name)?.dial.slider as [number, number] | undefined) ?? [0, 1];
const free = computed(() => dials.value.filter(({ value }) => !rows.value.some((row) => row.dial === value)));
const named = computed(() =>
  props.nodes.length === 1 ? props.nodes[0].name : `${props.nodes.length} things`,
);

function differ(dial: string) {
  const [low, high] = slider(dial);
  rows.value.push({ dial, by: Number(((high - low) / 10).toPrecision(1)) });
}

async function make() {
  const differs = rows.value.map(({ dial, by }) => {
    const [node, name] = dial.split(" ");
    return { node, dial: name, by };
  });
  const before = new Set(desk.nodes.map((node) => node.id));
  const nodes = props.nodes.map((node) => node.id);
  refused.value =
    (await desk.put([{ do: "duplicate", nodes, ...steps, feeds: feeds.value, dials: differs }])) ?? "";
  if (refused.value) return;
  const made = desk.nodes.find((node) => !before.has(node.id) && node.kind === props.nodes[0].kind);
  emit("close");
  if (made) desk.selected = made.id;
}

const put = (name: string) => (value: unknown) => {
  steps[name] = value as number | number[];
  return Promise.resolve(null);
};
const unreckoned = () => Promise.resolve("No formula can stand here; give a number.");
const differBy = (row: { by: number }) => (value: number | string) => {
  row.by = Number(value) || 0;
  return Promise.resolve(null);
};
</script>

<template>
  <desk-dialog :label="`More of ${named}`" width="560px" data-duplicate @close="emit('close')">
    <h3>More of {{ named }}</h3>
    <div class="rows">
      <template v-for="row in STEPS" :key="row.dial.name">
        <span>{{ row.dial.label }}</span>
        <vector-dial
          v-if="row.dial.type === 'vector'"
          :dial="row.dial"
          :value="steps[row.dial.name] as number[]"
          :formulas="[]"
          :reckon="unreckoned"
          :set="put(row.dial.name)"
        />
        <div v-else class="number">
          <number-dial
            :dial="row.dial"
            :value="steps[row.dial.name] as number"
            :formulas="[]"
            :reckon="unreckoned"
            :set="put(row.dial.name)"
          />
          <span class="faint">{{ row.dial.unit }}</span>
        </div>
      </template>
      <template v-if="feeders.length">
        <span>With what feeds from it</span>
        <n-switch v-model:value="feeds" size="small" aria-label="With what feeds from it" />
      </template>
      <template v-for="row in rows" :key="row.dial">
        <span>{{ dials.find((one) => one.value === row.dial)?.label ?? row.dial }}</span>
        <div class="number">
          <number-field
            :label="`Further ${dials.find((one) => one.value === row.dial)?.label}`"
            :value="row.by"
            :low="slider(row.dial)[0] - slider(row.dial)[1]"
            :high="slider(row.dial)[1] - slider(row.dial)[0]"
            :range="[-1e6, 1e6]"
            :set="differBy(row)"
          />
          <button
            class="link"
            title="Let it be alike in all"
            @click="rows = rows.filter((one) => one !== row)"
          >
            Alike in all
          </button>
        </div>
      </template>
      <span>Differ in</span>
      <n-select
        size="small"
        filterable
        :value="null"
        :options="free"
        placeholder="A number of theirs…"
        aria-label="Differ in"
        :input-props="{ 'aria-label': 'Differ in' }"
        @update:value="differ"
      />
    </div>
    <p v-if="refused" class="refused" role="alert">{{ refused }}</p>
    <div class="end">
      <button class="pill main" title="Makes them, in one step" data-make @click="make">
        Make {{ steps.times }} more
      </button>
      <button class="pill" title="Esc" @click="emit('close')">Cancel</button>
    </div>
  </desk-dialog>
</template>

<style scoped>
h3 {
  margin: 0 0 12px;
}

.rows {
  display: grid;
  grid-template-columns: 170px 1fr;
  gap: 8px 14px;
  align-items: center;
}

.number {
  display: flex;
  gap: 8px;
  align-items: baseline;
  justify-self: start;
}

.rows :deep(.vector label) {
  background: var(--track);
}

.refused {
  color: var(--warn);
  margin: 12px 0 0;
}

.end {
  display: flex;
  gap: 10px;
  margin-top: 18px;
}
</style>
