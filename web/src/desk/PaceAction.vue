<script setup lang="ts">
import type { ShotNode } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

/** Plays what was run at another pace: as a sculpt that takes the run's place. */
const props = defineProps<{ node: ShotNode }>();
const desk = useDesk();
const catalog = useCatalog();

async function begin() {
  const [voxel, draft] = ["voxel", "draft"].map((dial) => catalog.read(props.node, dial) as number);
  await desk.edit([
    {
      do: "add",
      kind: "sculpt",
      name: "Run at another pace",
      dials: { from: "run", plays: "speed", speed: 0.5, voxel, draft, room: 0 },
    },
  ]);
  desk.chapter = "sculpt";
  desk.selected = desk.nodes.filter((node) => node.kind === "sculpt").at(-1)?.id ?? null;
}
</script>

<template>
  <button
    class="link"
    title="Slower, held or backwards, in between its frames by its own motion; nothing is run again"
    data-other-pace
    @click="begin"
  >
    At another pace
  </button>
</template>
