<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from "vue";
import DeskDialog from "../lib/DeskDialog.vue";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

const emit = defineEmits<{ close: [] }>();
const desk = useDesk();
const catalog = useCatalog();
const words = ref("");
const field = ref<HTMLInputElement | null>(null);
const at = ref(0);

const all = computed(() =>
  desk.nodes.flatMap((node) =>
    catalog
      .kind(node.kind)
      .dials.filter((dial) => catalog.applies(node, dial))
      .map((dial) => ({ node, dial, text: `${dial.label} ${node.name}`.toLowerCase() })),
  ),
);
/** How well an entry answers: the less the better. What begins with the words comes first, then what stands in
 * the card that is open. */
function rank(entry: (typeof all.value)[number], asked: string): number {
  const label = entry.dial.label.toLowerCase();
  const place = label === asked ? 0 : label.startsWith(asked) ? 2 : entry.text.startsWith(asked) ? 4 : 6;
  return place + (entry.node.id === desk.selected ? 0 : 1);
}
const found = computed(() => {
  const asked = words.value.toLowerCase().trim();
  const parts = asked.split(/\s+/);
  return all.value
    .filter((entry) => parts.every((word) => entry.text.includes(word)))
    .map((entry, n) => ({ entry, n, rank: rank(entry, asked) }))
    .sort((a, b) => a.rank - b.rank || a.n - b.n)
    .map(({ entry }) => entry);
});
const list = ref<HTMLElement | null>(null);
watch(at, async (index) => {
  await nextTick();
  list.value?.children[index]?.scrollIntoView({ block: "nearest" });
});

onMounted(() => field.value?.focus());

async function go(index = at.value) {
  const entry = found.value[index];
  if (!entry) return;
  emit("close");
  const chapter = desk.chapterOf(entry.node);
  if (chapter === "timeline") desk.settings = true;
  else desk.chapter = chapter;
  await nextTick();
  desk.selected = null;
  await nextTick();
  desk.selected = entry.node.id;
  await nextTick();
  await nextTick();
  const row = document.querySelector<HTMLElement>(`[data-dial="${entry.node.id}.${entry.dial.name}"]`);
  row?.scrollIntoView({ block: "center" });
  // The dial's own field, never its key; after the dialog has given the focus back.
  const own = row?.querySelector<HTMLElement>(
    "[role='spinbutton'], [role='switch'], input, .n-base-selection, .n-color-picker-trigger, button:not([data-key])",
  );
  setTimeout(
    () => (own?.tabIndex === -1 ? own.querySelector<HTMLElement>("[tabindex='0']") : own)?.focus(),
    60,
  );
}
</script>

<template>
  <desk-dialog label="Find a dial" width="420px" @close="emit('close')">
    <div class="find">
      <input
        ref="field"
        v-model="words"
        placeholder="Find a dial by name"
        aria-label="Find a dial by name"
        @input="at = 0"
        @keydown.stop
        @keydown.down.prevent="at = Math.min(at + 1, found.length - 1)"
        @keydown.up.prevent="at = Math.max(at - 1, 0)"
        @keydown.enter.prevent="go()"
        @keydown.esc.stop="emit('close')"
      />
      <div ref="list" class="found">
        <button
          v-for="(entry, index) in found"
          :key="`${entry.node.id}.${entry.dial.name}`"
          :class="{ at: index === at }"
          :title="entry.dial.help"
          @click="go(index)"
        >
          {{ entry.dial.label }} <span class="faint">{{ entry.node.name }}</span>
        </button>
      </div>
      <p v-if="!found.length" class="faint">No dial has that name.</p>
    </div>
  </desk-dialog>
</template>

<style scoped>
.find {
  display: grid;
}

.found {
  display: grid;
  max-height: 50vh;
  overflow: auto;
}

input {
  font: inherit;
  font-size: 14px;
  color: inherit;
  background: none;
  border: 0;
  padding: 8px 10px;
}

input:focus {
  outline: none;
}

.found button {
  text-align: left;
  padding: 6px 10px;
  border-radius: 7px;
}

.found button.at,
.found button:hover {
  background: var(--track);
}

.found button.at .faint,
.found button:hover .faint {
  color: var(--quiet);
}

p {
  margin: 4px 10px;
}
</style>
