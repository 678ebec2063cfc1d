<script setup lang="ts">
import { computed } from "vue";
import { api } from "../api/client";
import { duration, plain } from "../lib/numbers";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { useStrip } from "../stores/strip";

/** The variation that was picked: what it changes, its figures, and what can be done with it. */
const props = defineProps<{ frame: number }>();
const desk = useDesk();
const catalog = useCatalog();
const strips = useStrip();
const cell = computed(() => (strips.picked === null ? null : (strips.strip?.cells[strips.picked] ?? null)));
const changes = computed(() =>
  (strips.strip?.axes ?? []).map((axis, n) => {
    const found = strips.found({ node: axis.node, dial: axis.dial, text: "" });
    const now = found && catalog.value(found.node, found.dial);
    return {
      label: axis.label,
      now: typeof now === "number" ? plain(now) : String(now ?? ""),
      then: cell.value?.shown[n] ?? "",
    };
  }),
);
const figures = computed(() => {
  const { peak, top, spread, left, fuel, smoke, seconds } = cell.value?.figures ?? {};
  const { fastest, volume, sprayed } = cell.value?.figures ?? {};
  return [
    ["Hottest", peak && `${peak} K`],
    ["Highest smoke", top !== undefined && `${plain(top)} m`],
    ["Widest smoke", spread !== undefined && `${plain(spread)} m`],
    ["Smoke at the end", smoke !== undefined && plain(smoke)],
    ["Left the chamber", left !== undefined && plain(left)],
    ["Fuel left at the end", fuel !== undefined && plain(fuel)],
    ["Fastest liquid", fastest !== undefined && `${plain(fastest)} m/s`],
    ["Liquid at the end", volume !== undefined && `${plain(volume)} m³`],
    ["Most spray", !!sprayed && sprayed.toLocaleString("en")],
    ["Time it took", seconds && duration(seconds)],
  ].filter(([, value]) => value) as [string, string][];
});
const marked = computed(() => strips.picked !== null && !!strips.strip?.marked.includes(strips.picked));
const dropped = computed(() => strips.picked !== null && !!strips.strip?.dropped.includes(strips.picked));

function sheet() {
  if (!desk.shot || !strips.strip) return;
  void desk.attempt(() => api.stripSheet(desk.shot!.id, strips.strip!.number, props.frame));
}
</script>

<template>
  <section class="picked" data-strip-picked>
    <template v-if="cell">
      <h3>Picked: {{ cell.shown.join(" × ") }}</h3>
      <dl>
        <template v-for="row in changes" :key="row.label">
          <dt>{{ row.label }}</dt>
          <dd>
            <span class="faint">{{ row.now }} →</span> {{ row.then }}
          </dd>
        </template>
        <template v-for="[label, value] in figures" :key="label">
          <dt class="quiet">{{ label }}</dt>
          <dd>{{ value }}</dd>
        </template>
      </dl>
      <button
        class="pill main"
        title="The shot becomes this; its frames are there at once"
        data-keep-cell
        @click="strips.keep(strips.picked!)"
      >
        Keep {{ cell.shown.join(" × ") }}
      </button>
      <div class="links">
        <button
          class="link"
          :title="marked ? 'Take the mark away' : 'Mark it to find it again'"
          data-mark-cell
          @click="strips.note(strips.picked!, 'marked', !marked)"
        >
          {{ marked ? "Unmark" : "Mark" }}
        </button>
        <button
          class="link"
          :title="
            dropped
              ? 'Run it after all, with the next strip'
              : 'Leave it out; it is not run if it was not yet'
          "
          data-drop-cell
          @click="strips.note(strips.picked!, 'dropped', !dropped)"
        >
          {{ dropped ? "Take in again" : "Drop" }}
        </button>
        <button
          class="link"
          title="Set up another strip, closer around it"
          data-refine-cell
          @click="strips.refine(strips.picked!)"
        >
          Refine around it
        </button>
      </div>
    </template>
    <p v-else class="quiet">
      Click a variation to see what it changes and its figures. Drag over one to turn all of them.
    </p>
    <div v-if="strips.strip" class="links foot">
      <button class="link" title="All of them at this frame, as one picture" data-strip-sheet @click="sheet">
        Sheet as a picture
      </button>
      <button
        v-if="strips.strip.marked.length"
        class="link"
        title="Each under a name: their frames stay, sculpts can begin with them, and they are handed on together"
        data-keep-marked
        @click="strips.keepMarked()"
      >
        Keep {{ strips.strip.marked.length }} marked
      </button>
      <button
        class="link"
        title="Takes the strip away with the frames that nothing else needs"
        @click="strips.takeAway()"
      >
        Take the strip away
      </button>
    </div>
  </section>
</template>

<style scoped>
.picked {
  display: flex;
  flex-direction: column;
  gap: 10px;
  overflow: auto;
}

h3 {
  margin: 4px 0 0;
  font-size: 14px;
}

dl {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 6px 10px;
  margin: 0;
}

dd {
  margin: 0;
  text-align: right;
}

.links {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
}

.foot {
  margin-top: auto;
}
</style>
