<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { api } from "../api/client";
import type { Room } from "../api/types";
import { bytes } from "../lib/numbers";
import { useSaid } from "../lib/useSaid";

/** What the data folder holds, what of it can be given back, and how much frames may take. */
const { attempt, done } = useSaid();
const room = ref<Room | null>(null);
/** GB that frames may take, as it is written. */
const limit = ref("");
const whole = computed(() => room.value?.parts.reduce((sum, part) => sum + part.bytes, 0) ?? 0);

const told = () => (room.value?.limit ? (room.value.limit / 1024 ** 3).toFixed(2).replace(/\.?0+$/, "") : "");

const look = () =>
  attempt(async () => {
    const before = told();
    const now = await api.room();
    // What was written meanwhile stays.
    const untouched = limit.value === before;
    room.value = now;
    if (untouched) limit.value = told();
  });

onMounted(look);

async function give(what: string) {
  const answer = await attempt(() => api.clearRoom(what));
  if (answer) done(`${bytes(answer.given)} were given back.`);
  await look();
}

async function within() {
  const gb = limit.value.trim() ? Number(limit.value.replace(",", ".")) : null;
  const answer = await attempt(() =>
    api.limitRoom(gb === null ? null : Math.round((Number.isFinite(gb) ? gb : 0) * 1024 ** 3)),
  );
  if (answer) done(answer.given ? `${bytes(answer.given)} were given back.` : "So it is.");
  await look();
}
</script>

<template>
  <section v-if="!room" aria-label="Room">
    <h2>Room</h2>
    <p class="quiet">Looking at what the data folder holds…</p>
  </section>
  <section v-else aria-label="Room" data-room>
    <h2>
      Room <span class="quiet">{{ bytes(whole) }}, {{ bytes(room.free ?? 0) }} free on the disk</span>
    </h2>
    <div v-for="part in room.parts" :key="part.name" class="part" :data-part="part.name">
      <span class="bar" :style="{ width: `${(100 * part.bytes) / Math.max(whole, 1)}%` }" />
      <span>{{ part.label }}</span>
      <span class="space" />
      <span class="quiet">{{ bytes(part.bytes) }}</span>
      <button
        v-if="part.again"
        class="link"
        title="It is made again when it is wanted"
        @click="give(part.name)"
      >
        Give back
      </button>
    </div>
    <p v-if="room.stale.frames" class="part" data-stale>
      <span>
        {{ room.stale.frames }} frames are of shots as they once stood: undo finds them again as long as they
        are there.
      </span>
      <span class="space" />
      <span class="quiet">{{ bytes(room.stale.bytes) }}</span>
      <button class="link" title="The shots as they stand need none of them" @click="give('stale')">
        Give back
      </button>
    </p>
    <form class="limit" @submit.prevent="within">
      <label>
        Frames may take
        <input v-model="limit" inputmode="decimal" placeholder="what there is" data-limit />
        GB
      </label>
      <button class="link" title="Beyond that the oldest go that no shot needs as it stands">So be it</button>
    </form>
  </section>
</template>

<style scoped src="./work.css"></style>
