<script setup lang="ts">
import { NSelect, NSwitch } from "naive-ui";
import { computed, reactive, ref } from "vue";
import NumberField from "../dials/NumberField.vue";
import type { ShotNode, Value } from "../api/types";
import DeskDialog from "../lib/DeskDialog.vue";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

/** Several more of what is chosen, each further one off the one before. */
const props = defineProps<{ nodes: ShotNode[] }>();
const emit = defineEmits<{ close: [] }>();
const desk = useDesk();
const catalog = useCatalog();
const AXES = ["x", "y", "z"];
const steps = reactive({ times: 3, by: [0.6, 0, 0], turn: [0, 0, 0], size: 1, frames: 0, feeds: true });
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
const all = computed(() => [...props.nodes, ...(steps.feeds ? feeders.value : [])]);
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
  const { times, by, turn, size, frames, feeds } = steps;
  const nodes = props.nodes.map((node) => node.id);
  refused.value =
    (await desk.put([{ do: "duplicate", nodes, times, by, turn, size, frames, feeds, dials: differs }])) ??
    "";
  if (refused.value) return;
  const made = desk.nodes.find((node) => !before.has(node.id) && node.kind === props.nodes[0].kind);
  emit("close");
  if (made) desk.selected = made.id;
}

const put = (list: number[], axis: number) => (value: number | string) => {
  list[axis] = Number(value) || 0;
  return Promise.resolve(null);
};
const differBy = (row: { by: number }) => (value: number | string) => {
  row.by = Number(value) || 0;
  return Promise.resolve(null);
};
const say = (what: "times" | "size" | "frames") => (value: number | string) => {
  steps[what] = Number(value) as Value as number;
  return Promise.resolve(null);
};
</script>

<template>
  <desk-dialog :label="`More of ${named}`" width="560px" data-duplicate @close="emit('close')">
    <h3>More of {{ named }}</h3>
    <div class="rows">
      <span>How many more</span>
      <div class="numbers">
        <number-field
          label="How many more"
          :value="steps.times"
          :low="1"
          :high="24"
          :range="[1, 500]"
          whole
          :set="say('times')"
        />
      </div>
      <span>Each further by, m</span>
      <div class="numbers">
        <number-field
          v-for="(axis, n) in AXES"
          :key="axis"
          :label="`Further along ${axis}`"
          :value="steps.by[n]"
          :low="-2"
          :high="2"
          :range="[-10000, 10000]"
          :set="put(steps.by, n)"
        />
      </div>
      <span>Turned by, °</span>
      <div class="numbers">
        <number-field
          v-for="(axis, n) in AXES"
          :key="axis"
          :label="`Turned about ${axis}`"
          :value="steps.turn[n]"
          :low="-180"
          :high="180"
          :range="[-3600, 3600]"
          :set="put(steps.turn, n)"
        />
      </div>
      <span>Times as large</span>
      <div class="numbers">
        <number-field
          label="Times as large"
          :value="steps.size"
          :low="0.5"
          :high="1.5"
          :range="[0.01, 100]"
          :set="say('size')"
        />
      </div>
      <span>Frames later</span>
      <div class="numbers">
        <number-field
          label="Frames later"
          :value="steps.frames"
          :low="-24"
          :high="24"
          :range="[-100000, 100000]"
          whole
          :set="say('frames')"
        />
      </div>
      <template v-if="feeders.length">
        <span>With what feeds from it</span>
        <n-switch v-model:value="steps.feeds" size="small" aria-label="With what feeds from it" />
      </template>
      <template v-for="row in rows" :key="row.dial">
        <span>{{ dials.find((one) => one.value === row.dial)?.label ?? row.dial }}</span>
        <div class="numbers">
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

.numbers {
  display: flex;
  gap: 12px;
  align-items: center;
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
