<script setup lang="ts">
import type { TimelineRow } from "../api/types";
import { useDesk } from "../stores/desk";
import { nameOf, useTimes } from "../stores/times";
import CurveSides from "./CurveSides.vue";
import type { RowLine } from "./useTimeLines";

/** The name of a row of the timeline: a click picks it, and what it belongs to. */
const props = defineProps<{ line: RowLine; shown: TimelineRow[] }>();
const desk = useDesk();
const times = useTimes();

function pickRow(event: MouseEvent, row: TimelineRow) {
  const name = nameOf(row);
  times.keys.clear();
  if (event.shiftKey && times.picked.size) {
    const names = props.shown.map(nameOf);
    const ends = [names.indexOf([...times.picked].at(-1)!), names.indexOf(name)].sort((a, b) => a - b);
    for (const each of names.slice(ends[0], ends[1] + 1)) times.picked.add(each);
  } else if (event.ctrlKey || event.metaKey) {
    if (!times.picked.delete(name)) times.picked.add(name);
  } else {
    times.picked = new Set([name]);
    const node = desk.byId.get(row.node);
    if (node) {
      desk.chapter = desk.chapterOf(node);
      desk.selected = row.node;
    }
  }
}

function toggle(set: Set<string>, name: string) {
  if (!set.delete(name)) set.add(name);
}
</script>

<template>
  <div class="name" :class="{ picked: times.picked.has(line.name) }" @pointerdown.stop>
    <button
      class="caret"
      :aria-expanded="line.open"
      :aria-label="`Curve of ${line.row.name}`"
      title="Open its curve"
      :data-open-row="line.name"
      @click="toggle(times.open, line.name)"
    >
      {{ line.open ? "▾" : "▸" }}
    </button>
    <span class="words">
      <button
        class="what"
        :title="`${line.row.name}; Ctrl or Shift picks several`"
        :data-time-row="line.name"
        @click="pickRow($event, line.row)"
        @dblclick="toggle(times.open, line.name)"
      >
        {{ line.row.name }}
        <i
          v-if="line.row.formula"
          class="rule"
          :title="`= ${[line.row.formula].flat().filter(Boolean).join('; ')}`"
          >= …</i
        >
      </button>
      <curve-sides v-if="line.open" :row="line.row" />
    </span>
  </div>
</template>

<style scoped src="./names.css"></style>

<style scoped>
.caret {
  color: var(--faint);
  font-size: 10px;
  min-width: 24px;
  flex: none;
}

.words {
  display: grid;
  min-width: 0;
}

.rule {
  color: var(--accent);
}

.what:hover,
.picked .what {
  color: var(--text);
}

.name.picked {
  background: var(--track);
  border-radius: 6px 0 0 6px;
}
</style>
