<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref } from "vue";
import { api } from "../api/client";
import { listen } from "../api/events";
import type { Job, QueuedJob } from "../api/types";
import JobProgress from "../lib/JobProgress.vue";
import { duration } from "../lib/numbers";
import { counts, jobWord } from "../lib/jobWords";
import { useSaid } from "../lib/useSaid";

/** What goes on and waits in all shots, in its order, and what has ended. */
const { attempt } = useSaid();
const jobs = ref<QueuedJob[]>([]);
const loaded = ref(false);
/** The job whose log is open. */
const open = ref<number | null>(null);
/** So many that have ended are shown at first. */
const FEW = 9;
const many = ref(false);
let stop: (() => void) | null = null;
let soon: ReturnType<typeof setTimeout> | undefined;

const active = computed(() => jobs.value.filter((job) => ["queued", "running"].includes(job.state)));
const ended = computed(() =>
  jobs.value.filter((job) => !active.value.includes(job) && (job.state === "failed" || counts(job))),
);
const load = () =>
  attempt(async () => {
    jobs.value = (await api.queue()).jobs;
    loaded.value = true;
  });

onMounted(async () => {
  await load();
  stop = listen(
    (kind, data) => {
      if (kind !== "job") return;
      const news = data as unknown as Job;
      const mine = jobs.value.find((job) => job.id === news.id);
      if (mine && mine.state === news.state) return void Object.assign(mine, news);
      // News that come quickly after each other must not put it off for ever.
      soon ??= setTimeout(() => {
        soon = undefined;
        void load();
      }, 200);
    },
    // What happened before it listened.
    (alive) => alive && void load(),
    null,
  );
});
onUnmounted(() => {
  stop?.();
  clearTimeout(soon);
});

const tell = (job: QueuedJob, what: "first" | "hold" | "go-on" | "again" | "cancel") =>
  attempt(() => api.tellJob(job.id, what)).then(load);

const asked = (job: QueuedJob) => new Date(1000 * job.asked).toLocaleTimeString("en-GB");
</script>

<template>
  <section aria-label="Jobs">
    <h2>Under way</h2>
    <p v-if="loaded && !active.length" class="quiet" data-idle>
      Nothing goes on. What is run, printed or handed on in any shot is seen here, in the order in which it is
      done.
    </p>
    <ul>
      <li v-for="job in active" :key="job.id" :data-job="job.id" :data-state="job.held ? 'held' : job.state">
        <div class="line">
          <span class="what">{{ jobWord(job) }}</span>
          <router-link v-if="job.shot" class="link" :to="`/shots/${job.shot}`" title="Open the shot">{{
            job.name
          }}</router-link>
          <span v-if="job.background" class="faint">makes way for others</span>
          <span v-if="job.machine" class="faint">on {{ job.machine }}</span>
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
            {{ jobWord(job) }}
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
          <dt v-if="job.machine">Done on</dt>
          <dd v-if="job.machine">{{ job.machine }}</dd>
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
</template>

<style scoped src="./work.css"></style>
