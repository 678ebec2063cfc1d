<script setup lang="ts">
import { computed } from "vue";
import type { ShotNode } from "../api/types";
import { useDesk } from "../stores/desk";

/** Off, alone among its kind, and locked: what can be said of a thing without touching its dials. */
const props = defineProps<{ node: ShotNode }>();
const desk = useDesk();

const switches = computed(() => {
  const { name, kind, locked, only, off } = props.node;
  return [
    {
      what: "locked",
      there: kind === "prop",
      on: !!locked,
      pressed: !!locked,
      label: locked ? `Unlock ${name}` : `Lock ${name}`,
      title: locked ? "Locked: the hand does not move it in the view" : "Lock it in its place",
    },
    {
      what: "only",
      there: true,
      on: !!only,
      pressed: !!only,
      label: only ? `${name} with the others again` : `Only ${name}`,
      title: only ? "With the others again" : "Only this one: leave the others of its kind out",
    },
    {
      what: "off",
      there: true,
      on: !off,
      pressed: !off,
      label: off ? `Switch ${name} on` : `Switch ${name} off`,
      title: off ? "Switch it on" : "Switch it off; its dials stay",
    },
  ] as const;
});

function turn(what: "off" | "only" | "locked") {
  return desk.edit([{ do: "switch", node: props.node.id, [what]: !props.node[what] }]);
}
</script>

<template>
  <span class="switches">
    <button
      v-for="row in switches.filter((row) => row.there)"
      :key="row.what"
      class="switch"
      :class="{ on: row.on, power: row.what === 'off' }"
      :aria-pressed="row.pressed"
      :aria-label="row.label"
      :title="row.title"
      :data-switch="row.what"
      @click="turn(row.what)"
    >
      <svg v-if="row.what === 'locked'" width="12" height="12" viewBox="0 0 12 12">
        <path :d="`M3.5 5.5V3.5a2.5 2.5 0 0 1 ${row.on ? '5 0v2' : '4.7-1.2'}`" />
        <rect x="2" y="5.5" width="8" height="5.5" rx="1.2" />
      </svg>
      <svg v-else-if="row.what === 'only'" width="12" height="12" viewBox="0 0 12 12">
        <circle cx="6" cy="6" r="4.5" />
        <circle class="dot" cx="6" cy="6" r="1.8" />
      </svg>
      <svg v-else width="16" height="10" viewBox="0 0 16 10">
        <rect x=".7" y=".7" width="14.6" height="8.6" rx="4.3" />
        <circle class="dot" :cx="row.on ? 11 : 5" cy="5" r="2.4" />
      </svg>
    </button>
  </span>
</template>

<style scoped>
.switches {
  display: flex;
}

.switch {
  display: grid;
  place-items: center;
  width: 24px;
  height: 24px;
  border-radius: 6px;
  opacity: 0.3;
}

.switch.on,
.switch.power {
  opacity: 1;
}

svg {
  fill: none;
  stroke: var(--faint);
  stroke-width: 1.2;
}

.dot {
  fill: var(--faint);
  stroke: none;
}

.on:not(.power) svg {
  stroke: var(--accent);
}

.on .dot {
  fill: var(--accent);
}
</style>
