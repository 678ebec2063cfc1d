<script setup lang="ts">
import { NDropdown } from "naive-ui";
import { computed, ref, watch } from "vue";
import type { ShotNode } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { useArrivals } from "../stores/arrivals";
import { chapters } from "./chapters";
import FindingLine from "../dials/FindingLine.vue";
import ExportPanel from "./ExportPanel.vue";
import ForecastCard from "./ForecastCard.vue";
import NodeCard from "./NodeCard.vue";
import { inFinish, needed } from "./inFinish";
import { onTop } from "./onTop";

const desk = useDesk();
const catalog = useCatalog();
const chapter = computed(() => chapters.find((candidate) => candidate.name === desk.chapter)!);
const kinds = computed(
  () => catalog.catalog?.kinds.filter((kind) => kind.chapter === chapter.value.name) ?? [],
);
/** How far below the thing that it belongs to it stands. */
const depth = (node: ShotNode): number => {
  const owner = desk.family.owner(node);
  return owner ? 1 + depth(owner) : 0;
};
const nodes = computed(() => {
  const order = new Map(kinds.value.map((kind, index) => [kind.name, index]));
  return desk.nodes
    .filter((node) => order.has(node.kind))
    .sort(
      (a, b) =>
        order.get(a.kind)! - order.get(b.kind)! ||
        desk.family.layers.indexOf(a) - desk.family.layers.indexOf(b),
    )
    .filter((node) => !depth(node))
    .flatMap((node) => [node, ...desk.belonging(node.id)]);
});
const addable = computed(() =>
  kinds.value.filter(
    (kind) =>
      !kind.single &&
      kind.name !== "map" &&
      !(kind.most && desk.nodes.filter((node) => node.kind === kind.name).length >= kind.most),
  ),
);
/** What is looked at first: of chambers the one that something goes on in. */
const foremost = () =>
  nodes.value.find((node) => node.kind === "liquid" && !desk.nodes.some((one) => one.kind === "source")) ??
  nodes.value[0];
/** The choices of a dial, as a menu has them. */
const choices = (kind: string, name: string) => {
  const dial = catalog.catalog?.kinds
    .find((candidate) => candidate.name === kind)
    ?.dials.find((candidate) => candidate.name === name);
  return Object.entries(dial?.choices ?? {}).map(([key, label]) => ({ key, label: String(label) }));
};
/** What a new one of these is, from a menu. */
const MENUS: Record<string, string> = {
  prop: "shape",
  operation: "what",
  step: "what",
  layer: "what",
  effect: "what",
  mask: "what",
};
const SHORT = { layer: true, effect: true, mask: true };
const menus = computed(() =>
  Object.fromEntries(Object.entries(MENUS).map(([kind, dial]) => [kind, choices(kind, dial)])),
);
/** What was found of the shot itself and not of a thing in it. */
const found = computed(() =>
  chapter.value.name === "sources" ? desk.findings.filter((finding) => !finding.node) : [],
);
const arrivals = useArrivals();
const picker = ref<HTMLInputElement | null>(null);
const opened = ref<Record<string, string | null>>({});
const open = computed(() => opened.value[desk.chapter] ?? null);

watch(
  () => [desk.chapter, nodes.value.length] as const,
  () => {
    if (opened.value[desk.chapter] === undefined && nodes.value.length)
      opened.value[desk.chapter] = foremost().id;
  },
  { immediate: true },
);

// What is picked in the view opens here.
watch(
  () => desk.selected,
  (id) => {
    if (id && nodes.value.some((node) => node.id === id)) opened.value[desk.chapter] = id;
  },
  { flush: "post" },
);

function toggle(id: string) {
  opened.value[desk.chapter] = open.value === id ? "" : id;
  desk.selected = open.value || null;
}

/** A box as large as the last chamber, on its right, so that gas passes at once. */
function beside() {
  const last = desk.nodes.filter((node) => ["chamber", "annex"].includes(node.kind)).at(-1)!;
  const [x, y, z] = catalog.read(last, "position") as number[];
  const size = catalog.read(last, "size") as number[];
  return { position: [x + size[0], y, z], size };
}

/** A prop that is a mesh begins with its files. */
const choose = (kind: string, what: string) =>
  kind === "prop" && what === "mesh" ? picker.value?.click() : add(kind, { [MENUS[kind]]: what });

/** A prop with a body, which a mark has not. */
const bodied = (node: ShotNode | undefined) => node?.kind === "prop" && node.dials.shape !== "mark";

/** The prop that is picked, or the first that may be moved, and a place behind all that is done to it. */
function behind(): { prop?: string; order?: number } {
  const picked = desk.byId.get(desk.selected ?? "");
  const prop =
    picked && bodied(picked)
      ? picked
      : picked?.kind === "operation"
        ? desk.byId.get(catalog.read(picked, "prop") as string)
        : desk.nodes.find((node) => bodied(node) && !node.locked);
  if (!prop) return {};
  const orders = desk.operations(prop.id).map((node) => catalog.read(node, "order") as number);
  return { prop: prop.id, order: Math.max(-1, ...orders) + 1 };
}

/** Files from this machine; what belongs together is chosen together. */
function bring(event: Event) {
  const field = event.target as HTMLInputElement;
  void arrivals.bring([...(field.files ?? [])], null).then(() => (field.value = ""));
}

/** Shows of all cards only what is not as it comes. */
const changed = ref(false);

/** A name that nothing has yet: of two balls the second says so wherever one is chosen. */
function unused(name: string) {
  const taken = new Set(desk.nodes.map((node) => node.name));
  let found = name;
  for (let n = 2; taken.has(found); n++) found = `${name} ${n}`;
  return found;
}

async function add(kind: string, extra: Record<string, unknown> = {}) {
  const before = new Set(desk.nodes.map((node) => node.id));
  const dials: Record<string, unknown> = { ...extra };
  if (kind === "source" || kind === "sculpt") {
    const picked = desk.byId.get(desk.selected ?? "");
    const prop =
      picked && bodied(picked)
        ? picked
        : desk.nodes.find((node) => bodied(node) && (kind === "source" || !node.locked));
    if (prop) dials.prop = prop.id;
  }
  if (kind === "step")
    Object.assign(
      dials,
      onTop(desk, catalog, desk.nodes.filter((node) => node.kind === "sculpt").at(-1)?.id),
    );
  if (kind === "operation") Object.assign(dials, behind());
  if (kind === "front" && behind().prop) dials.prop = behind().prop;
  if (kind === "prop") dials.position = [0, 0.5, 0];
  if (kind === "annex") Object.assign(dials, beside());
  if (kind === "view") Object.assign(dials, desk.view?.outlook());
  const label = kinds.value.find((candidate) => candidate.name === kind)?.label;
  const menu = MENUS[kind];
  const row = menus.value[kind]?.find((one) => one.key === extra[menu]);
  // What is told in a sentence is called by its one word.
  const name = row ? (row.label.length > 24 || kind in SHORT ? row.key : row.label) : label;
  Object.assign(dials, inFinish(desk, catalog, kind, dials));
  await desk.edit([
    ...needed(desk, catalog, kind, dials),
    { do: "add", kind, name: unused((name ?? "Prop").replace(/^./, (c) => c.toUpperCase())), dials },
  ]);
  const fresh = desk.nodes.filter((node) => !before.has(node.id)).at(-1);
  if (fresh) {
    opened.value[desk.chapter] = fresh.id;
    desk.selected = fresh.id;
  }
}
</script>

<template>
  <aside class="panel" :aria-label="chapter.label">
    <header>
      <h2>{{ chapter.label }}</h2>
      <button
        v-if="nodes.length"
        class="link"
        :aria-pressed="changed"
        :title="
          changed
            ? 'All dials again'
            : 'Of all cards of this chapter, only the dials that are not as they come'
        "
        data-changed
        @click="changed = !changed"
      >
        {{ changed ? "All dials" : "What is set" }}
      </button>
      <template v-for="(kind, n) in addable" :key="kind.name">
        <n-dropdown
          v-if="menus[kind.name]"
          trigger="click"
          :options="menus[kind.name]"
          @select="(what: string) => choose(kind.name, what)"
        >
          <button class="link" :disabled="!!arrivals.reading" :title="kind.help" :data-add="kind.name">
            {{ n ? "" : "Add " }}{{ kind.label.toLowerCase() }}
          </button>
        </n-dropdown>
        <button v-else class="link" :title="kind.help" :data-add="kind.name" @click="add(kind.name)">
          {{ n ? "" : "Add " }}{{ kind.label.toLowerCase() }}
        </button>
      </template>
    </header>
    <input
      ref="picker"
      type="file"
      multiple
      class="sr-only"
      tabindex="-1"
      aria-label="Mesh files"
      name="bring"
      :accept="
        [
          ...(catalog.catalog?.meshes ?? []),
          '.mtl',
          '.bin',
          '.svg',
          '.vdb',
          '.png',
          '.jpg',
          '.tif',
          '.exr',
          '.hdr',
        ].join(',')
      "
      @change="bring"
    />
    <div class="cards">
      <finding-line v-for="finding in found" :key="finding.text" :finding="finding" />
      <export-panel v-if="chapter.name === 'export'" />
      <template v-if="chapter.name !== 'export' || nodes.length">
        <forecast-card v-if="chapter.name === 'chamber'" />
        <node-card
          v-for="node in nodes"
          :key="node.id"
          :node="node"
          :open="changed || open === node.id"
          :changed="changed"
          :class="{ nested: depth(node) > 0 }"
          :style="{ marginLeft: `${18 * depth(node)}px` }"
          @toggle="toggle(node.id)"
        />
        <div v-if="!nodes.length" class="empty">
          <p>{{ chapter.empty }}</p>
          <button v-if="addable[0]" class="pill" :title="addable[0].help" @click="add(addable[0].name)">
            Add {{ addable[0].label.toLowerCase() }}
          </button>
        </div>
      </template>
    </div>
  </aside>
</template>

<style scoped>
.panel {
  background: var(--panel);
  border-right: 1px solid var(--line);
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
}

header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 10px;
  padding: 13px 16px 9px;
}

header > .link {
  white-space: nowrap;
}

h2 {
  font-size: 14.5px;
  font-weight: 650;
  margin: 0 auto 0 0;
}

.cards {
  overflow-y: auto;
  padding: 0 10px 16px;
  flex: 1;
}

.empty {
  padding: 18px 12px;
  color: var(--quiet);
}
</style>
