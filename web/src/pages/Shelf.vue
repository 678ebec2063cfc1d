<script setup lang="ts">
import { useStorage } from "@vueuse/core";
import { NSelect } from "naive-ui";
import { computed, onMounted, onUnmounted, ref } from "vue";
import { useRouter } from "vue-router";
import { api, checkSize } from "../api/client";
import { listen } from "../api/events";
import type { AwayRow, Job, ShotRow } from "../api/types";
import { useFileDrop } from "../lib/useFileDrop";
import { useSaid } from "../lib/useSaid";
import AwayShots from "../shelf/AwayShots.vue";
import NewShot from "../shelf/NewShot.vue";
import ShotCard from "../shelf/ShotCard.vue";
import { useCatalog } from "../stores/catalog";

const router = useRouter();
const { attempt, done } = useSaid();
const catalog = useCatalog();
const shots = ref<ShotRow[]>([]);
const away = ref<AwayRow[]>([]);
const loaded = ref(false);
const trouble = ref<string | null>(null);
const event = ref<number | null>(null);
const making = ref(false);
/** A mesh that is dropped on the shelf begins a shot; a shot file is brought in. */
const dropped = ref<File[]>([]);
const { over: hovered, on: dropping } = useFileDrop((files) => {
  if (files.length === 1 && files[0].name.endsWith(".json")) return void importFile(files[0]);
  dropped.value = files;
  making.value = true;
});
const looking = ref(false);
const sought = ref("");
const order = useStorage<Order>("vumbral-shelf-order", "changed");
const input = ref<HTMLInputElement | null>(null);
let stop: (() => void) | null = null;

type Order = "changed" | "name" | "working";
const ORDERS = [
  { value: "changed", label: "Changed last" },
  { value: "name", label: "By name" },
  { value: "working", label: "At work first" },
];
const compared: Record<Order, (a: ShotRow, b: ShotRow) => number> = {
  changed: (a, b) => b.changed - a.changed,
  name: (a, b) => a.name.localeCompare(b.name, "en", { numeric: true }),
  working: (a, b) => b.jobs.length - a.jobs.length || b.changed - a.changed,
};
const shown = computed(() => {
  const words = sought.value.toLowerCase().split(/\s+/).filter(Boolean);
  return shots.value
    .filter((shot) => words.every((word) => shot.name.toLowerCase().includes(word)))
    .sort(compared[order.value] ?? compared.changed);
});

const load = () =>
  attempt(async () => {
    const answer = await api.shots();
    shots.value = answer.shots;
    away.value = answer.away;
    trouble.value = answer.trouble;
    event.value = answer.event;
    loaded.value = true;
  });

onMounted(async () => {
  document.title = "Vumbral";
  await attempt(() => catalog.load());
  await load();
  stop = listen(
    (kind, data) => {
      if (kind === "shots" || kind === "print") void load();
      if (kind === "trouble") trouble.value = data.text as string | null;
      if (kind === "job") follow(data as unknown as Job);
    },
    () => {},
    event.value,
  );
});
onUnmounted(() => stop?.());

/** A job's news goes to the card of its shot. */
function follow(job: Job) {
  const shot = shots.value.find((row) => row.id === job.shot);
  if (!shot) return;
  const others = shot.jobs.filter((other) => other.id !== job.id);
  shot.jobs = ["queued", "running"].includes(job.state) ? [...others, job] : others;
}

const importFile = (file: File) =>
  attempt(async () => {
    const packed = /\.zip$/i.test(file.name);
    checkSize(file, catalog.catalog?.limits[packed ? "file" : "shot"] ?? Infinity);
    const shot = packed ? await api.unpack(file) : await api.importShot(await file.text(), file.name);
    await router.push(`/shots/${shot.id}`);
  });

async function bring(event: Event) {
  const field = event.target as HTMLInputElement;
  const file = field.files?.[0];
  if (file) await importFile(file);
  // The same file may be tried again once it is mended.
  field.value = "";
}

const back = (id: string) => attempt(() => api.putBack(id)).then(load);

const takeAway = (shot: ShotRow) =>
  attempt(async () => {
    await api.takeAway(shot.id);
    await load();
    done(`${shot.name} was taken away.`, "Put it back", () => back(shot.id));
  });

const letGo = (id: string) => attempt(() => api.letGo(id)).then(load);
const duplicate = (id: string) => attempt(() => api.duplicate(id)).then(load);
</script>

<template>
  <main class="shelf" :class="{ hovered }" v-on="dropping">
    <header>
      <img src="/mark.svg" width="30" height="30" alt="" />
      <h1>Vumbral</h1>
      <span class="space" />
      <template v-if="shots.length > 1 || sought">
        <input
          v-model="sought"
          type="search"
          class="seek"
          placeholder="Find a shot"
          aria-label="Find a shot by its name"
          data-seek
          @keydown.esc="sought = ''"
        />
        <n-select
          v-model:value="order"
          :options="ORDERS"
          :show-arrow="true"
          class="order"
          aria-label="Order of the shots"
          data-order
        />
      </template>
      <router-link
        class="link"
        to="/work"
        title="All work of all shots, and what takes room on the disk"
        data-jobs
        >Jobs and room</router-link
      >
      <button class="pill" title="A shot that was saved as a file" @click="input?.click()">
        Bring in a shot file
      </button>
      <input
        ref="input"
        type="file"
        accept=".json,.zip"
        class="sr-only"
        tabindex="-1"
        aria-label="Shot file"
        @change="bring"
      />
      <button class="pill main" title="From a starter or from nothing" data-new-shot @click="making = true">
        New shot
      </button>
    </header>
    <p v-if="trouble" class="trouble" role="alert" data-trouble>{{ trouble }}</p>
    <div class="cards">
      <shot-card
        v-for="shot in shown"
        :key="shot.id"
        :shot="shot"
        @duplicate="duplicate(shot.id)"
        @away="takeAway(shot)"
      />
      <section v-if="loaded && !shots.length" class="empty">
        <h2>The shelf is empty</h2>
        <p class="quiet">
          A shot is one piece of work: objects, what they give off, the chamber it moves in and the light on
          it.
        </p>
        <button class="pill main" title="From a starter or from nothing" @click="making = true">
          Make the first shot
        </button>
      </section>
      <section v-else-if="loaded && !shown.length" class="empty">
        <p class="quiet">No shot is called “{{ sought }}”.</p>
        <button class="pill" title="Esc in the field does the same" @click="sought = ''">
          Show all {{ shots.length }}
        </button>
      </section>
    </div>
    <footer v-if="away.length">
      <button class="faint" title="Put shots back, or let them go" data-taken-away @click="looking = true">
        Taken away: {{ away.length }}
      </button>
    </footer>
    <new-shot v-if="making" :files="dropped" @close="((making = false), (dropped = []))" />
    <away-shots v-if="looking" :shots="away" @close="looking = false" @back="back" @go="letGo" />
  </main>
</template>

<style scoped>
.shelf.hovered {
  outline: 2px dashed var(--accent);
  outline-offset: -8px;
}

.shelf {
  min-height: 100vh;
  padding: 0 34px 60px;
  max-width: 1500px;
  margin: 0 auto;
}

header {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 22px 0 26px;
}

h1 {
  font-size: 17px;
  margin: 0;
}

.space {
  flex: 1;
}

.seek {
  font: inherit;
  color: inherit;
  width: 170px;
  height: 32px;
  padding: 0 14px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 999px;
}

.order {
  width: 140px;
}

.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(290px, 1fr));
  gap: 30px 24px;
}

.trouble {
  color: var(--warning);
}

.empty {
  grid-column: 1 / -1;
  text-align: center;
  padding: 90px 0;
}

footer {
  padding-top: 34px;
  text-align: right;
}
</style>
