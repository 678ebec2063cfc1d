<script setup lang="ts">
import { computed } from "vue";
import { api } from "../api/client";
import type { ShotNode } from "../api/types";
import JobProgress from "../lib/JobProgress.vue";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

/** Follows a spot from the frame that is looked at. */
const props = defineProps<{ node: ShotNode }>();
const desk = useDesk();
const catalog = useCatalog();
const job = computed(() => desk.active.find((one) => ["track", "pin"].includes(one.kind)));
const keys = computed(() => (props.node.keys.x ?? []).map((key) => key.frame));
const known = computed(() =>
  keys.value.length > 1
    ? `Known from frame ${keys.value[0]} to ${keys.value.at(-1)}.`
    : "Put it onto a spot with an edge or a corner in the frame, then follow it.",
);

const pinned = computed(() => desk.byId.get(String(catalog.read(props.node, "prop"))));
const spots = computed(
  () =>
    desk.nodes.filter((node) => node.kind === "track" && catalog.read(node, "prop") === pinned.value?.id)
      .length,
);

async function smooth() {
  const answer = desk.shot && (await desk.attempt(() => api.smoothTrack(desk.shot!.id, props.node.id)));
  if (answer) desk.take(answer);
}

async function pin() {
  if (desk.shot && pinned.value) await desk.attempt(() => api.pin(desk.shot!.id, pinned.value!.id));
}

async function follow(to: number) {
  if (desk.shot) await desk.attempt(() => api.track(desk.shot!.id, props.node.id, desk.frame, to));
}
</script>

<template>
  <div class="track">
    <template v-if="job">
      <job-progress :job="job" />
      <button class="link" title="Stop here; nothing of it is kept" @click="api.cancel(job.id)">Stop</button>
    </template>
    <template v-else>
      <button
        class="link"
        :disabled="desk.frame >= desk.last"
        :title="`From frame ${desk.frame} to the last one`"
        data-track="on"
        @click="follow(desk.last)"
      >
        Follow on
      </button>
      <button
        class="link"
        :disabled="desk.frame >= desk.last"
        title="One frame only"
        @click="follow(desk.frame + 1)"
      >
        One frame
      </button>
      <button
        class="link"
        :disabled="desk.frame <= desk.first"
        :title="`From frame ${desk.frame} back to the first one`"
        data-track="back"
        @click="follow(desk.first)"
      >
        Follow back
      </button>
    </template>
    <button
      v-if="keys.length > 2 && !job"
      class="link"
      title="Evens its way, and fills frames between that have no key"
      data-smooth
      @click="smooth"
    >
      Make even
    </button>
    <button
      v-if="pinned && !job"
      class="link"
      :disabled="spots < 3"
      :title="`Puts it where its ${spots} tracked spots are; three are needed, four are better`"
      data-pin
      @click="pin"
    >
      Pin {{ pinned.name }}
    </button>
    <p class="faint">{{ known }}</p>
  </div>
</template>

<style scoped>
.track {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  margin: 2px 0 6px;
}

p {
  flex-basis: 100%;
  margin: 0;
  font-size: 11.5px;
}
</style>
