<script setup lang="ts">
import { NDropdown } from "naive-ui";
import { computed, ref } from "vue";
import { api } from "../api/client";
import type { Preset, ShotNode } from "../api/types";
import { useDesk } from "../stores/desk";

/** Dials of other shots' things of the same kind, and these ones kept for them. */
const props = defineProps<{ node: ShotNode }>();
const desk = useDesk();
const kept = ref<Preset[]>([]);
const KEEP = "keep";
const options = computed(() => [
  ...kept.value.map(({ id, name, dials }) => ({ key: id, label: `${name} (${dials} set)` })),
  ...(kept.value.length ? [{ type: "divider", key: "line" }] : []),
  { key: KEEP, label: `Keep what is set as “${props.node.name}”` },
]);

const load = async () => (kept.value = (await desk.attempt(() => api.presets(props.node.kind))) ?? []);

async function choose(key: string) {
  if (!desk.shot) return;
  const { id } = desk.shot;
  if (key === KEEP) {
    const { name } = props.node;
    if (await desk.attempt(() => api.keepPreset(id, props.node.id, name)))
      desk.announce(`${name} is kept for other things of its kind.`);
    return;
  }
  const answer = await desk.attempt(() => api.applyPreset(id, props.node.id, key));
  if (answer) desk.take(answer);
}
</script>

<template>
  <n-dropdown trigger="click" :options="options" @select="choose">
    <button
      class="link"
      title="Dials that were kept for things of this kind, in this shot or in others; or keep these"
      data-presets
      @click="load"
    >
      Presets
    </button>
  </n-dropdown>
</template>
