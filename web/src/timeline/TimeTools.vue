<script setup lang="ts">
import { NInputNumber, NPopover, NPopselect, NSwitch } from "naive-ui";
import { computed, ref } from "vue";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { useTimes } from "../stores/times";

/** What can be done with the keys and rows that are picked. */
const desk = useDesk();
const times = useTimes();
const catalog = useCatalog();
const asking = ref(false);
const by = ref(0);
const stretch = ref(100);
const step = ref(0);
const loose = ref(0);
const seed = ref(1);
const on = ref(false);
const wrong = ref("");

const what = computed(() => {
  const [keys, rows] = [times.places.length, times.chosen.length];
  if (keys) return keys === 1 ? "1 key" : `${keys} keys`;
  return rows ? (rows === 1 ? "1 row" : `${rows} rows`) : "";
});
const eases = computed(() =>
  Object.entries(catalog.catalog?.eases ?? {}).map(([value, label]) => ({
    value,
    label: `${value}: ${label}`,
  })),
);
const ease = computed(() => {
  const all = times.rows.flatMap((row) =>
    row.keys.filter((key) => times.has(row, key.frame)).map((key) => key.ease),
  );
  return all.every((one) => one === all[0]) ? all[0] : null;
});
/** Numbers that are asked for, with what they mean. */
const fields = [
  { label: "Later by", unit: "frames", model: by, name: "by" },
  { label: "As long as now", unit: "%", model: stretch, name: "stretch" },
  { label: "Each later than the one before", unit: "frames", model: step, name: "step" },
  { label: "Off at random, up to", unit: "frames", model: loose, name: "loose" },
  { label: "Other random", unit: "", model: seed, name: "seed" },
];

const attributes = (field: { label: string; name: string }) =>
  ({ "aria-label": field.label, "data-retime-field": field.name }) as object;

async function carry() {
  const about = on.value ? desk.frame : first();
  const how = {
    by: by.value,
    stretch: stretch.value / 100,
    about,
    step: step.value,
    loose: loose.value,
    seed: seed.value,
    ...(on.value ? { from: desk.frame } : {}),
  };
  wrong.value = (await times.retime(how)) ?? "";
  if (wrong.value) return;
  asking.value = false;
  times.keys.clear();
}

/** Things are stretched from where the first of them begins. */
function first() {
  const of = times.places.length
    ? times.places.map((key) => key.frame)
    : times.chosen.flatMap((row) => [
        ...row.keys.map((key) => key.frame),
        ...(row.spans ?? []).filter((s) => s.at !== "to").map((s) => s.frame),
      ]);
  return of.length ? Math.min(...of) : desk.first;
}
</script>

<template>
  <span class="tools" role="group" aria-label="What is picked in the timeline">
    <span v-if="what" class="quiet" data-picked>{{ what }}</span>
    <template v-if="times.places.length">
      <n-popselect
        :value="ease"
        :options="eases"
        size="small"
        trigger="click"
        @update:value="(way: string) => desk.timing.easeKeys(times.places, way)"
      >
        <button class="link" title="How the course goes on from these keys" data-eases>
          Goes on {{ ease ?? "…" }}
        </button>
      </n-popselect>
      <button
        class="link"
        :title="`Copies them so that the first comes to frame ${desk.frame}`"
        data-copy-keys
        @click="times.copyHere"
      >
        Copy here
      </button>
      <button
        class="link"
        title="Takes these keys away (Delete)"
        data-drop-keys
        @click="desk.timing.dropKeys(times.places)"
      >
        Take away
      </button>
    </template>
    <n-popover v-model:show="asking" trigger="click" placement="top" :style="{ maxWidth: '330px' }">
      <template #trigger>
        <button class="link" title="Move, stretch or stagger what is picked, or all rows" data-retime>
          Retime…
        </button>
      </template>
      <form class="ask" @submit.prevent="carry" @keydown.stop>
        <strong>{{ what || "All rows" }}</strong>
        <label v-for="field in fields" :key="field.name">
          <span>{{ field.label }}</span>
          <n-input-number
            v-model:value="field.model.value"
            size="small"
            :show-button="false"
            :input-props="attributes(field)"
          >
            <template #suffix>{{ field.unit }}</template>
          </n-input-number>
        </label>
        <label>
          <span>Only what comes from frame {{ desk.frame }} on</span>
          <n-switch v-model:value="on" size="small" aria-label="Only what comes from this frame on" />
        </label>
        <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
        <button class="pill main" type="submit" data-retime-carry>Retime</button>
      </form>
    </n-popover>
  </span>
</template>

<style scoped>
.tools {
  display: inline-flex;
  align-items: center;
  gap: 12px;
}

.ask {
  display: grid;
  gap: 7px;
  padding: 4px 2px;
}

.ask label {
  display: grid;
  grid-template-columns: 1fr 118px;
  align-items: center;
  gap: 10px;
  color: var(--quiet);
}

.wrong {
  margin: 0;
  color: var(--error);
}

.pill {
  justify-self: end;
}
</style>
