<script setup lang="ts">
import { computed, onUnmounted } from "vue";
import type { Dial, ShotNode } from "../../api/types";
import { plain } from "../../lib/numbers";
import { useBrush, type Stroke } from "../../stores/brush";
import { useDesk } from "../../stores/desk";

/** Strokes of a brush, painted in the view. */
const props = defineProps<{
  dial: Dial;
  node: ShotNode;
  value: Stroke[];
  set: (value: unknown) => Promise<string | null>;
}>();
const brush = useBrush();
const desk = useDesk();
const active = computed(() => brush.at?.node === props.node.id && brush.at.dial === props.dial.name);
const WAYS = [
  { way: "add", label: "Add", title: "Adds where it goes" },
  { way: "take", label: "Carve", title: "Takes away where it goes" },
  { way: "smooth", label: "Smooth", title: "Smooths where it goes" },
  { way: "pinch", label: "Pinch", title: "Draws together towards its way" },
];
/** A mask is painted or wiped out; nothing else makes sense there. */
const ways = computed(() => (props.dial.name === "strokes" ? WAYS : WAYS.slice(0, 3)));
const SLIDERS = [
  { name: "radius", label: "Radius", low: -2.3, high: 1, unit: " m" },
  { name: "strength", label: "Strength", low: 0, high: 1, unit: "" },
  { name: "hard", label: "Hardness", low: 0, high: 1, unit: "" },
] as const;

function turn() {
  brush.at = active.value ? null : { node: props.node.id, dial: props.dial.name };
  if (brush.at) desk.selected = props.node.id;
}

const track = (name: (typeof SLIDERS)[number]["name"]) =>
  name === "radius" ? Math.log10(brush.hand.radius) : brush.hand[name];
function slide(name: (typeof SLIDERS)[number]["name"], event: Event) {
  const value = Number((event.target as HTMLInputElement).value);
  brush.hand[name] = Number((name === "radius" ? 10 ** value : value).toPrecision(3));
}

onUnmounted(() => {
  if (active.value) brush.at = null;
});
</script>

<template>
  <div class="strokes">
    <div class="line">
      <button
        class="link"
        :aria-pressed="active"
        :title="
          active ? 'Esc' : 'Paint with the pointer in the view; the wheel and the right button still move it'
        "
        data-paint
        @click="turn"
        @keydown.esc="brush.at = null"
      >
        {{ active ? "Painting… done" : "Paint in the view" }}
      </button>
      <span class="count">{{ value.length }} stroke{{ value.length === 1 ? "" : "s" }}</span>
      <button
        v-if="value.length"
        class="link"
        title="Take the last stroke away"
        data-last
        @click="set(value.slice(0, -1))"
      >
        Last away
      </button>
      <button v-if="value.length > 1" class="link" title="Take all strokes away" @click="set([])">
        All away
      </button>
    </div>
    <template v-if="active">
      <div class="ways" role="group" aria-label="What the brush does">
        <button
          v-for="row in ways"
          :key="row.way"
          class="way"
          :class="{ on: brush.hand.way === row.way }"
          :aria-pressed="brush.hand.way === row.way"
          :title="row.title"
          :data-way="row.way"
          @click="brush.hand.way = row.way"
        >
          {{ row.label }}
        </button>
      </div>
      <label v-for="row in SLIDERS" :key="row.name" class="slider">
        <span>{{ row.label }}</span>
        <input
          type="range"
          :min="row.low"
          :max="row.high"
          step="0.01"
          :value="track(row.name)"
          :data-brush="row.name"
          :title="`${row.label} of the brush`"
          @input="slide(row.name, $event)"
        />
        <span class="number">{{ plain(brush.hand[row.name]) }}{{ row.unit }}</span>
      </label>
    </template>
  </div>
</template>

<style scoped>
.strokes {
  display: grid;
  gap: 6px;
  margin: 2px 0 8px;
}

.line {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
}

.count {
  flex: 1;
  white-space: nowrap;
  color: var(--faint);
  font-size: 12px;
}

.ways {
  display: flex;
  gap: 4px;
}

.way {
  flex: 1;
  min-height: 26px;
  padding: 0 6px;
  border: 1px solid var(--line);
  border-radius: 6px;
  font-size: 12px;
}

.way.on {
  border-color: var(--accent);
  color: var(--accent);
}

.slider {
  display: grid;
  grid-template-columns: 64px 1fr 58px;
  gap: 8px;
  align-items: center;
  font-size: 12px;
}

.slider input {
  width: 100%;
  min-height: 24px;
  accent-color: var(--accent);
}

.number {
  text-align: right;
}
</style>
