<script setup lang="ts">
import { computed } from "vue";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { chapters } from "./chapters";

const emit = defineEmits<{ set: [] }>();
const desk = useDesk();
const catalog = useCatalog();
const counts = computed(() => {
  const counts: Record<string, number> = {};
  for (const node of desk.nodes) {
    const kind = catalog.kind(node.kind);
    if (!kind.single) counts[kind.chapter] = (counts[kind.chapter] ?? 0) + 1;
  }
  return counts;
});
/** Chapters in which preflight found something. */
const warned = computed(
  () =>
    new Set(
      desk.findings.map((finding) => {
        const node = finding.node && desk.byId.get(finding.node);
        return node ? catalog.kind(node.kind).chapter : "sources";
      }),
    ),
);
</script>

<template>
  <nav class="bar" aria-label="Chapters">
    <button
      v-for="chapter in chapters"
      :key="chapter.name"
      class="chapter"
      :class="{ here: desk.chapter === chapter.name }"
      :aria-current="desk.chapter === chapter.name ? 'page' : undefined"
      :data-chapter="chapter.name"
      :data-warned="warned.has(chapter.name) || undefined"
      :title="`${chapter.label} (${chapter.number})`"
      @click="desk.chapter = chapter.name"
    >
      <span class="number">{{ chapter.number }}</span>
      <span v-if="counts[chapter.name]" class="count">{{ counts[chapter.name] }}</span>
      <span v-if="warned.has(chapter.name)" class="warned" title="Preflight found something here">
        <span class="sr-only">something found</span>!
      </span>
      <span class="word">{{ chapter.label }}</span>
    </button>
    <button
      class="set"
      title="All that is not as it comes, in the whole shot"
      data-open-set
      @click="emit('set')"
    >
      What is set
    </button>
  </nav>
</template>

<style scoped>
.bar {
  background: var(--panel);
  border-right: 1px solid var(--line);
  display: flex;
  flex-direction: column;
  gap: 6px;
  padding-top: 14px;
}

.chapter {
  position: relative;
  display: grid;
  justify-items: center;
  gap: 4px;
  padding: 4px 0;
  color: var(--quiet);
  font-size: 11.5px;
}

.number {
  width: 26px;
  height: 26px;
  border: 1.5px solid var(--track);
  border-radius: 8px;
  display: grid;
  place-items: center;
  font-weight: 600;
}

.here .number {
  background: var(--text);
  border-color: var(--text);
  color: #13171a;
}

.here {
  color: var(--text);
}

.here::before {
  content: "";
  position: absolute;
  left: 0;
  top: 4px;
  bottom: 4px;
  width: 3px;
  border-radius: 2px;
  background: var(--accent);
}

.count {
  position: absolute;
  top: 0;
  left: 40px;
  min-width: 15px;
  padding: 0 4px;
  border-radius: 8px;
  background: var(--track);
  color: var(--text);
  font-size: 10px;
  line-height: 15px;
}

.warned {
  position: absolute;
  top: 18px;
  left: 41px;
  width: 13px;
  border-radius: 4px;
  background: var(--warning);
  color: #13171a;
  font-size: 10px;
  font-weight: 700;
  line-height: 13px;
  text-align: center;
}

.set {
  margin-top: auto;
  padding: 8px 4px 12px;
  color: var(--quiet);
  font-size: 11px;
}

.set:hover {
  color: var(--text);
}
</style>
