<script setup lang="ts">
import { NSelect } from "naive-ui";
import { computed, onMounted, onUnmounted, ref } from "vue";
import { api } from "../api/client";
import { listen } from "../api/events";
import type { Machine, Machines } from "../api/types";
import { bytes, duration } from "../lib/numbers";
import { jobWord } from "../lib/jobWords";
import { useSaid } from "../lib/useSaid";

/** The machines that work for this data folder: what each does, how quick it is, when it was heard of. */
const { attempt } = useSaid();
const found = ref<Machines | null>(null);
/** How often it is looked at what they do, milliseconds: by itself, and at most where work goes on. */
const LOOK = 3000;
const SOON = 700;
const SHARES = [0, 0.01, 0.02, 0.05, 0.1, 0.25, 0.5, 1];
let stop: (() => void) | null = null;
let timer: ReturnType<typeof setInterval> | undefined;
let soon: ReturnType<typeof setTimeout> | undefined;

const machines = computed(() => found.value?.machines ?? []);
const command = `bin/vumbral worker --server ${location.origin} --token TOKEN`;
const shares = SHARES.map((share) => ({
  value: share,
  label: share ? `${Math.round(100 * share)} %` : "nothing",
}));

const load = () =>
  attempt(async () => {
    found.value = await api.machines();
  });
onMounted(async () => {
  await load();
  stop = listen(
    (kind) => {
      if (kind === "machines") void load();
      if (kind !== "job" || !machines.value.length) return;
      soon ??= setTimeout(() => {
        soon = undefined;
        void load();
      }, SOON);
    },
    () => {},
    null,
  );
  timer = setInterval(() => machines.value.length && void load(), LOOK);
});
onUnmounted(() => {
  stop?.();
  clearInterval(timer);
  clearTimeout(soon);
});

const STATES: Record<Machine["state"], string> = {
  here: "this one",
  working: "at work",
  paused: "paused",
  silent: "not heard of",
};
function state(machine: Machine) {
  if (machine.state === "silent") return `${STATES.silent} for ${duration(machine.seen)}`;
  if (machine.state === "working" && !machine.doing.length) return "waits for work";
  return STATES[machine.state];
}
function doing(job: Machine["doing"][number]) {
  const what = job.part ?? jobWord({ kind: job.kind });
  return [what, job.name && `of ${job.name}`, job.note && `(${job.note})`].filter(Boolean).join(" ");
}
const tell = (machine: Machine, what: "pause" | "go-on") =>
  attempt(() => api.tellMachine(machine.id!, what)).then(load);
const letGo = (machine: Machine) => attempt(() => api.letMachineGo(machine.id!)).then(load);
const twice = (share: number) => attempt(() => api.makeTwice(share)).then(load);
</script>

<template>
  <section v-if="found" aria-label="Machines" data-machines>
    <h2>
      Machines
      <a
        v-if="found.engine === 'redis'"
        class="link"
        href="/engine"
        title="What waits to be called, is called again, or came to nothing"
        >Calls</a
      >
    </h2>
    <p v-if="found.trouble" class="wrong" data-trouble>{{ found.trouble }}</p>
    <div v-if="!machines.length" class="part quiet" data-alone>
      <p>
        This machine works alone. Another one helps with runs, prints, exports and test strips once this is
        started there:
      </p>
      <code>{{ command }}</code>
    </div>
    <ul>
      <li
        v-for="machine in machines"
        :key="machine.id ?? 'here'"
        :data-machine="machine.name"
        :data-state="machine.state"
      >
        <div class="line">
          <strong>{{ machine.name }}</strong>
          <span :class="machine.state === 'silent' ? 'wrong' : 'quiet'">{{ state(machine) }}</span>
          <span class="space" />
          <template v-if="machine.id">
            <button
              v-if="machine.state === 'paused'"
              class="link"
              title="It gets work again"
              data-go-on
              @click="tell(machine, 'go-on')"
            >
              Go on
            </button>
            <button
              v-else
              class="link"
              title="What it has in hand is done first"
              data-pause
              @click="tell(machine, 'pause')"
            >
              Pause
            </button>
            <button
              class="link"
              title="What it has in hand is done by others"
              data-let-go
              @click="letGo(machine)"
            >
              Let go
            </button>
          </template>
        </div>
        <div class="line faint facts">
          <span>{{ machine.cores }} {{ machine.cores === 1 ? "core" : "cores" }}</span>
          <span>{{ bytes(machine.memory) }} for work</span>
          <span v-if="machine.speed" title="By a small plume of our own">
            {{ machine.speed.toFixed(2) }} million voxels/s
          </span>
          <span v-if="machine.done !== null"
            >{{ machine.done }} {{ machine.done === 1 ? "job" : "jobs" }} done</span
          >
        </div>
        <p v-for="job in machine.doing" :key="job.id" class="doing">{{ doing(job) }}</p>
        <p v-if="machine.trouble" class="wrong">{{ machine.trouble }}</p>
      </li>
    </ul>
    <div v-if="machines.length" class="limit">
      <span title="So that one that makes mistakes is found">Made twice and compared</span>
      <n-select
        class="twice"
        size="small"
        :value="found.twice"
        :options="shares"
        :input-props="{ 'aria-label': 'Share that is made twice' }"
        data-twice
        @update:value="twice"
      />
    </div>
  </section>
</template>

<style scoped src="./work.css"></style>
<style scoped>
code {
  display: block;
  margin-top: 6px;
  font-size: 12px;
  overflow-wrap: anywhere;
  user-select: all;
}

.facts {
  font-size: 12px;
}

.doing {
  margin: 4px 0 0;
}

.twice {
  width: 110px;
}
</style>
