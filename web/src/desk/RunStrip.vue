<script setup lang="ts">
import { onMounted } from "vue";
import { past } from "../api/past";
import { useDesk } from "../stores/desk";
import { usePast } from "../stores/past";

/** The runs of the shot, the newest on top. */
const emit = defineEmits<{ look: [number: number] }>();
const desk = useDesk();
const story = usePast();
onMounted(() => story.load());

/** When it was, in few words. */
function when(at: number): string {
  const date = new Date(at * 1000);
  const today = date.toDateString() === new Date().toDateString();
  return date.toLocaleString("en", today ? { timeStyle: "short" } : { dateStyle: "medium" });
}

function click(event: MouseEvent, number: number) {
  const { pair } = story;
  // A second one is laid against the first.
  if (event.shiftKey || event.ctrlKey || event.metaKey)
    void story.compare(number, pair && pair.one === null && pair.other !== number ? pair.other : null);
  else emit("look", number);
}
</script>

<template>
  <aside class="strip" aria-label="Runs">
    <header>
      <slot />
    </header>
    <div class="list">
      <button
        v-for="run in story.runs"
        :key="run.number"
        class="made"
        :class="{ picked: [story.pair?.one, story.pair?.other].includes(run.number) }"
        :data-run="run.number"
        title="Look at its settings; Shift+click lays it against the shot in the view, and a second one against the first"
        @click="click($event, run.number)"
      >
        <span class="paper">
          <img v-if="run.picture" :src="past.pictureUrl(desk.shot!.id, run)" alt="" loading="lazy" />
          <span v-else class="none">no picture</span>
          <b>{{ run.cache ? "★ " : "" }}R{{ run.number }}</b>
        </span>
        <span class="facts"
          ><span>{{ run.quality }}, {{ run.there }} of {{ run.of }}</span
          ><span>{{ when(run.at) }}</span></span
        >
        <span v-if="run.cache" class="named">{{ story.kept.get(run.cache)?.name }}</span>
        <span class="changed">{{ run.changed }}</span>
      </button>
      <div v-if="!story.runs.length" class="empty">
        <p>
          Every run stays here with the settings that made it, so that any of them can be laid against
          another.
        </p>
        <button class="pill" title="Coarse and quick (R)" @click="desk.run('draft')">Run draft</button>
      </div>
    </div>
  </aside>
</template>

<style scoped src="./strip.css"></style>
<style scoped>
.paper {
  border: 1px solid var(--line);
  border-radius: 6px;
  overflow: hidden;
}

img {
  object-fit: cover;
}

.none {
  display: grid;
  place-items: center;
  aspect-ratio: 16 / 9;
  color: var(--faint);
  font-size: 11.5px;
}

b {
  background: var(--card);
}
</style>
