<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { api } from "../api/client";
import type { Difference } from "../api/types";
import { duration } from "../lib/numbers";
import DeskDialog from "../lib/DeskDialog.vue";
import { useSaid } from "../lib/useSaid";
import { useDesk } from "../stores/desk";
import LightBalance from "./LightBalance.vue";
import PrintLight from "./PrintLight.vue";

/** One print large, or two with a line between them that can be drawn across. */
const props = defineProps<{ a: number; b: number | null }>();
const emit = defineEmits<{ close: []; turn: [by: number] }>();
const desk = useDesk();
const { attempt, done } = useSaid();
const differences = ref<Difference[]>([]);
const line = ref(50);
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
  const rows = some.value.map(({ node, dial }) => ({ node, dial }));
  if (await desk.bringBack(props.a, rows.length ? rows : undefined)) emit("close");
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
      <figure v-if="print" @pointerdown="drag" @pointermove="drag" @pointerleave="pointed = null">
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
            :style="{ clipPath: `inset(0 0 0 ${line}%)` }"
          />
          <span
            class="line"
            tabindex="0"
            role="slider"
            aria-label="Where one print ends and the other begins"
            aria-valuemin="0"
            aria-valuemax="100"
            :aria-valuenow="Math.round(line)"
            data-wipe-line
            :style="{ left: `${line}%` }"
          />
        </template>
      </figure>
      <aside v-if="print">
        <h3 v-if="other">P{{ print.number }} against P{{ other.number }}</h3>
        <h3 v-else>P{{ print.number }}</h3>
        <p class="quiet">
          Frame {{ print.frame }}, {{ print.quality }}, {{ print.width }} × {{ print.height }},
          {{ duration(print.seconds) }}
        </p>
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
        <p v-if="!differences.length" class="quiet">Nothing: the settings are the same.</p>
        <dl>
          <template v-for="row in differences" :key="`${row.node}${row.dial}`">
            <dt>
              <label title="Only what is ticked is brought back; without ticks, all of it">
                <input v-model="picked" type="checkbox" :value="nameOf(row)" :data-pick="nameOf(row)" />
                {{ row.label ?? row.text }} <span class="faint">{{ row.label ? row.name : "" }}</span>
              </label>
            </dt>
            <dd v-if="row.label">
              <span class="faint">{{ row.before }} →</span> {{ row.after }}
            </dd>
          </template>
        </dl>
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

.line {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 24px;
  margin-left: -12px;
  background: linear-gradient(90deg, transparent 11px, var(--accent) 11px 13px, transparent 13px);
  cursor: ew-resize;
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

dl {
  margin: 0;
}

dt {
  padding-top: 7px;
  border-top: 1px solid var(--track);
  margin-top: 7px;
}

dt label {
  display: block;
  min-height: 24px;
}

dt input {
  margin: 0 5px 0 0;
  accent-color: var(--accent);
  vertical-align: -2px;
}

dd {
  margin: 0;
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
