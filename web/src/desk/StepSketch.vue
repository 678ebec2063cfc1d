<script lang="ts">
import { oneByOne } from "../lib/oneByOne";

/** All sketches wait for each other. */
const inTurn = oneByOne();
</script>

<script setup lang="ts">
import { onUnmounted, ref, watch } from "vue";
import type { ShotNode } from "../api/types";
import { useDesk } from "../stores/desk";

/** A small picture of what a sculpt is after a step; a click looks at it up to there, and back. */
const props = defineProps<{ node: ShotNode }>();
const desk = useDesk();
const shown = ref("");
/** Asked for once nothing has changed for a moment. */
const REST = 250;
let waiting = 0;
let wanted = "";

async function draw(url: string) {
  const picture = await inTurn(async () => {
    const response = url === wanted ? await fetch(url).catch(() => null) : null;
    return response?.ok ? response.blob() : null;
  });
  if (url !== wanted) return;
  if (shown.value) URL.revokeObjectURL(shown.value);
  shown.value = picture ? URL.createObjectURL(picture) : "";
}

watch(
  () =>
    desk.playing
      ? wanted
      : `/api/shots/${desk.shot?.id}/steps/${props.node.id}.png?frame=${desk.frame}&head=${desk.shot?.head}`,
  (url) => {
    if (url === wanted) return;
    wanted = url;
    window.clearTimeout(waiting);
    waiting = window.setTimeout(() => void draw(url), shown.value ? REST : 0);
  },
  { immediate: true },
);
onUnmounted(() => {
  wanted = "";
  window.clearTimeout(waiting);
  if (shown.value) URL.revokeObjectURL(shown.value);
});

const step = () => props.node.kind === "step";
const upto = () => !!props.node.dials?.upto;
const solo = () => step() && desk.edit([{ do: "set", node: props.node.id, dial: "upto", value: !upto() }]);
</script>

<template>
  <button
    class="sketch"
    :class="{ upto: upto() }"
    :disabled="!step()"
    :aria-pressed="step() ? upto() : undefined"
    :aria-label="step() ? `Look up to ${node.name}` : `What ${node.name} begins with`"
    :title="
      step()
        ? upto()
          ? 'Looked at up to here: carry all steps out again'
          : 'What it is after this step; click to look up to here'
        : 'What it begins with'
    "
    @click.stop="solo"
  >
    <img v-if="shown" :src="shown" alt="" data-sketch />
  </button>
</template>

<style scoped>
.sketch {
  flex: none;
  width: 44px;
  height: 33px;
  margin: 3px 4px;
  padding: 0;
  overflow: hidden;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: #0e1113;
}

.sketch.upto {
  border-color: var(--accent);
}

.sketch img {
  display: block;
  width: 100%;
  height: 100%;
}
</style>
