<script setup lang="ts">
import { useMessage } from "naive-ui";
import { onMounted, onUnmounted, ref } from "vue";
import { useRouter } from "vue-router";
import { api, checkSize } from "../api/client";
import { listen } from "../api/events";
import type { Job, ShotRow } from "../api/types";
import NewShot from "../desk/NewShot.vue";
import JobProgress from "../lib/JobProgress.vue";
import { useCatalog } from "../stores/catalog";

const router = useRouter();
const message = useMessage();
const catalog = useCatalog();
const shots = ref<ShotRow[]>([]);
const loaded = ref(false);
const trouble = ref<string | null>(null);
const event = ref<number | null>(null);
const making = ref(false);
const doomed = ref<string | null>(null);
const input = ref<HTMLInputElement | null>(null);
let stop: (() => void) | null = null;

async function attempt(work: () => Promise<unknown>) {
  try {
    await work();
  } catch (error) {
    message.error((error as Error).message, { duration: 9000, closable: true });
  }
}

const load = () =>
  attempt(async () => {
    const answer = await api.shots();
    shots.value = answer.shots;
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

/** What goes on in a shot: what runs comes before what waits. */
const work = (shot: ShotRow) =>
  shot.jobs
    .filter((job) => job.kind === "run" || job.kind === "export")
    .sort((a, b) => Number(b.state === "running") - Number(a.state === "running"))[0];

const bring = (event: Event) =>
  attempt(async () => {
    const file = (event.target as HTMLInputElement).files?.[0];
    if (!file) return;
    checkSize(file, catalog.catalog?.limits.shot ?? Infinity);
    const shot = await api.importShot(await file.text());
    await router.push(`/shots/${shot.id}`);
  });

const remove = (id: string) =>
  attempt(async () => {
    await api.deleteShot(id);
    doomed.value = null;
    await load();
  });

const duplicate = (id: string) =>
  attempt(async () => {
    await api.duplicate(id);
    await load();
  });

const when = (seconds: number) =>
  new Date(seconds * 1000).toLocaleString("en-GB", {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  });
</script>

<template>
  <main class="shelf">
    <header>
      <img src="/mark.svg" width="30" height="30" alt="" />
      <h1>Vumbral</h1>
      <span class="space" />
      <button class="pill" @click="input?.click()">Bring in a shot file</button>
      <input
        ref="input"
        type="file"
        accept=".json"
        class="sr-only"
        tabindex="-1"
        aria-label="Shot file"
        @change="bring"
      />
      <button class="pill main" data-new-shot @click="making = true">New shot</button>
    </header>
    <p v-if="trouble" class="trouble" role="alert" data-trouble>{{ trouble }}</p>
    <div class="cards">
      <article v-for="shot in shots" :key="shot.id" :data-shot="shot.id">
        <router-link :to="`/shots/${shot.id}`" class="paper">
          <span class="sr-only">Open {{ shot.name }}:</span>
          <img v-if="shot.print" :src="api.printUrl(shot.id, shot.print)" alt="" />
          <span v-else class="blank">no print yet</span>
        </router-link>
        <div class="line">
          <router-link :to="`/shots/${shot.id}`" class="name">{{ shot.name }}</router-link>
          <span class="faint">{{ when(shot.changed) }}</span>
        </div>
        <div v-if="work(shot)" class="line work" role="status" data-work>
          <job-progress
            brief
            :job="work(shot)!"
            :title="work(shot)!.kind === 'export' ? 'Export' : 'Frames'"
          />
        </div>
        <div v-if="doomed === shot.id" class="line" role="alert">
          <span>Throw this shot away with its prints?</span>
          <button class="link" @click="remove(shot.id)">Yes</button>
          <button class="link" @click="doomed = null">No</button>
        </div>
        <div v-else class="line acts">
          <button class="faint" @click="duplicate(shot.id)">Duplicate</button>
          <button class="faint" @click="doomed = shot.id">Throw away</button>
        </div>
      </article>
      <section v-if="loaded && !shots.length" class="empty">
        <h2>The shelf is empty</h2>
        <p class="quiet">
          A shot is one piece of work: objects, what they give off, the chamber it moves in and the light on
          it.
        </p>
        <button class="pill main" @click="making = true">Make the first shot</button>
      </section>
    </div>
    <new-shot v-if="making" @close="making = false" />
  </main>
</template>

<style scoped>
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

.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
  gap: 30px 24px;
}

.paper {
  display: block;
  border: 5px solid var(--paper);
  border-radius: 3px;
  background: #0a0c0d;
  aspect-ratio: 16 / 9;
  overflow: hidden;
}

.paper:hover {
  border-color: #f4efe4;
}

.paper img {
  display: block;
  width: 100%;
  height: 100%;
  object-fit: cover;
}

.blank {
  display: grid;
  place-items: center;
  height: 100%;
  color: var(--faint);
}

.line {
  display: flex;
  gap: 12px;
  align-items: baseline;
  padding-top: 7px;
}

.line .faint:last-child {
  margin-left: auto;
}

.name {
  color: var(--text);
  display: inline-block;
  min-height: 24px;
  line-height: 24px;
  font-weight: 600;
  font-size: 13.5px;
  text-decoration: none;
}

.acts {
  font-size: 11.5px;
  padding-top: 2px;
}

.work {
  align-items: center;
  font-size: 11.5px;
  min-width: 0;
}

.trouble {
  color: var(--warning);
}

.empty {
  grid-column: 1 / -1;
  text-align: center;
  padding: 90px 0;
}
</style>
