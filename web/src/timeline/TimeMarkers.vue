<script setup lang="ts">
import { computed, ref } from "vue";
import NameField from "../lib/NameField.vue";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import type { TimeAxis } from "./useTimeAxis";

/** Frames with a name: a click goes there, a drag moves the marker. */
const props = defineProps<{ axis: TimeAxis }>();
const desk = useDesk();
const catalog = useCatalog();
const naming = ref<string | null>(null);
const held = ref<{ id: string; x: number; by: number } | null>(null);
const markers = computed(() =>
  desk.nodes
    .filter((node) => node.kind === "marker")
    .map((node) => ({ id: node.id, name: node.name, frame: catalog.read(node, "frame") as number })),
);
const shownAt = (id: string, frame: number) => frame + (held.value?.id === id ? held.value.by : 0);

function take(event: PointerEvent, id: string) {
  if (event.button !== 0) return;
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  held.value = { id, x: event.clientX, by: 0 };
}

function move(event: PointerEvent) {
  if (held.value) held.value.by = Math.round(props.axis.frames(event.clientX - held.value.x));
}

async function release(id: string, frame: number) {
  const by = held.value?.by ?? 0;
  const to = Math.min(Math.max(frame + by, desk.first), desk.last);
  if (by) await desk.set(id, "frame", to);
  else desk.go(frame);
  held.value = null;
}

function keys(event: KeyboardEvent, id: string, frame: number) {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (by) void desk.set(id, "frame", Math.min(Math.max(frame + by, desk.first), desk.last));
  else if (event.key === "Delete" || event.key === "Backspace") void desk.edit([{ do: "remove", node: id }]);
  else if (event.key === "F2") naming.value = id;
  else return;
  event.preventDefault();
  event.stopPropagation();
}

function name(id: string, words: string) {
  naming.value = null;
  if (desk.byId.get(id)?.name !== words) void desk.edit([{ do: "rename", node: id, name: words }]);
}
</script>

<template>
  <template v-for="marker in markers" :key="marker.id">
    <span
      v-if="naming === marker.id"
      class="naming"
      :style="{ left: `${axis.x(marker.frame)}px` }"
      @pointerdown.stop
    >
      <name-field
        :name="marker.name"
        label="Name of the marker"
        @named="name(marker.id, $event)"
        @left="naming = null"
      />
    </span>
    <button
      v-else
      class="marker"
      :style="{ left: `${axis.x(shownAt(marker.id, marker.frame))}px` }"
      :title="`${marker.name}, frame ${marker.frame}; drag it, double-click names it, Delete takes it away`"
      :data-marker="marker.frame"
      @pointerdown.stop="take($event, marker.id)"
      @pointermove="move"
      @pointerup="release(marker.id, marker.frame)"
      @pointercancel="held = null"
      @dblclick="naming = marker.id"
      @keydown="keys($event, marker.id, marker.frame)"
    >
      {{ marker.name }}
    </button>
  </template>
</template>

<style scoped>
.marker,
.naming {
  position: absolute;
  top: 0;
  z-index: 1;
  min-height: 15px;
  max-width: 110px;
  padding: 0 6px 0 5px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 10.5px;
  line-height: 15px;
  text-align: left;
  border-left: 1.5px solid var(--warning);
  background: var(--card);
  color: var(--text);
  touch-action: none;
}

.naming {
  width: 110px;
  padding: 0;
}
</style>
