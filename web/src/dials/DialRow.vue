<script setup lang="ts">
import { NTooltip } from "naive-ui";
import { computed, ref, watch } from "vue";
import type { Dial, ShotNode, Value } from "../api/types";
import { length, plain } from "../lib/numbers";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { useHand } from "../stores/hand";
import { useStrip } from "../stores/strip";
import { varies } from "../strip/values";
import { fields } from "./fields";
import FindingLine from "./FindingLine.vue";

/** One dial: its label, its key, the field of its type, and what is wrong with it. */
const props = defineProps<{
  node: ShotNode;
  dial: Dial;
  /** Sets it in another way than usual. */
  setting?: (value: unknown) => Promise<string | null>;
}>();
const desk = useDesk();
const catalog = useCatalog();
const hand = useHand();
const strips = useStrip();

const id = computed(() => `${props.node.id}.${props.dial.name}`);
const keys = computed(() => props.node.keys[props.dial.name] ?? []);
/** Its formulas, one for each part. */
const formulas = computed<(string | null)[]>(() => [props.node.formulas?.[props.dial.name] ?? []].flat());
const reckoned = computed(() => formulas.value.some((text) => text));
/** A number may go by a formula, wherever it is one field. */
const numeric = computed(() => ["number", "whole", "vector"].includes(props.dial.type));
const reckons = computed(() => numeric.value && catalog.kind(props.node.kind).chapter !== "timeline");
const stored = computed<Value>(() => {
  const wanted = desk.wanted(id.value);
  if (wanted !== undefined) return wanted;
  if (!keys.value.length && !reckoned.value) return catalog.value(props.node, props.dial);
  const row = desk.shot?.timeline.find((r) => r.node === props.node.id && r.dial === props.dial.name);
  const values: Value[] | undefined = row?.raw ?? row?.values;
  return values?.[desk.frame - desk.first] ?? catalog.value(props.node, props.dial);
});
/** What a drag shows before it is let go. */
const held = ref<Value | undefined>(undefined);
watch(stored, () => (held.value = undefined));
watch(held, (value) => {
  const { node, dial } = props;
  if (value !== undefined) hand.hold(node.id, dial.name, value);
  else if (hand.held?.node === node.id && hand.held.dial === dial.name) hand.drop(false);
});
const value = computed(() => held.value ?? stored.value);
/** What was refused, as a sentence. */
const wrong = ref("");
const off = computed(() => props.dial.name in props.node.dials || keys.value.length > 0 || reckoned.value);
const here = computed(() => keys.value.some((key) => key.frame === desk.frame));
const field = computed(() => fields[props.dial.type] ?? {});
const finding = computed(() => desk.findingByDial.get(id.value));
/** The texture that it goes by, by name. */
const driver = computed(() => {
  const id = props.dial.driven && catalog.read(props.node, props.dial.driven);
  return (typeof id === "string" && desk.byId.get(id)?.name) || "";
});
const unit = computed(() => {
  const number = value.value;
  if (props.dial.zero && number === 0) return props.dial.zero;
  const [other, units] = Object.entries(props.dial.units ?? {})[0] ?? [];
  const unit = units?.[catalog.read(props.node, other) as string] ?? props.dial.unit ?? "";
  // A rate is felt as the time in which half is gone.
  if (props.dial.half_life && typeof number === "number" && number > 0)
    return `${unit}, half in ${(Math.LN2 / number).toPrecision(2)} s`;
  // Thickness is felt as how far light goes.
  if (props.dial.mean_path && typeof number === "number" && number > 0)
    return `${unit} · ${length(1 / number)}`;
  return unit;
});

/** @param part of a vector, which is set to a number in the place of its formula */
async function set(next: unknown, part?: string): Promise<string | null> {
  const { id, name } = { id: props.node.id, name: props.dial.name };
  hand.drop(true);
  const rule = part ? formulas.value["xyz".indexOf(part)] : formulas.value[0];
  const refused = props.setting
    ? await props.setting(next)
    : rule
      ? await desk.timing.instead(id, name, next as Value, keys.value.length ? desk.frame : undefined, part)
      : await desk.turn(id, name, next);
  wrong.value = refused ?? "";
  if (refused) hand.drop(false);
  held.value = undefined;
  return refused;
}

async function reckon(formula: string | null, part?: string): Promise<string | null> {
  const refused = await desk.timing.formula(props.node.id, props.dial.name, formula, part);
  wrong.value = refused ?? "";
  return refused;
}

async function key() {
  const place = { node: props.node.id, dial: props.dial.name };
  if (here.value) return desk.edit([{ do: "drop_key", ...place, frame: desk.frame }]);
  // What is shown counts, whatever the server has answered so far.
  wrong.value = (await desk.wish(place.node, place.dial, value.value, desk.frame)) ?? "";
}

function reset() {
  wrong.value = "";
  return desk.set(props.node.id, props.dial.name, props.dial.default);
}
</script>

<template>
  <div class="dial" :class="{ off }" :data-dial="id" :data-keyed="dial.keyed">
    <div class="line">
      <n-tooltip trigger="hover" placement="right" :delay="350" :style="{ maxWidth: '260px' }">
        <template #trigger>
          <span class="label" @contextmenu.prevent="varies(dial) && strips.vary(node, dial)">{{
            dial.label
          }}</span>
        </template>
        {{ dial.help }}
        <template v-if="varies(dial)"> Right click: vary it in a test strip.</template>
        <template v-if="dial.range"> From {{ plain(dial.range[0]) }} to {{ plain(dial.range[1]) }}.</template>
      </n-tooltip>
      <button
        v-if="dial.keyed"
        class="key"
        :class="{ some: keys.length, here }"
        :aria-label="here ? `Take away the key of ${dial.label}` : `Set a key of ${dial.label} here`"
        :title="here ? 'Take the key away (N)' : 'Set a key here (N)'"
        data-key
        @click="key"
      >
        <svg width="9" height="11" viewBox="0 0 9 11"><path d="M.5.5h8v5.5L4.5 10 .5 6z" /></svg>
      </button>
      <span class="space" />
      <component
        :is="field.beside"
        v-if="field.beside"
        :dial="dial"
        :node="node"
        :value="value"
        :set="set"
        v-bind="numeric ? { formulas, reckon: reckons ? reckon : undefined } : {}"
        @preview="held = $event"
        @forget="wrong = ''"
      />
      <span v-if="['number', 'whole'].includes(dial.type)" class="unit">{{ unit }}</span>
      <button
        v-if="off"
        class="reset"
        title="Back to the default"
        :aria-label="`Reset ${dial.label}`"
        @click="reset"
      >
        ×
      </button>
      <span v-else class="reset" />
    </div>
    <component
      :is="field.below"
      v-if="field.below"
      :dial="dial"
      :node="node"
      :value="value"
      :set="set"
      v-bind="dial.type === 'vector' ? { formulas, reckon: reckons ? reckon : undefined } : {}"
      @preview="held = $event"
      @forget="wrong = ''"
    />
    <p v-if="driver" class="formula" data-driven>goes by the texture {{ driver }}</p>
    <p v-if="reckoned" class="formula" data-formula>
      <template v-for="(text, n) in formulas" :key="n"
        ><span v-if="text">{{ formulas.length > 1 ? `${"xyz"[n]} ` : "" }}= {{ text }}</span></template
      >
    </p>
    <p v-if="wrong" class="wrong" role="alert" data-refused>{{ wrong }}</p>
    <finding-line v-if="finding" :finding="finding" />
  </div>
</template>

<style scoped>
.dial {
  padding: 2px 0 1px;
}

.line {
  display: flex;
  align-items: center;
  gap: 4px;
  min-height: 24px;
}

.label {
  min-width: 0;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  color: var(--text);
}

/* Before a label is cut, what stands beside it gives way. */
.line :deep(.n-select) {
  flex: 0 1000 auto;
  min-width: 84px;
}

.line :deep(.n-color-picker) {
  flex: 0 0 92px;
}

.off .label {
  color: var(--accent);
}

.off {
  --dial-fill: var(--accent);
}

.space {
  flex: 1;
}

.unit {
  color: var(--faint);
  font-size: 11.5px;
  min-width: 8px;
  white-space: nowrap;
}

.key {
  display: grid;
  place-items: center;
}

.key svg {
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
  flex: none;
  width: 24px;
  margin-right: -6px;
  color: var(--faint);
  font-size: 14px;
  line-height: 1;
}

button.reset:hover {
  color: var(--text);
}

.formula {
  margin: 0 0 3px;
  color: var(--accent);
  font: 11.5px var(--mono, "JetBrains Mono", monospace);
  overflow-wrap: anywhere;
}

.formula span {
  display: block;
}

.wrong {
  margin: 3px 0 6px;
  padding: 5px 8px;
  border-left: 2px solid var(--error);
  border-radius: 0 6px 6px 0;
  background: rgb(255 143 134 / 8%);
  color: var(--error);
  font-size: 11.5px;
  overflow-wrap: anywhere;
}
</style>
