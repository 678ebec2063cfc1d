<script setup lang="ts">
import { NSelect } from "naive-ui";
import { computed, watch } from "vue";
import { bytes, duration } from "../lib/numbers";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { MOST_DIALS, useStrip } from "../stores/strip";
import { varies } from "./values";

/** What varies, by what, and what that would cost. */
const desk = useDesk();
const catalog = useCatalog();
const strips = useStrip();
const places = ["across", "down", "page by page"];

const dials = computed(() =>
  desk.nodes
    .filter((node) => desk.counts(node))
    .flatMap((node) =>
      catalog
        .kind(node.kind)
        .dials.filter(
          (dial) =>
            varies(dial) &&
            catalog.applies(node, dial) &&
            !node.keys[dial.name]?.length &&
            !node.formulas?.[dial.name],
        )
        .map((dial) => ({ label: `${dial.label} · ${node.name}`, value: `${node.id}.${dial.name}` })),
    ),
);

const running = computed(() => {
  if (strips.beginning) return "Setting it up…";
  return strips.asking ? `Run all ${strips.forecast?.runs.toLocaleString("en")}` : "Run the strip";
});

watch(
  () => [JSON.stringify(strips.asked), desk.shot?.head],
  () => strips.foresee(),
  { immediate: true },
);
</script>

<template>
  <section class="setup" data-strip-setup>
    <h3>What varies</h3>
    <p class="quiet">Everything else stays as it is in the shot.</p>
    <div v-for="(axis, n) in strips.axes" :key="`${axis.node}.${axis.dial}`" class="axis" data-axis>
      <div class="head">
        <strong>{{ strips.found(axis)?.dial.label ?? "Gone" }}</strong>
        <span class="faint">{{ places[n] }}</span>
        <button
          class="faint"
          :aria-label="`Leave ${strips.found(axis)?.dial.label} as it is`"
          title="Leave it as it is"
          @click="strips.drop(n)"
        >
          ×
        </button>
      </div>
      <div class="faint">{{ strips.found(axis)?.node.name }}</div>
      <input
        v-model="axis.text"
        :aria-label="`Values of ${strips.found(axis)?.dial.label}`"
        title="A list, “0 to 3 in 4”, or “1 times 2 in 4”"
        spellcheck="false"
        @keydown.enter="strips.run()"
      />
    </div>
    <n-select
      v-if="strips.axes.length < MOST_DIALS"
      :key="strips.axes.length"
      :value="null"
      filterable
      size="small"
      :options="dials"
      :placeholder="strips.axes.length ? 'Another dial' : 'Choose a dial'"
      :input-props="{ 'aria-label': 'Choose a dial to vary' }"
      data-vary
      @update:value="strips.varyNamed($event)"
    />
    <p v-if="strips.wrong" class="wrong" role="alert" data-strip-wrong>{{ strips.wrong }}</p>
    <div v-else-if="strips.forecast" class="card" data-strip-forecast>
      <div class="faint">Forecast from this machine</div>
      <div>
        {{ strips.forecast.runs.toLocaleString("en") }} variations of {{ strips.forecast.frames }} frames
      </div>
      <div class="row">
        <span class="quiet">frames not there yet</span><span>{{ strips.forecast.new }}</span>
      </div>
      <div class="row">
        <span class="quiet">time</span><span>{{ duration(strips.forecast.seconds) }}</span>
      </div>
      <div class="row">
        <span class="quiet">disk</span><span>{{ bytes(strips.forecast.disk) }}</span>
      </div>
    </div>
    <p v-if="strips.asking && strips.forecast" role="alert" data-strip-asks>
      {{ strips.forecast.runs.toLocaleString("en") }} variations take
      {{ duration(strips.forecast.seconds) }} and {{ bytes(strips.forecast.disk) }}. Are all of them meant?
    </p>
    <button
      class="pill main"
      :disabled="!strips.forecast || strips.beginning"
      title="Runs every variation as a draft"
      data-run-strip
      @click="strips.run()"
    >
      {{ running }}
    </button>
    <button
      v-if="strips.asking"
      class="link"
      title="Nothing is begun"
      data-strip-not-yet
      @click="strips.asking = false"
    >
      Not yet
    </button>
    <template v-if="strips.strips.length">
      <h3>Strips of this shot</h3>
      <button
        v-for="row in strips.strips"
        :key="row.number"
        class="past"
        :class="{ here: row.number === strips.strip?.number }"
        :title="`Look at test strip ${row.number}`"
        data-past-strip
        @click="strips.look(row.number)"
      >
        <strong>{{ row.number }}</strong> {{ row.dials.join(", ") }}
        <span class="faint">{{ row.there }} of {{ row.of }} frames</span>
      </button>
    </template>
  </section>
</template>

<style scoped>
.setup {
  display: flex;
  flex-direction: column;
  gap: 8px;
  overflow: auto;
  padding-right: 6px;
}

h3 {
  margin: 4px 0 0;
  font-size: 14px;
}

p {
  margin: 0;
}

.axis,
.card {
  background: var(--card);
  border-radius: 10px;
  padding: 8px 10px;
}

.head,
.row {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}

.head strong {
  flex: 1;
}

.axis button {
  min-width: 24px;
  min-height: 24px;
}

input {
  width: 100%;
  box-sizing: border-box;
  margin-top: 4px;
  padding: 4px 6px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--panel);
  color: inherit;
  font: inherit;
}

.card {
  font-size: 12px;
}

.wrong {
  color: #f0a08a;
}

.past {
  text-align: left;
  padding: 5px 8px;
  border-radius: 8px;
}

.past.here {
  background: var(--card);
}

.past span {
  display: block;
  font-size: 11px;
}
</style>
