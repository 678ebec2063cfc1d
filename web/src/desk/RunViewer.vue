<script setup lang="ts">
import { computed, onMounted, ref, watch } from "vue";
import { past, whole } from "../api/past";
import type { Difference } from "../api/types";
import { bytes } from "../lib/numbers";
import DeskDialog from "../lib/DeskDialog.vue";
import { useSaid } from "../lib/useSaid";
import { useDesk } from "../stores/desk";
import { usePast } from "../stores/past";
import DifferenceList from "./DifferenceList.vue";
import SaidOf from "./SaidOf.vue";

/** One run: what differs from the shot as it stands, and what can be done with it. */
const props = defineProps<{ number: number }>();
const emit = defineEmits<{ close: [] }>();
const desk = useDesk();
const story = usePast();
const { attempt, done } = useSaid();
const differences = ref<Difference[]>([]);
const picked = ref<string[]>([]);
/** Another run that it is held against, or the shot as it stands. */
const against = ref<number | null>(null);
const others = computed(() => story.runs.filter((one) => one.number !== props.number));
const run = computed(() => story.runs.find((one) => one.number === props.number));
const cache = computed(() => (run.value?.cache ? story.kept.get(run.value.cache) : undefined));
const some = computed(() =>
  differences.value.filter((row) => picked.value.includes(`${row.node} ${row.dial ?? ""}`)),
);

onMounted(() => run.value || story.load());
watch(
  () => [props.number, desk.shot?.head, against.value] as const,
  async () => {
    picked.value = [];
    if (desk.shot)
      differences.value = await past.differences(desk.shot.id, props.number, against.value).catch(() => []);
  },
  { immediate: true },
);

async function bringBack() {
  const rows = some.value.length ? whole(some.value) : undefined;
  const answer = await attempt(() => past.bringBack(desk.shot!.id, props.number, rows));
  if (!answer) return;
  desk.take(answer);
  emit("close");
}

async function keep() {
  const made = await attempt(() => past.keep(desk.shot!.id, props.number));
  if (made) await story.load();
}

async function letGo() {
  const gone = await attempt(() => past.letGo(cache.value!.digest));
  if (gone) await story.load();
}

async function say(said: { name?: string; note?: string }) {
  await attempt(() => past.tell(cache.value!.digest, said));
  await story.load();
}

async function takeAway() {
  const gone = await attempt(() => past.takeAway(desk.shot!.id, props.number));
  if (!gone) return;
  emit("close");
  done(`Run ${props.number} was taken away; it gave ${bytes(gone.given)} back.`);
  await story.load();
}

/** Puts it into the shot: its gas as a volume of its own, beside what is run, its liquid as a prop. */
async function place() {
  const edits = await attempt(() => past.placing(cache.value!.digest));
  const kind = edits?.at(-1)?.kind;
  if (!edits || !kind) return;
  emit("close");
  desk.chapter = kind === "sculpt" ? "sculpt" : "props";
  await desk.edit(edits);
  desk.selected = desk.nodes.filter((node) => node.kind === kind).at(-1)?.id ?? null;
}

async function handOn() {
  const { digest, name, holds } = cache.value!;
  for (const what of holds) {
    const [as, words] = what === "gas" ? ["vdb", "OpenVDB"] : ["ply", "meshes"];
    if (await attempt(() => past.export([digest], as)))
      done(`${name} is being written as ${words}; Exports and Work tell how far it is.`);
  }
}

function lay() {
  void story.compare(props.number);
  emit("close");
}
</script>

<template>
  <desk-dialog label="Run" width="620px" data-run-viewer @close="emit('close')">
    <div v-if="run" class="run">
      <div class="left">
        <img v-if="run.picture" :src="past.pictureUrl(desk.shot!.id, run)" :alt="`Run ${run.number}`" />
        <p class="quiet">{{ run.changed }}</p>
        <div class="buttons">
          <button
            class="pill main"
            :disabled="!run.there"
            title="Both play together in the view, with a line between them"
            data-lay-against
            @click="lay"
          >
            Lay against the shot
          </button>
          <button
            class="pill"
            :disabled="!differences.length"
            title="The shot gets the settings that this run was made with"
            data-bring-run-back
            @click="bringBack"
          >
            {{
              some.length
                ? `Bring ${some.length} of ${differences.length} back`
                : `Bring R${run.number}'s settings back`
            }}
          </button>
          <template v-if="cache">
            <button
              class="pill"
              title="Its gas as a volume of its own, its liquid as a prop: moved, turned and played at another pace"
              data-place-run
              @click="place"
            >
              Place it in the shot
            </button>
            <button class="pill" title="Its gas as OpenVDB files, its liquid as meshes" @click="handOn">
              Hand it on
            </button>
            <button
              class="pill"
              title="Its frames make room when room is needed"
              data-let-run-go
              @click="letGo"
            >
              Keep it no longer
            </button>
          </template>
          <template v-else>
            <button
              class="pill"
              :disabled="!run.there"
              title="Under a name: its frames stay, and it can be placed again"
              data-keep-run
              @click="keep"
            >
              Keep it
            </button>
            <button
              class="pill"
              title="With the frames that nothing else needs"
              data-take-run-away
              @click="takeAway"
            >
              Take away
            </button>
          </template>
          <button class="pill" title="Esc" @click="emit('close')">Close</button>
        </div>
      </div>
      <div class="right">
        <h3>R{{ run.number }}</h3>
        <p class="quiet">{{ run.quality }}, {{ run.there }} of {{ run.of }} frames are here</p>
        <said-of v-if="cache" :name="cache.name" :note="cache.note" :what="`run ${run.number}`" @said="say" />
        <label class="against">
          What differs from
          <select v-model="against" aria-label="What it is held against" data-run-against>
            <option :value="null">the shot as it stands</option>
            <option v-for="one in others" :key="one.number" :value="one.number">R{{ one.number }}</option>
          </select>
        </label>
        <difference-list v-model="picked" :rows="differences" />
      </div>
    </div>
  </desk-dialog>
</template>

<style scoped>
.run {
  display: grid;
  grid-template-columns: 230px 1fr;
  gap: 22px;
}

img {
  width: 100%;
  border-radius: 8px;
  display: block;
}

h3 {
  margin: 0;
  font-size: 15px;
}

.against {
  display: block;
  margin: 14px 0 4px;
  color: var(--quiet);
}

select {
  font: inherit;
  color: var(--text);
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 7px;
  padding: 3px 6px;
}

.buttons {
  display: grid;
  gap: 8px;
}
</style>
