<script setup lang="ts">
import { NColorPicker, NSelect, NSwitch, NTooltip } from "naive-ui";
import { computed, ref, watch } from "vue";
import type { Dial, ShotNode, Stop, Value } from "../api/types";
import { hexOf, length, linearOf, plain, snap, stepOf } from "../lib/numbers";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import FindingLine from "./FindingLine.vue";
import MeshDial from "./MeshDial.vue";
import NumberField from "./NumberField.vue";
import RampDial from "./RampDial.vue";

const props = defineProps<{ node: ShotNode; dial: Dial }>();
const desk = useDesk();
const catalog = useCatalog();

const keys = computed(() => props.node.keys[props.dial.name] ?? []);
const stored = computed<Value>(() => {
  if (!keys.value.length) return catalog.value(props.node, props.dial);
  const row = desk.shot?.timeline.find((r) => r.node === props.node.id && r.dial === props.dial.name);
  const values: Value[] | undefined = row?.raw ?? row?.values;
  return values?.[desk.frame - desk.first] ?? catalog.value(props.node, props.dial);
});
/** What a drag shows before it is let go. */
const held = ref<Value | undefined>(undefined);
watch(stored, () => (held.value = undefined));
const value = computed(() => held.value ?? stored.value);
const off = computed(() => props.dial.name in props.node.dials || keys.value.length > 0);
const here = computed(() => keys.value.some((key) => key.frame === desk.frame));
const id = computed(() => `${props.node.id}.${props.dial.name}`);
const low = computed(() => props.dial.slider?.[0] ?? 0);
const high = computed(() => props.dial.slider?.[1] ?? 1);
const part = (number: number) =>
  `${(100 * Math.min(Math.max((number - low.value) / (high.value - low.value || 1), 0), 1)).toFixed(2)}%`;
const name = computed(() => value.value as string | null);
const finding = computed(() => desk.findingByDial.get(id.value));
const numeric = computed(() => props.dial.type === "number" || props.dial.type === "whole");
const unit = computed(() => {
  const number = value.value;
  if (props.dial.zero && number === 0) return props.dial.zero;
  const unit = props.dial.unit ?? "";
  // A rate is felt as the time in which half is gone.
  if (props.dial.half_life && typeof number === "number" && number > 0)
    return `${unit}, half in ${(Math.LN2 / number).toPrecision(2)} s`;
  // Thickness is felt as how far light goes.
  if (props.dial.mean_path && typeof number === "number" && number > 0)
    return `${unit} · ${length(1 / number)}`;
  return unit;
});

async function commit(next: Value) {
  held.value = next;
  // A dial that moves over time gets its key here; another is simply set.
  if (keys.value.length)
    await desk.edit([
      { do: "key", node: props.node.id, dial: props.dial.name, frame: desk.frame, value: next },
    ]);
  else await desk.set(props.node.id, props.dial.name, next);
  held.value = undefined;
}

function key() {
  const place = { node: props.node.id, dial: props.dial.name, frame: desk.frame };
  return desk.edit([
    here.value ? { do: "drop_key", ...place } : { do: "key", ...place, value: stored.value },
  ]);
}

function reset() {
  return desk.set(props.node.id, props.dial.name, props.dial.default);
}

let dragging = false;

function fromTrack(event: PointerEvent) {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  const at = low.value + ((event.clientX - box.left) / box.width) * (high.value - low.value);
  const step = props.dial.type === "whole" ? 1 : stepOf(low.value, high.value) * (event.altKey ? 0.1 : 1);
  return snap(Math.min(Math.max(at, low.value), high.value), step);
}

function trackDown(event: PointerEvent) {
  if (event.button !== 0) return;
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  dragging = true;
  held.value = fromTrack(event);
}

function trackMove(event: PointerEvent) {
  if (dragging) held.value = fromTrack(event);
}

function trackUp() {
  if (!dragging) return;
  dragging = false;
  if (held.value !== undefined && held.value !== stored.value) void commit(held.value);
  else held.value = undefined;
}

function vectorPart(index: number, next: number) {
  const list = (stored.value as number[]).slice();
  list[index] = next;
  return list;
}

const nodeChoices = computed(() =>
  desk.nodes
    .filter((node) => node.kind === props.dial.of)
    .map((node) => ({ label: node.name, value: node.id })),
);
const choices = computed(() =>
  Object.entries(props.dial.choices ?? {}).map(([name, label]) => ({ label, value: name })),
);
</script>

<template>
  <div class="dial" :class="{ off }" :data-dial="id" :data-keyed="dial.keyed">
    <div class="line">
      <n-tooltip trigger="hover" placement="right" :delay="350" :style="{ maxWidth: '260px' }">
        <template #trigger>
          <span class="label">{{ dial.label }}</span>
        </template>
        {{ dial.help }}
        <template v-if="dial.range"> From {{ plain(dial.range[0]) }} to {{ plain(dial.range[1]) }}.</template>
      </n-tooltip>
      <button
        v-if="dial.keyed"
        class="key"
        :class="{ some: keys.length, here }"
        :aria-label="
          here ? `Take away the key of ${dial.label}` : `Set a key of ${dial.label} at frame ${desk.frame}`
        "
        :title="here ? 'Take the key away (N)' : 'Set a key here (N)'"
        data-key
        @click="key"
      >
        <svg width="9" height="11" viewBox="0 0 9 11"><path d="M.5.5h8v5.5L4.5 10 .5 6z" /></svg>
      </button>
      <span class="space" />
      <template v-if="numeric">
        <number-field
          :value="value as number"
          :low="low"
          :high="high"
          :whole="dial.type === 'whole'"
          :label="dial.label"
          @preview="held = $event"
          @commit="commit"
        />
        <span class="unit">{{ unit }}</span>
      </template>
      <n-switch
        v-else-if="dial.type === 'switch'"
        size="small"
        :value="value as boolean"
        :aria-label="dial.label"
        @update:value="commit"
      />
      <n-select
        v-else-if="dial.type === 'choice'"
        size="small"
        class="select"
        :value="value as string"
        :options="choices"
        :aria-label="dial.label"
        @update:value="commit"
      />
      <n-select
        v-else-if="dial.type === 'node'"
        size="small"
        class="select"
        clearable
        :placeholder="`choose a ${dial.of}`"
        :value="name"
        :options="nodeChoices"
        :aria-label="dial.label"
        @update:value="commit"
      />
      <n-select
        v-else-if="dial.type === 'nodes'"
        size="small"
        class="select"
        multiple
        :max-tag-count="1"
        placeholder="none"
        :value="value as string[]"
        :options="nodeChoices"
        :aria-label="dial.label"
        @update:value="commit"
      />
      <n-color-picker
        v-else-if="dial.type === 'colour'"
        size="small"
        class="colour"
        :show-alpha="false"
        :modes="['hex']"
        :value="hexOf(value as number[])"
        :aria-label="dial.label"
        @update:value="held = linearOf($event)"
        @complete="commit(linearOf($event))"
      />
      <mesh-dial
        v-else-if="dial.type === 'mesh' || dial.type === 'picture'"
        :picture="dial.type === 'picture'"
        :value="name"
        :label="dial.label"
        @commit="commit"
      />
      <button
        v-if="off"
        class="reset"
        :title="`Back to the default`"
        :aria-label="`Reset ${dial.label}`"
        @click="reset"
      >
        ×
      </button>
      <span v-else class="reset" />
    </div>
    <input
      v-if="dial.type === 'text'"
      class="text"
      :value="name"
      :aria-label="dial.label"
      spellcheck="false"
      @change="commit(($event.target as HTMLInputElement).value)"
      @keydown.stop
    />
    <ramp-dial
      v-if="dial.type === 'ramp'"
      :dial="dial"
      :value="value as Stop[]"
      @preview="held = $event"
      @commit="commit"
    />
    <div v-if="dial.type === 'vector'" class="vector">
      <label v-for="(axis, index) in ['x', 'y', 'z']" :key="axis">
        <span class="axis">{{ axis }}</span>
        <number-field
          :value="(value as number[])[index]"
          :low="low"
          :high="high"
          :label="`${dial.label} ${axis}`"
          @preview="held = vectorPart(index, $event)"
          @commit="commit(vectorPart(index, $event))"
        />
      </label>
      <span class="unit">{{ dial.unit }}</span>
    </div>
    <div
      v-if="numeric"
      class="track"
      aria-hidden="true"
      @pointerdown="trackDown"
      @pointermove="trackMove"
      @pointerup="trackUp"
      @pointercancel="dragging = false"
    >
      <span class="rail" />
      <span class="fill" :style="{ width: part(value as number) }" />
      <span class="tick" :style="{ left: part(dial.default as number) }" />
    </div>
    <finding-line v-if="finding" :finding="finding" />
  </div>
</template>

<style scoped>
.dial {
  padding: 3px 0 2px;
}

.line {
  display: flex;
  align-items: center;
  gap: 6px;
  min-height: 22px;
}

.label {
  min-width: 0;
  color: var(--text);
}

.off .label {
  color: var(--accent);
}

.space {
  flex: 1;
}

.unit {
  color: var(--faint);
  font-size: 11.5px;
  min-width: 8px;
}

.key svg {
  display: block;
  fill: none;
  stroke: var(--faint);
}

.key.some svg {
  stroke: var(--accent);
}

.key.here svg {
  fill: var(--accent);
  stroke: var(--accent);
}

.reset {
  width: 12px;
  color: var(--faint);
  font-size: 14px;
  line-height: 1;
}

.reset:hover {
  color: var(--text);
}

.select {
  width: 124px;
}

.colour {
  flex: 0 0 92px;
  max-width: 92px;
}

.track {
  position: relative;
  height: 11px;
  margin-right: 18px;
  cursor: pointer;
  touch-action: none;
}

.rail,
.fill {
  position: absolute;
  left: 0;
  top: 4px;
  height: 3px;
  border-radius: 2px;
}

.rail {
  right: 0;
  background: var(--track);
}

.fill {
  background: var(--quiet);
}

.off .fill {
  background: var(--accent);
}

.tick {
  position: absolute;
  top: 2px;
  width: 1px;
  height: 7px;
  background: var(--faint);
}

.vector {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 1px 0 3px;
}

.vector label {
  display: flex;
  align-items: center;
  gap: 3px;
  background: var(--panel);
  border-radius: 6px;
  padding: 1px 3px 1px 6px;
  flex: 1;
  justify-content: space-between;
}

.text {
  width: 100%;
  font:
    11.5px "JetBrains Mono",
    monospace;
  color: inherit;
  background: var(--panel);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 3px 6px;
}

.axis {
  color: var(--faint);
}
</style>
