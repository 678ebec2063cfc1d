<script setup lang="ts">
import { NDropdown } from "naive-ui";
import { computed, ref } from "vue";
import { api } from "../api/client";
import type { ShotNode } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import LookShelf from "./LookShelf.vue";

const props = defineProps<{ node: ShotNode }>();
const emit = defineEmits<{ rename: [] }>();
const desk = useDesk();
const catalog = useCatalog();
const kind = computed(() => catalog.kind(props.node.kind));
const needed = computed(() => kind.value.first && props.node.id === props.node.kind);

/** Whether a prop moves or falls apart, so that it can be a mesh for each frame. */
const moves = computed(
  () =>
    props.node.kind === "prop" &&
    (Object.keys(props.node.keys).length > 0 ||
      !!catalog.read(props.node, "breaks") ||
      !!catalog.read(props.node, "plays")),
);
const baking = ref(false);
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
  if (props.node.kind !== "operation") return null;
  const all = desk.operations(catalog.read(props.node, "prop") as string);
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

/** A prop takes along what is done to its shape. */
async function duplicate() {
  const { kind, name, dials, keys, beyond, formulas } = props.node;
  const before = new Set(desk.nodes.map((node) => node.id));
  const done = kind === "prop" ? desk.operations(props.node.id) : [];
  await desk.edit([{ do: "add", kind, name: `${name} copy`, dials, keys, beyond, formulas }]);
  const twin = desk.nodes.find((node) => !before.has(node.id));
  if (twin && done.length)
    await desk.edit(
      done.map((node) => ({
        do: "add",
        kind: node.kind,
        name: node.name,
        dials: { ...node.dials, prop: twin.id },
        keys: node.keys,
        beyond: node.beyond,
        formulas: node.formulas,
      })),
    );
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
      <look-shelf :node="node" />
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
      v-if="node.kind === 'picture'"
      class="link"
      :disabled="desk.measuring || !desk.row?.key"
      title="Set the exposure that this frame's light asks for"
      data-meter
      @click="desk.meter()"
    >
      {{ desk.measuring ? "Measuring the light…" : "Expose by this frame" }}
    </button>
    <n-dropdown v-if="node.kind === 'chamber'" trigger="click" :options="fits" @select="fit">
      <button class="link" title="Place and size it around something" data-fit>Fit to…</button>
    </n-dropdown>
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
    <template v-if="!kind.single">
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
      <button class="link" title="One more of it with the same dials and keys" @click="duplicate">
        Duplicate
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
