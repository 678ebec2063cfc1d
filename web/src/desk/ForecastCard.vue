<script setup lang="ts">
import { computed } from "vue";
import type { Forecast } from "../api/types";
import { bytes, duration } from "../lib/numbers";
import { useDesk } from "../stores/desk";

/** What a run would cost on this machine. */
const desk = useDesk();
const rows = computed(() => {
  const forecast = desk.frames?.forecast;
  if (!forecast) return [];
  const of = (read: (one: Forecast) => string) => [read(forecast.draft), read(forecast.full)];
  return [
    { name: "voxels", values: of((one) => `${(one.cells / 1e6).toFixed(2)} M`) },
    { name: "time", values: of((one) => duration(one.seconds)) },
    { name: "memory, at most", values: of((one) => bytes(one.memory)) },
    { name: "disk", values: of((one) => bytes(one.disk)) },
  ];
});
/** How right the last one was. */
const foreseen = computed(() => desk.frames?.foreseen);
const measured = computed(() => desk.frames?.forecast.draft.measured);
</script>

<template>
  <section v-if="rows.length" class="card" data-forecast>
    <div class="faint">{{ measured ? "Forecast from this machine" : "Forecast, not measured here yet" }}</div>
    <div class="row faint"><span /><span>draft</span><span>full</span></div>
    <div v-for="row in rows" :key="row.name" class="row">
      <span class="quiet">{{ row.name }}</span>
      <span v-for="(value, n) in row.values" :key="n">{{ value }}</span>
    </div>
    <div v-if="foreseen" class="faint last" data-foreseen>
      The last run's {{ foreseen.frames }} frames took {{ duration(foreseen.seconds) }};
      {{ duration(foreseen.forecast) }} were forecast.
    </div>
  </section>
</template>

<style scoped>
.card {
  background: var(--card);
  border-radius: 10px;
  padding: 9px 12px;
  margin-bottom: 6px;
  font-size: 11.5px;
}

.row {
  display: grid;
  grid-template-columns: 1fr 70px 70px;
  text-align: right;
}

.last {
  margin-top: 5px;
}

.row > :first-child {
  text-align: left;
}
</style>
