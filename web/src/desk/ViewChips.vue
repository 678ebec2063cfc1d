<script setup lang="ts">
import { NDropdown, NSlider } from "naive-ui";
import { computed } from "vue";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { useLive } from "../stores/live";
import { tints } from "../theme";
import type { DropsBy } from "../view/drops";

/** Chooses what the view shows. */
const props = defineProps<{
  shown: { smoke: boolean; fire: boolean; heat: boolean };
  quantity: string | null;
  slice: { on: boolean; axis: "x" | "y" | "z"; part: number; arrows: boolean };
  range: string;
  drops: DropsBy | null;
  wet: boolean;
  develops: boolean;
  /** Whether the plate is shown behind it all; null where there is none. */
  plate: boolean | null;
}>();
const emit = defineEmits<{
  develop: [];
  plate: [];
  shown: [name: "smoke" | "fire" | "heat"];
  quantity: [name: string | null];
  drops: [by: DropsBy | null];
  slice: [change: Partial<{ on: boolean; axis: "x" | "y" | "z"; part: number; arrows: boolean }>];
}>();
const desk = useDesk();
const catalog = useCatalog();
const live = useLive();
const capital = (word: string) => word.replace(/^./, (c) => c.toUpperCase());
const chips = { smoke: tints.smoke, fire: tints.light, heat: tints.heat } as const;
const told = {
  smoke: "Smoke as its look and the lamps have it",
  fire: "Fire as it glows",
  heat: "Heat as a red haze, whether it glows or not",
};
/** Not every run tells these: the chamber's switches that have it do so. */
const asked: Record<string, string> = { age: "tells_age", burning: "tells_burning" };
const known = (name: string) =>
  !asked[name] || desk.nodes.some((node) => node.kind === "chamber" && node.dials[asked[name]!] === true);
const quantities = computed(() => [
  { key: "", label: "Nothing more" },
  ...Object.keys(catalog.catalog?.seen ?? {})
    .filter((name) => name !== "velocity" && name !== "smoke" && known(name))
    .map((name) => ({ key: name, label: capital(name) })),
]);
const particles = [
  { key: "", label: "Not shown" },
  { key: "speed", label: "By speed" },
  { key: "age", label: "By age" },
  { key: "pressure", label: "By pressure" },
];
const tint = computed(
  () => tints[props.quantity === "temperature" ? "heat" : (props.quantity ?? "")] ?? tints.light,
);
</script>

<template>
  <div class="chips">
    <button
      v-for="(colour, chip) in chips"
      :key="chip"
      class="chip"
      :class="{ on: shown[chip] }"
      :aria-pressed="shown[chip]"
      :title="told[chip]"
      :data-chip="chip"
      @click="emit('shown', chip)"
    >
      <span class="dot" :style="{ background: colour }" />{{ capital(chip) }}
    </button>
    <n-dropdown
      trigger="click"
      :options="quantities"
      @select="(name: string) => emit('quantity', name || null)"
    >
      <button
        class="chip"
        :class="{ on: quantity }"
        title="One quantity more: fuel, speed, pressure…"
        data-quantity-chip
      >
        <span class="dot" :style="{ background: tint }" />{{ quantity ? capital(quantity) : "More" }}
      </button>
    </n-dropdown>
    <n-dropdown
      v-if="wet"
      trigger="click"
      :options="particles"
      @select="(by: string) => emit('drops', (by || null) as DropsBy | null)"
    >
      <button
        class="chip"
        :class="{ on: drops }"
        title="The particles of the liquid, by their speed, by how long they have been there, or by what presses on them"
        data-drops-chip
      >
        <span class="dot" :style="{ background: tints.liquid }" />Drops
      </button>
    </n-dropdown>
    <button
      class="chip"
      :class="{ on: slice.on }"
      :aria-pressed="slice.on"
      title="Cut the volume and the liquid open and read them under the pointer"
      data-chip="slice"
      @click="emit('slice', { on: !slice.on })"
    >
      <span class="dot" :style="{ background: tints.fog }" />Slice
    </button>
    <button
      v-if="plate !== null"
      class="chip"
      :class="{ on: plate }"
      :aria-pressed="plate"
      title="The plate behind the shot, as the camera sees it"
      data-chip="plate"
      @click="emit('plate')"
    >
      <span class="dot" :style="{ background: tints.light }" />Plate
    </button>
    <span v-if="range" class="range" data-range>{{ range }}</span>
    <span class="gap" />
    <button
      class="chip"
      :class="{ on: develops }"
      :aria-pressed="develops"
      title="The view as the finished picture, which gets finer while nothing moves: fog, beams, materials and all (D)"
      data-chip="develop"
      @click="emit('develop')"
    >
      <span class="dot" :style="{ background: tints.fog }" />Develop
    </button>
    <button
      class="chip"
      :class="{ on: live.on }"
      :aria-pressed="live.on"
      title="While a dial is dragged, a coarse draft of it runs and plays; let go, the draft has its own size again"
      data-chip="live"
      @click="live.on = !live.on"
    >
      <span class="dot" :style="{ background: tints.heat }" />Live
    </button>
    <button
      v-for="kind in ['draft', 'full'] as const"
      :key="kind"
      class="chip"
      :class="{ on: desk.quality === kind }"
      :aria-pressed="desk.quality === kind"
      :title="kind === 'draft' ? 'Frames of the coarse run' : 'Frames at full resolution'"
      :data-quality="kind"
      @click="desk.show(kind)"
    >
      {{ kind === "draft" ? "Draft" : "Full" }}
    </button>
    <div v-if="slice.on" class="cut">
      <button
        v-for="axis in ['x', 'y', 'z'] as const"
        :key="axis"
        class="chip"
        :class="{ on: slice.axis === axis }"
        :aria-pressed="slice.axis === axis"
        :aria-label="`Slice across ${axis}`"
        :title="`Slice across ${axis}`"
        @click="emit('slice', { axis })"
      >
        {{ axis }}
      </button>
      <n-slider
        :value="slice.part"
        :min="0"
        :max="1"
        :step="0.01"
        :tooltip="false"
        class="slider"
        aria-label="Where the slice lies"
        @update:value="emit('slice', { part: $event })"
      />
      <button
        class="chip"
        :class="{ on: slice.arrows }"
        :aria-pressed="slice.arrows"
        title="Which way it flows in the slice"
        @click="emit('slice', { arrows: !slice.arrows })"
      >
        Arrows
      </button>
    </div>
  </div>
</template>

<style scoped>
.chips {
  position: absolute;
  left: 11px;
  right: 11px;
  top: 11px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
  pointer-events: none;
}

.gap {
  flex: 1;
}

.chip,
.cut {
  pointer-events: auto;
}

.chip {
  display: flex;
  align-items: center;
  gap: 7px;
  height: 26px;
  padding: 0 12px;
  border: 1px solid transparent;
  border-radius: 999px;
  color: var(--quiet);
  background: rgb(16 20 22 / 62%);
}

.chip.on {
  color: var(--text);
  background: rgb(26 31 35 / 85%);
  border-color: var(--line);
}

.dot {
  width: 7px;
  height: 7px;
  border-radius: 50%;
  opacity: 0.45;
}

.on .dot {
  opacity: 1;
}

.range {
  color: var(--quiet);
  padding-left: 8px;
  text-shadow: 0 1px 3px #000;
}

.cut {
  flex-basis: 100%;
  display: flex;
  gap: 4px;
  align-items: center;
}

.slider {
  width: 160px;
  margin: 0 10px;
}
</style>
