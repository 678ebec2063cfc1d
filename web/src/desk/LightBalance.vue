<script setup lang="ts">
import { NSlider } from "naive-ui";
import { computed, onBeforeUnmount, ref, watch } from "vue";
import { api, Refused, type Gain } from "../api/client";
import { useDesk } from "../stores/desk";

/** A print's lights, each made brighter or of another colour after it was made, and put into the shot. */
const props = defineProps<{ number: number; at: { x: number; y: number } | null }>();
const emit = defineEmits<{ shown: [picture: string | null]; applied: [] }>();
const desk = useDesk();
const names = ref<string[]>([]);
const gains = ref<Gain[]>([]);
const waiting = ref(false);
const moved = computed(() => gains.value.some((gain) => gain.stops || gain.colour.some((c) => c !== 1)));
let asked: AbortController | null = null;
let shown: string | null = null;

/** The light under the pointer, before the film. */
const light = ref<{ all: number[]; parts: Record<string, number[]> } | null>(null);
let reading: AbortController | null = null;

watch(
  () => props.at,
  async (at) => {
    if (!at || !names.value.length || !desk.shot) return;
    reading?.abort();
    reading = new AbortController();
    light.value = await api
      .printLight(desk.shot.id, props.number, at.x, at.y, reading.signal)
      .catch(() => light.value);
  },
);
const brightness = ([r, g, b]: number[]) => 0.2126 * r + 0.7152 * g + 0.0722 * b;
const share = (name: string) => {
  const all = light.value && brightness(light.value.all);
  const part = light.value?.parts[name];
  return all && part ? `${Math.round((100 * brightness(part)) / all)} %` : "";
};

const even = () => names.value.map(() => ({ stops: 0, colour: [1, 1, 1] }));

/** It may take longer than one answer waits. */
async function apart(): Promise<string[]> {
  for (;;)
    try {
      return await api.takeApart(desk.shot!.id, props.number);
    } catch (error) {
      if (!(error instanceof Refused && error.code === "busy")) throw error;
      await new Promise((later) => setTimeout(later, 2000));
    }
}

async function open() {
  if (!desk.shot) return;
  waiting.value = true;
  names.value = (await desk.attempt(apart)) ?? [];
  waiting.value = false;
  gains.value = even();
}

function put(picture: string | null) {
  if (shown) URL.revokeObjectURL(shown);
  shown = picture;
  emit("shown", picture);
}

/** Only the newest is waited for. */
async function show() {
  asked?.abort();
  if (!moved.value) return put(null);
  asked = new AbortController();
  const { signal } = asked;
  const picture = await api.balanced(desk.shot!.id, props.number, gains.value, signal).catch(() => null);
  if (picture && !signal.aborted) put(URL.createObjectURL(picture));
}

const hex = (colour: number[]) =>
  `#${colour
    .map((c) =>
      Math.round(255 * Math.min(c, 1) ** (1 / 2.2))
        .toString(16)
        .padStart(2, "0"),
    )
    .join("")}`;

function paint(gain: Gain, event: Event) {
  const text = (event.target as HTMLInputElement).value;
  gain.colour = [1, 3, 5].map((at) => (parseInt(text.slice(at, at + 2), 16) / 255) ** 2.2);
  if (text === "#ffffff") gain.colour = [1, 1, 1];
  void show();
}

function over() {
  gains.value = even();
  void show();
}

async function apply() {
  const answer = await desk.attempt(() => api.balance(desk.shot!.id, props.number, gains.value));
  if (!answer) return;
  desk.take(answer);
  emit("applied");
}

onBeforeUnmount(() => asked?.abort());
</script>

<template>
  <div class="balance">
    <button
      v-if="!names.length"
      class="pill"
      :disabled="waiting"
      title="Make each lamp, the sky and what glows brighter or of another colour, without another print"
      data-balance
      @click="open"
    >
      {{ waiting ? "Taking the light apart…" : "Balance its light" }}
    </button>
    <template v-else>
      <div v-for="(name, n) in names" :key="n" class="lamp" :data-balanced="name">
        <span class="name">{{ name }}</span>
        <input
          type="color"
          :value="hex(gains[n].colour)"
          :aria-label="`Colour over ${name}`"
          title="A colour that its light goes through"
          @input="paint(gains[n], $event)"
        />
        <n-slider
          v-model:value="gains[n].stops"
          :min="-6"
          :max="6"
          :step="0.05"
          :tooltip="false"
          :aria-label="`${name}, stops`"
          @update:value="show"
        />
        <span class="stops">{{ gains[n].stops > 0 ? "+" : "" }}{{ gains[n].stops.toFixed(1) }}</span>
      </div>
      <p v-if="light" class="faint" data-scene-light>
        {{ light.all.map((c) => c.toPrecision(3)).join(" ") }} before the film
        <template v-for="name in names" :key="name"
          ><template v-if="share(name)"> · {{ name }} {{ share(name) }}</template></template
        >
      </p>
      <p v-else class="faint">Point at the picture for its light before the film</p>
      <div class="buttons">
        <button
          class="pill main"
          :disabled="!moved"
          title="The shot's own lights become like this"
          data-apply
          @click="apply"
        >
          Put into the shot
        </button>
        <button class="pill" :disabled="!moved" title="All as it was printed" @click="over">As it was</button>
      </div>
    </template>
  </div>
</template>

<style scoped>
.balance {
  margin-top: 12px;
}

.lamp {
  display: grid;
  grid-template-columns: 84px 22px 1fr 34px;
  gap: 8px;
  align-items: center;
  min-height: 26px;
  font-size: 12px;
}

.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.stops {
  text-align: right;
  font-variant-numeric: tabular-nums;
  color: var(--quiet);
}

input[type="color"] {
  width: 22px;
  height: 18px;
  padding: 0;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: none;
}

p {
  margin: 4px 0;
  font-size: 11.5px;
  font-variant-numeric: tabular-nums;
}

.buttons {
  display: flex;
  gap: 8px;
  margin-top: 6px;
}
</style>
