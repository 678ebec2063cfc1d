<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref } from "vue";
import { api } from "../api/client";
import { listen } from "../api/events";
import type { Job, Preset, QueuedJob, Room } from "../api/types";
import { bytes, duration } from "../lib/numbers";
import JobProgress from "../lib/JobProgress.vue";
import { useSaid } from "../lib/useSaid";

/** All work of all shots, and what the data folder holds. */
const { attempt, done } = useSaid();
const jobs = ref<QueuedJob[]>([]);
const room = ref<Room | null>(null);
const loaded = ref(false);
/** The job whose log is open. */
const open = ref<number | null>(null);
/** So many that have ended are shown at first. */
const FEW = 9;
const many = ref(false);
/** GB that frames may take, as it is written. */
const limit = ref("");
let stop: (() => void) | null = null;
let soon: ReturnType<typeof setTimeout> | undefined;

const WORDS: Record<string, string> = {
  run: "Run",
  strip: "Test strip",
  print: "Print",
  export: "Export",
  light: "Light of frames",
  sheet: "Contact sheet",
  track: "Following a spot",
  spots: "Finding spots",
  sighting: "Camera from spots",
  pin: "Pinning a prop",
  plate: "Reading a plate",
  mesh: "Reading a mesh",
  balance: "Balancing lamps",
  reel: "Moving picture",
  element: "Picture of a layer",
};
const word = (job: QueuedJob) => WORDS[job.kind] ?? job.kind;
const active = computed(() => jobs.value.filter((job) => ["queued", "running"].includes(job.state)));
/** Small steps of looking at things say nothing. */
const QUIET = ["bodies", "glance", "fog", "sketch", "surface", "volume", "meter", "element", "reel"];
const ended = computed(() =>
  jobs.value.filter(
    (job) => !active.value.includes(job) && (job.state === "failed" || !QUIET.includes(job.kind)),
  ),
);
const whole = computed(() => room.value?.parts.reduce((sum, part) => sum + part.bytes, 0) ?? 0);

const load = () =>
  attempt(async () => {
    jobs.value = (await api.queue()).jobs;
    loaded.value = true;
  });
const look = () =>
  attempt(async () => {
    room.value = await api.room();
    limit.value = room.value.limit ? (room.value.limit / 1024 ** 3).toFixed(2).replace(/\.?0+$/, "") : "";
  });

onMounted(async () => {
  document.title = "Jobs and room – Vumbral";
  await Promise.all([load(), look(), list()]);
  stop = listen(
    (kind, data) => {
      if (kind !== "job") return;
      const news = data as unknown as Job;
      const mine = jobs.value.find((job) => job.id === news.id);
      if (mine && mine.state === news.state) return void Object.assign(mine, news);
      clearTimeout(soon);
      soon = setTimeout(load, 200);
    },
    () => {},
    null,
  );
});
onUnmounted(() => {
  stop?.();
  clearTimeout(soon);
});

const tell = (job: QueuedJob, what: "first" | "hold" | "go-on" | "again" | "cancel") =>
  attempt(() => api.tellJob(job.id, what)).then(load);

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

const presets = ref<Preset[]>([]);
const file = ref<HTMLInputElement | null>(null);
const list = () => attempt(async () => (presets.value = await api.presets()));

const letGo = (preset: Preset) =>
  attempt(async () => (presets.value = (await api.letPresetGo(preset.id)).presets));

async function bring() {
  const given = file.value?.files?.[0];
  if (given) await attempt(() => api.bringPreset(given));
  if (file.value) file.value.value = "";
  await list();
}

const asked = (job: QueuedJob) => new Date(1000 * job.asked).toLocaleTimeString("en-GB");
</script>

<template>
  <main class="work" data-work>
    <header>
      <router-link class="link" to="/" title="Back to the shelf">Shelf</router-link>
      <h1>Jobs and room</h1>
    </header>
    <section aria-label="Jobs">
      <h2>Under way</h2>
      <p v-if="loaded && !active.length" class="quiet" data-idle>
        Nothing goes on. What is run, printed or handed on in any shot is seen here, in the order in which it
        is done.
      </p>
      <ul>
        <li
          v-for="job in active"
          :key="job.id"
          :data-job="job.id"
          :data-state="job.held ? 'held' : job.state"
        >
          <div class="line">
            <span class="what">{{ word(job) }}</span>
            <router-link v-if="job.shot" class="link" :to="`/shots/${job.shot}`" title="Open the shot">{{
              job.name
            }}</router-link>
            <span v-if="job.background" class="faint">makes way for others</span>
            <span class="space" />
            <span v-if="job.held" class="quiet">held back</span>
            <job-progress v-else :job="job" />
          </div>
          <div class="acts">
            <button
              v-if="job.state === 'queued' && !job.held"
              class="link"
              title="Before all others that wait"
              data-first
              @click="tell(job, 'first')"
            >
              First
            </button>
            <button
              v-if="!job.held"
              class="link"
              title="What it is at comes to a good place first; what is finished is kept"
              data-hold
              @click="tell(job, 'hold')"
            >
              Hold back
            </button>
            <button v-else class="link" title="From where it was" data-go-on @click="tell(job, 'go-on')">
              Go on
            </button>
            <button class="link" title="For good; what is finished is kept" @click="tell(job, 'cancel')">
              Stop
            </button>
          </div>
        </li>
      </ul>
      <h2 v-if="ended.length">Ended</h2>
      <ul>
        <li
          v-for="job in many ? ended : ended.slice(0, FEW)"
          :key="job.id"
          :data-job="job.id"
          :data-state="job.state"
        >
          <div class="line">
            <button
              class="what link"
              :aria-expanded="open === job.id"
              title="What is known of it"
              @click="open = open === job.id ? null : job.id"
            >
              {{ word(job) }}
            </button>
            <router-link
              v-if="job.shot && job.name"
              class="link"
              :to="`/shots/${job.shot}`"
              title="Open the shot"
              >{{ job.name }}</router-link
            >
            <span class="space" />
            <span :class="job.state === 'failed' ? 'wrong' : 'quiet'">{{
              { done: "done", failed: "went wrong", cancelled: "stopped" }[job.state as "done"]
            }}</span>
            <span v-if="job.seconds" class="faint">{{ duration(job.seconds) }}</span>
            <button
              v-if="job.state !== 'done'"
              class="link"
              title="From what it had finished"
              data-again
              @click="tell(job, 'again')"
            >
              Once more
            </button>
          </div>
          <p v-if="job.error" class="wrong">{{ job.error }}</p>
          <dl v-if="open === job.id" class="log">
            <dt>Number</dt>
            <dd>{{ job.id }}</dd>
            <dt>Asked for at</dt>
            <dd>{{ asked(job) }}</dd>
            <dt>Came to</dt>
            <dd>
              {{ job.done }} of {{ job.total }}<template v-if="job.note">, {{ job.note }}</template>
            </dd>
            <dt v-if="job.attempts > 1">Begun</dt>
            <dd v-if="job.attempts > 1">{{ job.attempts }} times</dd>
            <template v-for="(value, name) in job.result ?? {}" :key="name">
              <dt>{{ name }}</dt>
              <dd>{{ typeof value === "object" ? JSON.stringify(value) : value }}</dd>
            </template>
          </dl>
        </li>
      </ul>
      <button v-if="ended.length > FEW && !many" class="link" title="As far as is known" @click="many = true">
        {{ ended.length - FEW }} more
      </button>
    </section>
    <div class="beside">
      <section v-if="room" aria-label="Room" data-room>
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
            {{ room.stale.frames }} frames are of shots as they once stood: undo finds them again as long as
            they are there.
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
          <button class="link" title="Beyond that the oldest go that no shot needs as it stands">
            So be it
          </button>
        </form>
      </section>
      <section aria-label="Presets" data-preset-list>
        <h2>Presets</h2>
        <p v-if="!presets.length" class="quiet">
          What is set of a thing is kept by <em>Presets</em> on its card, for things of its kind in any shot.
        </p>
        <div v-for="preset in presets" :key="preset.id" class="part" :data-preset="preset.id">
          <span>{{ preset.name }}</span>
          <span class="quiet">{{ preset.kind }}, {{ preset.dials }} set</span>
          <span class="space" />
          <a class="link" :href="`/api/presets/${preset.id}`" download title="For others">Save as a file</a>
          <button class="link" title="For good" @click="letGo(preset)">Take away</button>
        </div>
        <button class="link" title="One that was saved as a file" @click="file?.click()">
          Bring in a preset
        </button>
        <input
          ref="file"
          type="file"
          accept=".json"
          class="sr-only"
          tabindex="-1"
          aria-label="Preset file"
          @change="bring"
        />
      </section>
    </div>
  </main>
</template>

<style scoped>
.work {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(320px, 420px);
  gap: 0 36px;
  max-width: 1240px;
  margin: 0 auto;
  padding: 22px 20px 60px;
}

@media (width < 900px) {
  .work {
    grid-template-columns: minmax(0, 1fr);
  }
}

header {
  display: flex;
  grid-column: 1 / -1;
  gap: 16px;
  align-items: baseline;
}

h1 {
  font-size: 18px;
}

h2 {
  margin: 22px 0 8px;
  font-size: 14px;
}

h2 .quiet {
  font-weight: 400;
}

ul {
  margin: 0;
  padding: 0;
  list-style: none;
}

li,
.part {
  position: relative;
  margin-bottom: 6px;
  padding: 9px 12px;
  border-radius: 10px;
  background: var(--card);
  overflow: hidden;
}

.line,
.acts,
.part,
.limit {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
}

.what {
  min-width: 120px;
  text-align: left;
}

.space {
  flex: 1;
}

.acts {
  margin-top: 4px;
}

.wrong {
  margin: 4px 0 0;
  color: var(--warning);
}

.log {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 2px 14px;
  margin: 8px 0 0;
  font-size: 12px;
}

.log dt {
  color: var(--quiet);
}

.log dd {
  margin: 0;
  overflow-wrap: anywhere;
}

.part > :not(.bar) {
  position: relative;
}

.part p {
  margin: 0;
}

.part .bar {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--track);
}

.limit {
  margin-top: 10px;
}

.limit input {
  font: inherit;
  width: 120px;
  height: 26px;
  margin: 0 6px;
  padding: 0 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--panel);
  color: inherit;
}
</style>
