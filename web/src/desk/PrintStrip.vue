<script setup lang="ts">
import { computed, ref } from "vue";
import { api } from "../api/client";
import { duration } from "../lib/numbers";
import { useDesk } from "../stores/desk";

const emit = defineEmits<{ look: [number: number]; wipe: [pair: [number, number]] }>();
const desk = useDesk();
const picked = ref<number[]>([]);
const waiting = computed(() => desk.printing.length);

const ran = computed(() => desk.frames?.rows.some((row) => row.key));

function click(event: MouseEvent, number: number) {
  if (!(event.shiftKey || event.ctrlKey || event.metaKey)) {
    picked.value = [number];
    emit("look", number);
    return;
  }
  const kept = picked.value.filter((other) => other !== number);
  picked.value = [...kept.slice(-1), number];
  if (picked.value.length === 2) emit("wipe", picked.value as [number, number]);
}

function wipe() {
  const pair =
    picked.value.length === 2 ? picked.value : desk.prints.slice(0, 2).map((print) => print.number);
  if (pair.length === 2) emit("wipe", pair as [number, number]);
}

defineExpose({ wipe });
</script>

<template>
  <aside class="strip" aria-label="Prints">
    <header>
      <slot />
      <button
        v-if="desk.sheeting"
        class="faint"
        role="status"
        data-sheeting
        title="Stop"
        @click="api.cancel(desk.sheeting.id)"
      >
        sheet {{ desk.sheeting.done }}/{{ desk.sheeting.total || "…" }}
      </button>
      <button
        v-else-if="ran"
        class="faint"
        title="Small prints of twelve frames on one page (S)"
        data-take-sheet
        @click="desk.takeSheet()"
      >
        sheet
      </button>
      <button
        v-if="desk.prints.length > 1"
        class="faint"
        title="Wipe one over the other (B); Shift-click picks a second"
        @click="wipe"
      >
        wipe A|B
      </button>
    </header>
    <div class="list">
      <div v-for="n in waiting" :key="n" class="waiting" role="status">printing…</div>
      <button
        v-for="print in desk.prints"
        :key="print.number"
        class="made"
        :class="{ picked: picked.includes(print.number) }"
        :data-print="print.number"
        title="Look at it; Shift+click picks a second one to wipe"
        @click="click($event, print.number)"
      >
        <span class="paper">
          <img :src="api.printUrl(desk.shot!.id, print.number)" alt="" loading="lazy" />
          <b>{{ print.starred ? "★ " : "" }}P{{ print.number }}</b>
        </span>
        <span class="facts"
          ><span>f {{ print.frame }}</span
          ><span v-if="print.seconds">{{ duration(print.seconds) }}</span></span
        >
        <span v-if="print.name" class="named">{{ print.name }}</span>
        <span class="changed">{{ print.changed }}</span>
      </button>
      <div v-if="!desk.prints.length && !waiting" class="empty">
        <p>A print is a finished picture of a frame, kept with the settings that made it.</p>
        <button
          class="pill"
          title="A finished picture of this frame (P)"
          :disabled="desk.row?.state !== 'fresh'"
          @click="desk.takePrint()"
        >
          Take print
        </button>
      </div>
    </div>
  </aside>
</template>

<style scoped src="./strip.css"></style>
<style scoped>
.paper {
  border: 3px solid var(--paper);
  border-radius: 2px;
}

img {
  object-fit: contain;
}

b {
  background: var(--paper);
  color: #13171a;
}

.waiting {
  border: 3px dashed var(--track);
  color: var(--quiet);
  aspect-ratio: 16 / 9;
  display: grid;
  place-items: center;
}
</style>
