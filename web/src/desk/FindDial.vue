<script setup lang="ts">
import { computed, nextTick, onMounted, ref } from "vue";
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
const found = computed(() =>
  all.value
    .filter((entry) =>
      words.value
        .toLowerCase()
        .split(" ")
        .every((word) => entry.text.includes(word)),
    )
    .slice(0, 9),
);

onMounted(() => field.value?.focus());

async function go(index = at.value) {
  const entry = found.value[index];
  if (!entry) return;
  desk.chapter = catalog.kind(entry.node.kind).chapter;
  await nextTick();
  desk.selected = null;
  await nextTick();
  desk.selected = entry.node.id;
  emit("close");
  await nextTick();
  await nextTick();
  const row = document.querySelector<HTMLElement>(`[data-dial="${entry.node.id}.${entry.dial.name}"]`);
  row?.scrollIntoView({ block: "center" });
  row?.querySelector<HTMLElement>("[tabindex='0'], button, input")?.focus();
}
</script>

<template>
  <div class="cover" role="dialog" aria-label="Find a dial" @click.self="emit('close')">
    <div class="box">
      <input
        ref="field"
        v-model="words"
        placeholder="Find a dial by name"
        aria-label="Find a dial by name"
        @input="at = 0"
        @keydown.stop
        @keydown.down.prevent="at = Math.min(at + 1, found.length - 1)"
        @keydown.up.prevent="at = Math.max(at - 1, 0)"
        @keydown.enter="go()"
        @keydown.esc="emit('close')"
      />
      <button
        v-for="(entry, index) in found"
        :key="`${entry.node.id}.${entry.dial.name}`"
        :class="{ at: index === at }"
        @click="go(index)"
      >
        {{ entry.dial.label }} <span class="faint">{{ entry.node.name }}</span>
      </button>
      <p v-if="!found.length" class="faint">No dial has that name.</p>
    </div>
  </div>
</template>

<style scoped>
.cover {
  position: fixed;
  inset: 0;
  z-index: 40;
  background: rgb(8 10 11 / 55%);
}

.box {
  width: 400px;
  margin: 90px auto;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 12px;
  padding: 8px;
  display: grid;
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

.box button {
  text-align: left;
  padding: 6px 10px;
  border-radius: 7px;
}

.box button.at,
.box button:hover {
  background: var(--track);
}

p {
  margin: 4px 10px;
}
</style>
