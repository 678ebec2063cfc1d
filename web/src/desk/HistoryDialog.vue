<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from "vue";
import { api } from "../api/client";
import { past, type Point } from "../api/past";
import type { Difference } from "../api/types";
import DeskDialog from "../lib/DeskDialog.vue";
import { useSaid } from "../lib/useSaid";
import { useDesk } from "../stores/desk";
import { usePast } from "../stores/past";
import DifferenceList from "./DifferenceList.vue";

/** All that was tried, as a tree with pictures: any point can be gone back to and gone on from. */
const emit = defineEmits<{ close: [] }>();
const desk = useDesk();
const story = usePast();
const { attempt } = useSaid();
/** Room between two lines of the tree, and from the top of a row to its point, pixels. */
const STEP = 14;
const points = shallowRef<Point[]>([]);
const head = ref(0);
const picked = ref<number | null>(null);
const differences = ref<Difference[]>([]);
const lines = computed(() => Math.max(0, ...points.value.map((point) => point.line)) + 1);
const chosen = computed(() => points.value.find((point) => point.number === picked.value));

async function load() {
  const answer = desk.shot && (await attempt(() => past.history(desk.shot!.id)));
  if (!answer) return;
  points.value = answer.points;
  head.value = answer.head;
  picked.value ??= answer.head;
}
onMounted(() => Promise.all([load(), story.load()]));
watch(
  () => desk.shot?.head,
  () => load(),
);
watch(picked, async (number) => {
  differences.value = number && desk.shot ? await past.sinceThen(desk.shot.id, number).catch(() => []) : [];
});

/** The picture of a point: of its newest print, or of its newest run. */
function picture(point: Point): string | null {
  const print = point.prints.at(-1);
  if (print !== undefined) return api.printUrl(desk.shot!.id, print);
  const run = story.runs.find((one) => one.picture && point.runs.includes(one.number));
  return run ? past.pictureUrl(desk.shot!.id, run) : null;
}

/** What was made there, in few words. */
function made(point: Point): string {
  const [run, print] = [point.runs, point.prints].map((all) => all.at(-1));
  return [run !== undefined && `R${run}`, print !== undefined && `P${print}`]
    .filter((word) => word)
    .join(" ");
}

/** What led there: the last steps, and how many there were before. */
function words(point: Point): string {
  const last = point.labels.slice(-2).join(", ");
  return point.labels.length > 2 ? `${last} and ${point.labels.length - 2} before` : last;
}

const when = (at: number) =>
  new Date(at * 1000).toLocaleString("en", { dateStyle: "medium", timeStyle: "short" });

/** Lines of the tree that go through a row: each from its last point down to the one that it left from. */
const through = computed(() =>
  points.value.map((point, n) => {
    const passing = points.value.slice(0, n).filter((above) => {
      const from = points.value.findIndex((one) => one.number === above.parent);
      return from > n || from < 0;
    });
    return [...new Set(passing.map((above) => above.line))].filter((line) => line !== point.line);
  }),
);
const begins = (n: number) =>
  points.value
    .slice(0, n)
    .some((above) => above.parent === points.value[n].number && above.line === points.value[n].line);
const leaves = (n: number) =>
  points.value
    .slice(0, n)
    .filter((above) => above.parent === points.value[n].number && above.line !== points.value[n].line)
    .map((above) => above.line);

async function go(number: number) {
  const answer = await attempt(() => past.go(desk.shot!.id, number));
  if (!answer) return;
  desk.announce(answer.label);
  desk.take(answer);
}
</script>

<template>
  <desk-dialog label="History" width="820px" data-history @close="emit('close')">
    <div class="history">
      <div class="tree" role="list">
        <button
          v-for="(point, n) in points"
          :key="point.number"
          class="point"
          :class="{ picked: point.number === picked, here: point.number === head }"
          role="listitem"
          title="Click for what differs from the shot as it stands; double click goes there"
          :data-point="point.number"
          @click="picked = point.number"
          @dblclick="go(point.number)"
        >
          <svg :width="STEP * lines + 6" height="58" aria-hidden="true">
            <g v-for="line in through[n]" :key="line" class="way">
              <path :d="`M ${STEP * line + 9} 0 V 58`" />
            </g>
            <path v-if="begins(n)" class="way" :d="`M ${STEP * point.line + 9} 0 V 29`" />
            <path v-if="point.parent !== null" class="way" :d="`M ${STEP * point.line + 9} 29 V 58`" />
            <path
              v-for="line in leaves(n)"
              :key="`from ${line}`"
              class="way"
              :d="`M ${STEP * line + 9} 0 V 14 Q ${STEP * line + 9} 29 ${STEP * point.line + 9} 29`"
            />
            <circle :cx="STEP * point.line + 9" cy="29" r="4.5" :class="{ here: point.number === head }" />
          </svg>
          <span class="paper">
            <img v-if="picture(point)" :src="picture(point)!" alt="" loading="lazy" />
            <b v-if="made(point)">{{ made(point) }}</b>
          </span>
          <span class="words">
            <span>{{ words(point) }}</span>
            <span class="faint">{{ point.number === head ? "the shot stands here" : when(point.at) }}</span>
          </span>
        </button>
      </div>
      <aside v-if="chosen">
        <button
          class="pill main"
          :disabled="chosen.number === head"
          title="The shot stands there then; what was done since stays in the tree"
          data-go-there
          @click="go(chosen.number)"
        >
          {{ chosen.number === head ? "The shot stands here" : "Go there" }}
        </button>
        <h4>Steps that led there</h4>
        <p v-for="(label, n) in chosen.labels.slice(-8)" :key="n" class="quiet">{{ label }}</p>
        <template v-if="chosen.number !== head">
          <h4>What is different there</h4>
          <difference-list :rows="differences" :ticks="false" />
        </template>
        <button class="pill" title="Esc" @click="emit('close')">Close</button>
      </aside>
    </div>
  </desk-dialog>
</template>

<style scoped>
.history {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 250px;
  gap: 22px;
  max-height: 78vh;
}

.tree {
  overflow: auto;
  display: flex;
  flex-direction: column;
}

.point {
  display: grid;
  grid-template-columns: auto 92px minmax(0, 1fr);
  gap: 10px;
  align-items: center;
  height: 58px;
  text-align: left;
  border-radius: 8px;
  flex: none;
}

.point:hover,
.point.picked {
  background: var(--card);
}

.way,
.way path {
  fill: none;
  stroke: var(--faint);
  stroke-width: 1.5;
}

circle {
  fill: var(--faint);
}

circle.here {
  fill: var(--accent);
}

.paper {
  position: relative;
  width: 92px;
  height: 52px;
  border-radius: 5px;
  background: var(--surround);
  overflow: hidden;
}

.paper img {
  width: 100%;
  height: 100%;
  object-fit: cover;
  display: block;
}

b {
  position: absolute;
  left: 4px;
  top: 4px;
  background: var(--card);
  font-size: 10.5px;
  padding: 0 4px;
  border-radius: 3px;
}

.words {
  display: grid;
  gap: 2px;
}

.words span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.here .words {
  color: var(--text);
}

aside {
  overflow: auto;
  display: flex;
  flex-direction: column;
  gap: 4px;
}

aside p {
  margin: 0;
}

h4 {
  margin: 14px 0 4px;
  font-size: 12px;
  color: var(--quiet);
}

aside > .pill:last-child {
  margin-top: auto;
}
</style>
