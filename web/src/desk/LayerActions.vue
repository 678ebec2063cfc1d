<script setup lang="ts">
import { computed, ref } from "vue";
import { api } from "../api/client";
import type { ShotNode } from "../api/types";
import JobProgress from "../lib/JobProgress.vue";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

/** Effects that a table can hold. */
const COLOURS = ["exposure", "balance", "grade", "contrast", "curves", "saturation", "tint", "table"];

/** What can be made of a layer: spots in its plate, found by themselves, and its colours as a table. */
const props = defineProps<{ node: ShotNode }>();
const desk = useDesk();
const catalog = useCatalog();
const job = computed(() => desk.active.find((one) => one.kind === "spots"));
const count = ref(24);
const plate = computed(
  () => catalog.read(props.node, "what") === "plate" && !!catalog.read(props.node, "plate"),
);
const coloured = computed(() =>
  desk.family
    .of(props.node.id, "effect")
    .some((effect) => COLOURS.includes(String(catalog.read(effect, "what")))),
);
const table = computed(
  () => `/api/shots/${desk.shot?.id}/tables/${props.node.id}?frame=${desk.frame}&head=${desk.shot?.head}`,
);

async function find() {
  if (desk.shot)
    await desk.attempt(() =>
      api.findSpots(desk.shot!.id, props.node.id, desk.frame, Math.round(count.value)),
    );
}
</script>

<template>
  <div v-if="plate || coloured" class="acts">
    <template v-if="plate && job">
      <job-progress :job="job" />
      <button class="link" title="Stop here; nothing of it is kept" @click="api.cancel(job.id)">Stop</button>
    </template>
    <template v-else-if="plate">
      <button
        class="link"
        :title="`Finds corners and specks at frame ${desk.frame} and follows them over the shot; a mask that counts for tracking keeps them away from what passes by`"
        data-find-spots
        @click="find"
      >
        Find spots
      </button>
      <label class="faint">
        up to <input v-model.number="count" type="number" min="1" max="200" title="At most so many" />
      </label>
    </template>
    <a
      v-if="coloured"
      class="link"
      :href="table"
      download
      title="What its effects make of colours at this frame, as a .cube file; effects with masks and those that do more are not in it"
      data-bake
      >Colours as a table</a
    >
  </div>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  align-items: center;
  margin: 2px 0 6px;
}

input {
  width: 56px;
  height: 24px;
  padding: 0 6px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--field, transparent);
  color: inherit;
}
</style>
