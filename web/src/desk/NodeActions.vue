<script setup lang="ts">
import { NDropdown } from "naive-ui";
import { computed, ref } from "vue";
import { api } from "../api/client";
import type { ShotNode } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import type { Outlook } from "../view/eye";
import DuplicateDialog from "./DuplicateDialog.vue";
import PaceAction from "./PaceAction.vue";
import PresetActions from "./PresetActions.vue";
import ReadyShelf from "./ReadyShelf.vue";

const props = defineProps<{ node: ShotNode }>();
const emit = defineEmits<{ rename: [] }>();
const desk = useDesk();
const catalog = useCatalog();
const kind = computed(() => catalog.kind(props.node.kind));
const needed = computed(() => kind.value.first && props.node.id === props.node.kind);

/** Whether a prop moves or falls apart, so that it can be a mesh for each frame. */
const changes = (node: ShotNode) =>
  Object.keys(node.keys).length + Object.keys(node.formulas ?? {}).length > 0 ||
  (node.kind === "operation" &&
    !!catalog.read(
      node,
      { displace: "drift", copies: "stray_speed" }[String(catalog.read(node, "what"))] ?? "",
    ));
const moves = computed(
  () =>
    props.node.kind === "prop" &&
    ([props.node, ...desk.operations(props.node.id)].some(changes) ||
      !!catalog.read(props.node, "breaks") ||
      !!catalog.read(props.node, "rests") ||
      !!catalog.read(props.node, "plays")),
);
const baking = ref(false);
/** Whether it is asked how several more of it shall differ. */
const rowed = ref(false);
/** What the chamber can be fitted to. */
const fits = computed(() => [
  { key: "sources", label: "All sources, over all their time" },
  { key: "run", label: "What the last run filled" },
  ...desk.nodes
    .filter((node) => node.kind === "prop" && !node.locked)
    .map((node) => ({ key: `prop ${node.id}`, label: node.name })),
]);

async function fit(key: string) {
  const { shot } = desk;
  const [to, prop] = key.split(" ");
  const answer = shot && (await desk.attempt(() => api.fit(shot.id, to, prop ?? null)));
  if (answer) desk.take(answer);
}

async function putDown() {
  const { shot, frame } = desk;
  const answer = shot && (await desk.attempt(() => api.putDown(shot.id, props.node.id, frame)));
  if (answer) desk.take(answer);
}

async function bake() {
  const { shot } = desk;
  if (!shot) return;
  baking.value = true;
  const answer = await desk.attempt(() => api.bake(shot.id, props.node.id));
  baking.value = false;
  if (answer) desk.take(answer);
}

/** What is done to the same prop before and after it. */
const neighbours = computed(() => {
  const { kind } = props.node;
  const owner = desk.family.owner(props.node);
  const all = owner ? desk.family.of(owner.id, kind) : kind === "layer" ? desk.family.layers : null;
  if (!all) return null;
  const at = all.findIndex((node) => node.id === props.node.id);
  return { before: all[at - 1], after: all[at + 1], all };
});

/** Goes before or behind its neighbour; all are numbered anew, so that every step counts. */
function reorder(by: number) {
  const all = [...neighbours.value!.all];
  const at = all.findIndex((node) => node.id === props.node.id);
  all.splice(at + by, 0, ...all.splice(at, 1));
  return desk.edit(all.map((node, n) => ({ do: "set", node: node.id, dial: "order", value: n })));
}

/** What a map can take its strength from. */
const mark = computed(() => props.node.dials.shape === "mark");
const mapped = computed(() => ["source", "emitter", "prop"].includes(props.node.kind) && !mark.value);
const sorts = computed(() => {
  const dial = mapped.value && catalog.kind("map").dials.find((one) => one.name === "what");
  return Object.entries((dial && dial.choices) || {}).map(([key, label]) => ({ key, label: String(label) }));
});

async function addMap(what: string) {
  const before = new Set(desk.nodes.map((node) => node.id));
  const mine = desk.maps(props.node.id);
  const order = Math.max(-1, ...mine.map((node) => catalog.read(node, "order") as number)) + 1;
  const front = desk.nodes.find((node) => node.kind === "front")?.id;
  const name = sorts.value.find((one) => one.key === what)!.label.replace(/^./, (c) => c.toUpperCase());
  const dials = { to: props.node.id, order, what, ...(what === "front" && front ? { front } : {}) };
  await desk.edit([{ do: "add", kind: "map", name, dials }]);
  desk.selected = desk.nodes.find((node) => !before.has(node.id))?.id ?? desk.selected;
}

/** A source with a prop of its own, beside the first. */
function withProp() {
  const prop = String(catalog.read(props.node, "prop"));
  return desk.edit([{ do: "duplicate", nodes: [prop, props.node.id], by: [0.5, 0, 0] }]);
}

const saved = () => desk.outlook(props.node);

/** The camera stands there, with no prop in between. */
function give(from: Outlook) {
  // The view's own lens is told on a frame 36 mm wide.
  const focal = (from.focal * (catalog.read(desk.byId.get("camera")!, "film") as number)) / 36;
  const dials = Object.entries({ ...from, focal }).map(([dial, value]) => ({
    do: "set",
    node: "camera",
    dial,
    value,
  }));
  return desk.edit([{ do: "set", node: "camera", dial: "leader", value: null }, ...dials]);
}

/** The view looks from a lamp to what it shines at. */
async function lookFromLamp() {
  const { shot, frame } = desk;
  const from = shot && (await desk.attempt(() => api.lampOutlook(shot.id, props.node.id, frame)));
  if (from) desk.view?.lookFrom(from);
}

/** The lamp hangs where one looks from, and shines at what is in the middle. */
function hangHere() {
  if (!desk.view) return;
  const { position, target } = desk.view.outlook();
  const place = { position, ...(catalog.read(props.node, "as") === "point" ? {} : { target }) };
  const free = props.node.dials.aim ? [{ do: "set", node: props.node.id, dial: "aim", value: null }] : [];
  return desk.edit([...free, { do: "place", node: props.node.id, frame: desk.frame, ...place }]);
}
</script>

<template>
  <footer>
    <template v-if="node.kind === 'look'">
      <button
        v-if="desk.shownLook !== node.id"
        class="link"
        title="The view and the picture show the smoke with this look"
        data-show-look
        @click="desk.set('picture', 'look', node.id)"
      >
        Show this one
      </button>
      <ready-shelf :node="node" of="look" />
    </template>
    <template v-if="node.kind === 'prop'">
      <ready-shelf v-if="!mark" :node="node" of="material" />
      <button
        class="link"
        title="It stands on what is under it, as things are at this frame"
        data-put-down
        @click="putDown"
      >
        Put down
      </button>
    </template>
    <button
      v-if="node.kind === 'lamp' && catalog.read(node, 'as') !== 'point'"
      class="link"
      :aria-pressed="desk.aiming === node.id"
      title="Click in the view on what it shall shine at"
      data-pick-aim
      @click="desk.aiming = desk.aiming === node.id ? null : node.id"
    >
      {{ desk.aiming === node.id ? "Click what it shall shine at…" : "Aim in the view" }}
    </button>
    <template v-if="node.kind === 'lamp'">
      <button
        class="link"
        title="The view looks from the lamp to what it shines at"
        data-look-from-lamp
        @click="lookFromLamp"
      >
        Look from it
      </button>
      <button
        class="link"
        title="The lamp hangs where one looks from now, and shines at the middle of the view"
        data-hang-here
        @click="hangHere"
      >
        Hang it here
      </button>
    </template>
    <button
      v-if="node.kind === 'camera'"
      class="link"
      :aria-pressed="desk.focusing"
      title="Click in the view on what shall be sharp"
      data-pick-focus
      @click="desk.focusing = !desk.focusing"
    >
      {{ desk.focusing ? "Click what shall be sharp…" : "Pick focus" }}
    </button>
    <button
      v-if="node.kind === 'camera'"
      class="link"
      title="The camera stands where one looks from now"
      data-from-view
      @click="desk.view && give(desk.view.outlook())"
    >
      Take the view
    </button>
    <template v-if="node.kind === 'view'">
      <button
        class="link"
        title="The view looks from there"
        data-look-from
        @click="desk.view?.lookFrom(saved())"
      >
        Look from here
      </button>
      <button class="link" title="The camera stands there" data-to-camera @click="give(saved())">
        Give it to the camera
      </button>
    </template>
    <button
      v-if="node.kind === 'picture'"
      class="link"
      :disabled="desk.measuring || (!desk.row?.key && desk.row?.state !== 'still')"
      title="Set the exposure that this frame's light asks for"
      data-meter
      @click="desk.meter()"
    >
      {{ desk.measuring ? "Measuring the light…" : "Expose by this frame" }}
    </button>
    <n-dropdown v-if="node.kind === 'chamber'" trigger="click" :options="fits" @select="fit">
      <button class="link" title="Place and size it around something" data-fit>Fit to…</button>
    </n-dropdown>
    <pace-action v-if="node.kind === 'chamber'" :node="node" />
    <template v-if="neighbours">
      <button
        class="link"
        :disabled="!neighbours.before"
        title="Let it come before the one above"
        data-earlier
        @click="reorder(-1)"
      >
        Earlier
      </button>
      <button
        class="link"
        :disabled="!neighbours.after"
        title="Let it come after the one below"
        data-later
        @click="reorder(1)"
      >
        Later
      </button>
    </template>
    <n-dropdown v-if="mapped" trigger="click" :options="sorts" @select="addMap">
      <button
        class="link"
        :title="node.kind === 'prop' ? 'Where it has its second colour' : 'Where it is strong and where weak'"
        data-add-map
      >
        Add map
      </button>
    </n-dropdown>
    <preset-actions v-if="node.kind !== 'general'" :node="node" />
    <template v-if="!kind.single">
      <button
        v-if="node.kind === 'source' && desk.byId.has(String(catalog.read(node, 'prop')))"
        class="link"
        title="One more of it, from a prop of its own beside the first"
        data-with-prop
        @click="withProp"
      >
        Duplicate with prop
      </button>
      <button class="link" title="Also by double-click on the name" @click="emit('rename')">Rename</button>
      <button
        v-if="moves"
        class="link"
        :disabled="baking"
        title="Swap it for the same as a mesh of its own for each frame; undo brings it back"
        data-bake
        @click="bake"
      >
        {{ baking ? "Baking…" : "Bake" }}
      </button>
      <button
        class="link"
        title="One more of it with the same dials and keys"
        @click="desk.edit([{ do: 'duplicate', nodes: [node.id] }])"
      >
        Duplicate
      </button>
      <button
        class="link"
        title="Several more, each off the one before in place, turn, size, time or any number"
        data-in-a-row
        @click="rowed = true"
      >
        In a row…
      </button>
      <button
        v-if="!needed"
        class="link"
        title="Take it out of the shot (Delete)"
        data-remove
        @click="desk.edit([{ do: 'remove', node: node.id }])"
      >
        Take away
      </button>
    </template>
    <duplicate-dialog v-if="rowed" :nodes="[node]" @close="rowed = false" />
  </footer>
</template>

<style scoped>
footer {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  padding-top: 10px;
  font-size: 11.5px;
}

footer:empty {
  display: none;
}
</style>
