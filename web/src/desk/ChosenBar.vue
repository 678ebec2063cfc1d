<script setup lang="ts">
import { NDropdown } from "naive-ui";
import { computed, ref } from "vue";
import { api } from "../api/client";
import { useCatalog } from "../stores/catalog";
import { useChosen } from "../stores/chosen";
import { useDesk } from "../stores/desk";
import DuplicateDialog from "./DuplicateDialog.vue";

/** What can be done with several things at once. */
const desk = useDesk();
const chosen = useChosen();
const catalog = useCatalog();
const rowed = ref(false);
const AXES = ["x", "y", "z"];
const WAYS: Record<string, string> = {
  middle: "Their middles",
  low: "Their lower ends",
  high: "Their higher ends",
  place: "Their origins",
  apart: "Evenly apart",
};
const lines = Object.entries(WAYS).map(([key, label]) => ({ key, label }));
const has = (dial: string) =>
  chosen.nodes.filter((node) => catalog.kind(node.kind).dials.some((one) => one.name === dial)).length;
const switched = computed(() => chosen.nodes.filter((node) => catalog.kind(node.kind).switched));
const off = computed(() => switched.value.every((node) => node.off));
const locked = computed(() => switched.value.every((node) => node.locked));

async function align(way: string, axis: string) {
  const { shot, frame } = desk;
  const answer = shot && (await desk.attempt(() => api.align(shot.id, chosen.all, frame, axis, way)));
  if (answer) desk.take(answer);
}

async function group() {
  const before = new Set(desk.nodes.map((node) => node.id));
  await desk.edit([{ do: "group", nodes: chosen.all, frame: desk.frame }]);
  const mark = desk.nodes.find((node) => !before.has(node.id));
  if (!mark) return;
  desk.chapter = desk.chapterOf(mark);
  desk.selected = mark.id;
}

const turn = (what: "off" | "locked", on: boolean) =>
  desk.edit(switched.value.map((node) => ({ do: "switch", node: node.id, [what]: on })));
</script>

<template>
  <div class="together" role="toolbar" aria-label="What is chosen" data-chosen>
    <span class="count">{{ chosen.all.length }} things</span>
    <template v-if="has('position') > 1">
      <n-dropdown
        v-for="axis in AXES"
        :key="axis"
        trigger="click"
        :options="lines"
        @select="(way: string) => align(way, axis)"
      >
        <button
          class="plain"
          :title="`Along ${axis}: bring them in line with the first one, or space them evenly`"
          :data-align="axis"
        >
          {{ axis === "x" ? "In line: x" : axis }}
        </button>
      </n-dropdown>
    </template>
    <button
      v-if="has('leader')"
      class="plain"
      title="A mark in their middle that takes them along: moved, hidden, locked and switched off together"
      data-group
      @click="group"
    >
      Group
    </button>
    <button
      class="plain"
      title="Several more of them, each off the one before in place, turn, size, time or any number"
      data-rows
      @click="rowed = true"
    >
      In a row…
    </button>
    <template v-if="switched.length">
      <button
        class="plain"
        :title="off ? 'They count again' : 'Take them out of the shot, with their dials kept'"
        data-all-off
        @click="turn('off', !off)"
      >
        {{ off ? "Switch on" : "Switch off" }}
      </button>
      <button
        class="plain"
        :title="locked ? 'The hand may move them again' : 'The hand does not move them in the view'"
        data-all-locked
        @click="turn('locked', !locked)"
      >
        {{ locked ? "Unlock" : "Lock" }}
      </button>
    </template>
    <button class="plain" title="Take them out of the shot (Delete)" data-all-away @click="chosen.takeAway()">
      Take away
    </button>
    <duplicate-dialog v-if="rowed" :nodes="chosen.heads" @close="rowed = false" />
  </div>
</template>

<style scoped>
.together {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  align-items: center;
  padding: 4px 12px;
  border-radius: 14px;
  background: rgb(16 20 23 / 88%);
  white-space: nowrap;
}

.count {
  color: var(--quiet);
}

.plain:hover {
  color: var(--text);
}
</style>
