<script setup lang="ts">
import { computed, nextTick, ref } from "vue";
import { api } from "../api/client";
import type { Dial, ShotNode } from "../api/types";
import FindingLine from "../dials/FindingLine.vue";
import DialGroup from "../dials/DialGroup.vue";
import JobProgress from "../lib/JobProgress.vue";
import NameField from "../lib/NameField.vue";
import { useCatalog } from "../stores/catalog";
import { useChosen } from "../stores/chosen";
import { useDesk } from "../stores/desk";
import { tints } from "../theme";
import NodeActions from "./NodeActions.vue";
import NodeSwitches from "./NodeSwitches.vue";
import LayerActions from "./LayerActions.vue";
import KickCount from "./KickCount.vue";
import SightActions from "./SightActions.vue";
import TrackActions from "./TrackActions.vue";
import StepSketch from "./StepSketch.vue";

const props = defineProps<{
  node: ShotNode;
  open: boolean;
  /** Shows only what is not as it comes. */
  changed?: boolean;
}>();
const emit = defineEmits<{ toggle: [] }>();
const desk = useDesk();
const catalog = useCatalog();
const chosen = useChosen();
const renaming = ref(false);
const head = ref<HTMLElement | null>(null);

const kind = computed(() => catalog.kind(props.node.kind));
/** Whether a dial is not as it comes: set, keyed or by a formula. */
const differs = (dial: Dial) =>
  dial.name in props.node.dials || !!props.node.keys[dial.name]?.length || !!props.node.formulas?.[dial.name];
const set = computed(
  () => kind.value.dials.filter((dial) => catalog.applies(props.node, dial) && differs(dial)).length,
);
/** Dials that are called otherwise here, so that a row whose dial stays as it is need not be shown anew. */
const renamed = new Map<string, Dial>();
function called(dial: Dial): Dial {
  const label = catalog.called(props.node, dial)!;
  if (label === dial.label) return dial;
  const name = `${dial.name} ${label}`;
  if (!renamed.has(name)) renamed.set(name, { ...dial, label });
  return renamed.get(name)!;
}
const groups = computed(() => {
  const groups = new Map<string, Dial[]>();
  for (const dial of kind.value.dials) {
    if (!catalog.applies(props.node, dial) || (props.changed && !differs(dial))) continue;
    const name = dial.group ?? "";
    groups.set(name, [...(groups.get(name) ?? []), called(dial)]);
  }
  return groups;
});
const tint = computed(
  () =>
    ({
      source: tints.smoke,
      inflow: tints.liquid,
      kick: tints.liquid,
      liquid: tints.liquid,
      emitter: tints.heat,
      force: tints.speed,
      sun: tints.light,
      lamp: tints.light,
      sky: tints.fog,
      look: tints.smoke,
      layer: tints.light,
      effect: tints.heat,
      mask: tints.fog,
      track: tints.speed,
    })[props.node.kind] ?? "#4a545b",
);

async function measure() {
  const answer =
    desk.shot && (await desk.attempt(() => api.measureGrain(desk.shot!.id, props.node.id, desk.frame)));
  if (answer) desk.take(answer);
}

/** One quiet remark that tells this card from its neighbours. */
const remark = computed(() => {
  const read = (name: string) => catalog.read(props.node, name);
  if (["source", "inflow"].includes(props.node.kind)) {
    const from = desk.byId.get(read(read("from") === "particles" ? "emitter" : "prop") as string);
    return from ? `from ${from.name}` : "from nothing yet";
  }
  if (props.node.kind === "force") {
    const what = kind.value.dials.find((dial) => dial.name === "what")?.choices?.[read("what") as string];
    return `${what}`;
  }
  if (props.node.kind === "prop") {
    const shape = kind.value.dials.find((dial) => dial.name === "shape")?.choices?.[read("shape") as string];
    return `${shape}${read("collider") ? ", in the way" : ""}`;
  }
  if (["operation", "step", "layer", "effect", "mask"].includes(props.node.kind)) {
    const what = kind.value.dials.find((dial) => dial.name === "what")?.choices?.[read("what") as string];
    return String(what).toLowerCase() === props.node.name.toLowerCase() ? "" : `${what}`;
  }
  if (props.node.kind === "look") return desk.shownLook === props.node.id ? "shown" : "not shown";
  return kind.value.label === props.node.name ? "" : kind.value.label.toLowerCase();
});

/** What was found about it as a whole; the rest stands at its dials. */
const found = computed(() =>
  desk.findings.filter((finding) => finding.node === props.node.id && !finding.dial),
);
const sketched = computed(() => props.node.kind === "step" || props.node.kind === "sculpt");
const warned = computed(() => desk.findingNodes.has(props.node.id));

/** @param stay keep the focus on the card */
function named(name: string, stay: boolean) {
  renaming.value = false;
  if (stay) void nextTick(() => head.value?.focus());
  if (name !== props.node.name) void desk.edit([{ do: "rename", node: props.node.id, name }]);
}
</script>

<template>
  <section
    class="card"
    :class="{
      open,
      selected: chosen.all.includes(node.id),
      out: kind.switched && !desk.counts(node),
      sketched,
    }"
    :data-node="node.id"
  >
    <header>
      <div v-if="renaming" class="head">
        <span class="chip" :style="{ background: tint }" />
        <name-field :name="node.name" label="Name" @named="named" @left="named(node.name, true)" />
      </div>
      <button
        v-else
        ref="head"
        class="head"
        :aria-expanded="open"
        :title="`${open ? 'Fold' : 'Open'} ${node.name}; double-click renames it, Shift chooses one more`"
        @click="$event.shiftKey ? chosen.toggle(node.id) : emit('toggle')"
        @dblclick="renaming = true"
      >
        <span class="chip" :style="{ background: tint }" />
        <span class="name" :class="{ alone: !remark }">{{ node.name }}</span>
        <span v-if="remark && !changed" class="remark">{{ remark }}</span>
        <span v-if="changed" class="remark" data-set>{{ set }} of {{ kind.dials.length }} set</span>
        <span v-if="warned" class="warned" title="Preflight found something here"
          ><span class="sr-only">something found</span>!</span
        >
      </button>
      <step-sketch v-if="sketched" :node="node" />
      <node-switches v-if="kind.switched" :node="node" />
    </header>
    <div v-if="open" class="body">
      <img
        v-if="node.kind === 'texture'"
        class="swatch"
        :src="`/api/shots/${desk.shot?.id}/textures/${node.id}.png?frame=${desk.frame}&head=${desk.shot?.head}`"
        alt="What it looks like, four of its features wide"
        data-swatch
      />
      <finding-line v-for="finding in found" :key="finding.text" :finding="finding" />
      <track-actions v-if="node.kind === 'track'" :node="node" />
      <layer-actions v-if="node.kind === 'layer'" :node="node" />
      <button
        v-if="node.kind === 'effect' && catalog.read(node, 'what') === 'grain'"
        class="link"
        title="Measures how much, how coarse and how coloured the plate's own grain is at this frame"
        data-measure-grain
        @click="measure"
      >
        As the plate has it
      </button>
      <template v-if="node.kind === 'export'">
        <job-progress v-if="desk.exporting" :job="desk.exporting" />
        <button
          v-else
          class="pill main"
          title="Write its files in the background"
          data-export-saved
          @click="desk.shot && desk.attempt(() => api.exportSaved(desk.shot!.id, node.id))"
        >
          Export
        </button>
      </template>
      <sight-actions v-if="node.kind === 'camera'" />
      <kick-count v-if="node.kind === 'kick'" :node="node" />
      <dial-group v-for="[group, dials] in groups" :key="group" :label="group" :node="node" :dials="dials" />
      <node-actions v-if="!changed" :node="node" @rename="renaming = true" />
    </div>
  </section>
</template>

<style scoped>
.card {
  background: var(--card);
  border: 1px solid transparent;
  border-radius: 10px;
  margin-bottom: 6px;
}

.swatch {
  display: block;
  width: 100%;
  margin: 2px 0 8px;
  border-radius: 6px;
}

.warned {
  flex: none;
  width: 14px;
  border-radius: 4px;
  background: var(--warning);
  color: #13171a;
  font-size: 10.5px;
  font-weight: 700;
  line-height: 14px;
  text-align: center;
}

.card.open {
  border-color: var(--line);
}

.card.selected {
  border-color: #55612f;
}

header {
  display: flex;
  align-items: center;
  gap: 2px;
  padding-right: 6px;
}

.card:hover :deep(.switch),
.card:focus-within :deep(.switch) {
  opacity: 1;
}

.card.out .head,
.card.out .body {
  opacity: 0.5;
}

.head {
  flex: 1;
  min-width: 0;
  display: flex;
  align-items: center;
  gap: 9px;
  padding: 9px 12px;
  text-align: left;
  border-radius: 10px;
}

.chip {
  width: 8px;
  height: 16px;
  border-radius: 4px;
  flex: none;
}

.name {
  flex: none;
  max-width: 66%;
  font-weight: 500;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}

/* Beside a picture there is little room, but two lines of it. */
.sketched .name {
  max-width: none;
  flex: 1;
  white-space: normal;
  line-height: 1.2;
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
}

.sketched .remark {
  display: none;
}

.name.alone {
  flex: 1;
  max-width: none;
}

.open .name {
  font-weight: 650;
}

.remark {
  flex: 1;
  min-width: 0;
  text-align: right;
  color: var(--faint);
  font-size: 11.5px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}

.body {
  padding: 0 12px 10px;
}
</style>
