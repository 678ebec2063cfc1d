<script setup lang="ts">
import { NDropdown } from "naive-ui";
import { computed, ref, watch } from "vue";
import { plain } from "../lib/numbers";
import { useChosen } from "../stores/chosen";
import { useDesk } from "../stores/desk";
import { STEPS, useGrid } from "../stores/grid";
import type { Grip } from "../view/handles";
import type { ShownAs } from "../view/props";
import type { Stage } from "../view/stage";

/** Where one looks from, and which handles are on what is picked. */
const props = defineProps<{
  stage: Stage | null;
  camera: string;
  /** Whether one looks through it. */
  through: boolean;
  resolution: number;
  grips: Grip[];
  used: Grip | null;
  dragged: string;
}>();
const emit = defineEmits<{ camera: []; grip: [grip: Grip] }>();
const desk = useDesk();
const chosen = useChosen();
const grid = useGrid();
const GRIPS: Record<Grip, string> = { move: "Move (M)", turn: "Turn (T)", size: "Size (Z)" };
const WAYS: Record<string, number[]> = {
  front: [0, 0, 1],
  back: [0, 0, -1],
  left: [-1, 0, 0],
  right: [1, 0, 0],
  above: [0, 1, 1e-4],
  below: [0, -1, 1e-4],
};
const AS: Record<ShownAs, string> = {
  picture: "As in the picture",
  plain: "In a plain light",
  through: "Seen through",
  lines: "As lines",
};
const flat = ref(false);
const as = ref<ShownAs>("picture");
/** The only props that are shown. */
const only = ref<string[] | null>(null);
/** Props that are chosen, and all that goes with marks among them. */
const picked = computed(() =>
  desk.nodes
    .filter(
      (node) =>
        node.kind === "prop" &&
        [node, ...desk.family.marksOver(node)].some((one) => chosen.all.includes(one.id)),
    )
    .map((node) => node.id),
);
const mark = (on: boolean) => (on ? "● " : "○ ");
const sides = computed(() => [
  ...Object.keys(WAYS).map((key) => ({
    key,
    label: `From ${["above", "below"].includes(key) ? key : `the ${key}`}`,
  })),
  ...desk.nodes
    .filter((node) => node.kind === "view")
    .map((node) => ({ key: `saved ${node.id}`, label: node.name })),
  { key: "picked", label: "What is picked (C)", disabled: !desk.selected },
  { key: "flat", label: flat.value ? "With perspective" : "Without perspective" },
  { type: "divider", key: "divider" },
  ...Object.entries(AS).map(([key, label]) => ({ key, label: `${mark(as.value === key)}${label}` })),
  {
    key: "only",
    label: only.value ? "All props again" : "Only what is picked",
    disabled: !only.value && !picked.value.length,
  },
]);

const words = (step: number) => (step < 1 ? `${plain(100 * step)} cm` : `${plain(step)} m`);
/** The grid that things are moved along. */
const steps = computed(() => [
  { key: "always", label: `${mark(grid.always)}Always, Shift leaves it` },
  { key: "shift", label: `${mark(!grid.always)}With Shift only` },
  { type: "divider", key: "divider" },
  ...STEPS.map((step) => ({ key: String(step), label: `${mark(grid.step === step)}${words(step)}` })),
]);

function keepTo(key: string) {
  if (key === "always" || key === "shift") grid.always = key === "always";
  else grid.step = Number(key);
}

function show() {
  props.stage?.props.show(as.value, only.value);
  props.stage?.touch();
}

// A prop that is gone leaves the others to be seen.
watch(
  () => desk.bodies,
  () => only.value && !only.value.some((id) => desk.byId.has(id)) && ((only.value = null), show()),
);

function look(side: string) {
  if (side in AS) {
    as.value = side as ShownAs;
    show();
  } else if (side === "only") {
    only.value = only.value ? null : picked.value;
    show();
  } else if (side.startsWith("saved ")) {
    desk.view?.lookFrom(desk.outlook(desk.byId.get(side.slice(6))!));
  } else if (side === "flat") props.stage?.flatten((flat.value = !flat.value));
  else props.stage?.lookAt(WAYS[side] ?? null, [...chosen.all, ...picked.value]);
}

defineExpose({ look });
</script>

<template>
  <div class="corner">
    <button
      class="plain"
      :class="{ used: through }"
      :aria-pressed="through"
      title="Look through the shot's camera (V)"
      data-camera
      @click="emit('camera')"
    >
      {{ camera }}
    </button>
    <button class="plain" title="See all chambers (0)" @click="stage?.fit()">Fit</button>
    <n-dropdown trigger="click" :options="sides" placement="top-start" @select="look">
      <button class="plain" title="From a side, without perspective, or props shown otherwise" data-sides>
        Sides
      </button>
    </n-dropdown>
    <slot />
    <span v-if="grips.length" class="grips" role="group" aria-label="Handles">
      <button
        v-for="one in grips"
        :key="one"
        class="plain"
        :class="{ used: used === one }"
        :aria-pressed="used === one"
        :title="`${GRIPS[one]}: drag its handles; Shift in steps`"
        :data-grip="one"
        @click="emit('grip', one)"
      >
        {{ GRIPS[one].split(" ")[0] }}
      </button>
      <n-dropdown trigger="click" :options="steps" placement="top-start" @select="keepTo">
        <button
          class="plain"
          :class="{ used: grid.always }"
          title="The grid that things keep to as they are moved, always or with Shift"
          data-grid
        >
          Grid {{ words(grid.step) }}
        </button>
      </n-dropdown>
    </span>
    <span v-if="dragged" data-dragged>{{ dragged }}</span>
    <span v-if="resolution < 1" class="faint" title="The smoke is drawn coarser while this machine is busy">
      smoke at {{ Math.round(resolution * 100) }} %
    </span>
  </div>
</template>

<style scoped>
.corner {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  /* What is told on the right has room beside it. */
  max-width: max(calc(100% - 348px), 296px);
}

.grips {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  padding-left: 12px;
  border-left: 1px solid var(--line);
}

.plain:hover {
  color: var(--text);
}

.plain.used {
  color: var(--accent);
}
</style>
