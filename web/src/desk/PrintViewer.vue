<script setup lang="ts">
import { useIntervalFn } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { api } from "../api/client";
import { whole } from "../api/past";
import type { Difference } from "../api/types";
import { duration } from "../lib/numbers";
import DeskDialog from "../lib/DeskDialog.vue";
import WipeLine from "../lib/WipeLine.vue";
import { useSaid } from "../lib/useSaid";
import { useDesk } from "../stores/desk";
import { BLINK, WAYS, type Against } from "../stores/past";
import DifferenceList from "./DifferenceList.vue";
import LightBalance from "./LightBalance.vue";
import PrintLight from "./PrintLight.vue";
import SaidOf from "./SaidOf.vue";

/** One print large, or two with a line between them that can be drawn across. */
const props = defineProps<{ a: number; b: number | null }>();
const emit = defineEmits<{ close: []; turn: [by: number] }>();
const desk = useDesk();
const { attempt, done } = useSaid();
const differences = ref<Difference[]>([]);
const line = ref(50);
const against = ref<Against>("wipe");
/** Which of two that blink is seen. */
const second = ref(false);
useIntervalFn(() => (second.value = !second.value), BLINK);
const print = computed(() => desk.prints.find((candidate) => candidate.number === props.a));
const other = computed(() => desk.prints.find((candidate) => candidate.number === props.b));

watch(
  () => [props.a, props.b, desk.shot?.head] as const,
  async () => {
    if (!desk.shot) return;
    differences.value = await api.differences(desk.shot.id, props.a, props.b ?? undefined).catch(() => []);
  },
  { immediate: true },
);

/** What stands in the print's place: its exposure in colours, or what differs. */
const instead = ref<string | null>(null);
const pointed = ref<{ x: number; y: number } | null>(null);

function drag(event: PointerEvent) {
  const image = (event.currentTarget as HTMLElement).querySelector("img")!.getBoundingClientRect();
  pointed.value = {
    x: (event.clientX - image.left) / image.width,
    y: (event.clientY - image.top) / image.height,
  };
  if (props.b === null || event.buttons !== 1) return;
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  line.value = Math.min(Math.max((100 * (event.clientX - box.left)) / box.width, 0), 100);
}

/** The line goes by arrows; so do the prints, as on the desk. */
function keys(event: KeyboardEvent) {
  const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (way && props.b !== null)
    line.value = Math.min(Math.max(line.value + way * (event.shiftKey ? 10 : 1), 0), 100);
  else if (event.key === "[" || event.key === "]") emit("turn", event.key === "[" ? 1 : -1);
  else return;
  event.preventDefault();
}

/** What of it is to be brought back, by node and dial; nothing picked is all of it. */
const picked = ref<string[]>([]);
const nameOf = (row: Difference) => `${row.node} ${row.dial ?? ""}`;
watch(
  () => props.a,
  () => (picked.value = []),
);
const some = computed(() => differences.value.filter((row) => picked.value.includes(nameOf(row))));

async function bringBack() {
  if (await desk.bringBack(props.a, some.value.length ? whole(some.value) : undefined)) emit("close");
}

async function say(said: { starred?: boolean; name?: string; note?: string }) {
  await attempt(() => api.sayOfPrint(desk.shot!.id, props.a, said));
  await desk.loadPrints();
}

async function takeAway() {
  if (!desk.shot) return;
  const { id } = desk.shot;
  const number = props.a;
  emit("close");
  const taken = await attempt(() => api.takePrintAway(id, number));
  await desk.loadPrints();
  if (taken) done(`P${number} was taken away.`, "Put it back", () => back(id, number));
}

async function back(id: string, number: number) {
  await attempt(() => api.putPrintBack(id, number));
  await desk.loadPrints();
}
</script>

<template>
  <desk-dialog label="Print" width="96vw" data-print-viewer @close="emit('close')">
    <div class="print" @keydown="keys">
      <figure
        v-if="print"
        :class="other && !instead ? against : ''"
        @pointerdown="drag"
        @pointermove="drag"
        @pointerleave="pointed = null"
      >
        <img
          :src="instead ?? api.printUrl(desk.shot!.id, print.number)"
          :data-instead="instead ? '' : undefined"
          :alt="`Print ${print.number}`"
          draggable="false"
        />
        <template v-if="other && !instead">
          <img
            class="over"
            :src="api.printUrl(desk.shot!.id, other.number)"
            :alt="`Print ${other.number}`"
            draggable="false"
            :style="against === 'wipe' ? { clipPath: `inset(0 0 0 ${line}%)` } : undefined"
            :class="{ away: against === 'blink' && !second }"
          />
          <wipe-line
            v-if="against === 'wipe'"
            v-model="line"
            label="Where one print ends and the other begins"
            data-wipe-line
          />
        </template>
      </figure>
      <aside v-if="print">
        <template v-if="other">
          <h3>P{{ print.number }} against P{{ other.number }}</h3>
          <div class="ways" role="group" aria-label="How they are laid against each other">
            <button
              v-for="[way, label, help] in WAYS"
              :key="way"
              class="link"
              :class="{ on: against === way }"
              :aria-pressed="against === way"
              :title="help"
              :data-print-against="way"
              @click="against = way"
            >
              {{ label }}
            </button>
          </div>
        </template>
        <h3 v-else>
          P{{ print.number }}
          <button
            class="link star"
            :aria-pressed="print.starred"
            :title="print.starred ? 'Take the star away' : 'Give it a star, to find it again'"
            data-star
            @click="say({ starred: !print.starred })"
          >
            {{ print.starred ? "★" : "☆" }}
          </button>
        </h3>
        <p class="quiet">
          Frame {{ print.frame }}, {{ print.quality }}, {{ print.width }} × {{ print.height }},
          {{ duration(print.seconds) }}
        </p>
        <said-of
          v-if="!other"
          :key="print.number"
          :name="print.name"
          :note="print.note"
          :what="`print ${print.number}`"
          @said="say($event)"
        />
        <print-light
          :url="api.printUrl(desk.shot!.id, print.number)"
          :other="other ? api.printUrl(desk.shot!.id, other.number) : null"
          :at="pointed"
          @shown="instead = $event"
        />
        <light-balance
          v-if="!other"
          :key="print.number"
          :number="print.number"
          :at="pointed"
          @shown="instead = $event"
          @applied="emit('close')"
        />
        <h4>
          {{ other ? `What differs from P${other.number}` : "What differs from the shot as it stands" }}
        </h4>
        <difference-list v-model="picked" :rows="differences" />
        <div class="buttons">
          <button
            class="pill main"
            :disabled="!differences.length"
            title="The shot gets the settings that this print was made with"
            data-bring-back
            @click="bringBack"
          >
            {{
              some.length
                ? `Bring ${some.length} of ${differences.length} back`
                : `Bring P${print.number}'s settings back`
            }}
          </button>
          <a
            class="pill"
            :href="api.printUrl(desk.shot!.id, print.number)"
            :download="`${desk.shot!.id}-P${print.number}.png`"
            >Save PNG</a
          >
          <button class="pill" title="Take it from the strip; it can be put back" @click="takeAway">
            Take away
          </button>
          <button class="pill" title="Esc" @click="emit('close')">Close</button>
        </div>
      </aside>
    </div>
  </desk-dialog>
</template>

<style scoped>
.print {
  display: flex;
  gap: 22px;
  align-items: flex-start;
}

figure {
  position: relative;
  margin: 0;
  flex: 1;
  min-width: 0;
  border: 5px solid var(--paper);
  border-radius: 2px;
  user-select: none;
}

figure img {
  display: block;
  width: 100%;
}

.over {
  position: absolute;
  inset: 0;
}

.away {
  visibility: hidden;
}

/* Each of them whole, in half of the width. */
.beside {
  display: grid;
  grid-template-columns: 1fr 1fr;
  align-self: center;
}

.beside .over {
  position: static;
}

.difference {
  isolation: isolate;
  filter: brightness(4);
}

.difference .over {
  mix-blend-mode: difference;
}

.ways {
  display: flex;
  gap: 12px;
}

.ways .link:not(.on) {
  color: var(--quiet);
}

aside {
  width: 270px;
  flex: none;
}

h3 {
  margin: 0;
  font-size: 15px;
}

h4 {
  margin: 14px 0 4px;
  font-size: 12px;
  color: var(--quiet);
}

.star {
  color: var(--warning);
  font-size: 16px;
}

.buttons {
  display: grid;
  gap: 8px;
  margin-top: 20px;
}

a.pill {
  color: inherit;
  text-decoration: none;
  display: grid;
  place-items: center;
}
</style>
