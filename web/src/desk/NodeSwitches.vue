<script setup lang="ts">
import { computed } from "vue";
import type { ShotNode } from "../api/types";
import { useDesk } from "../stores/desk";

/** Off, alone among its kind, and locked: what can be said of a thing without touching its dials. */
const props = defineProps<{ node: ShotNode }>();
const desk = useDesk();
const name = computed(() => props.node.name);

function turn(what: "off" | "only" | "locked") {
  return desk.edit([{ do: "switch", node: props.node.id, [what]: !props.node[what] }]);
}
</script>

<template>
  <span class="switches">
    <button
      v-if="node.kind === 'prop'"
      class="switch"
      :class="{ on: node.locked }"
      :aria-pressed="!!node.locked"
      :aria-label="node.locked ? `Unlock ${name}` : `Lock ${name}`"
      :title="node.locked ? 'Locked: the hand does not move it in the view' : 'Lock it in its place'"
      data-lock
      @click="turn('locked')"
    >
      <svg width="12" height="12" viewBox="0 0 12 12">
        <path
          :d="
            node.locked
              ? 'M3.5 5.500V3.500a2.500 2.500 0 0 1 5 0v2'
              : 'M3.500 5.500V3.500a2.500 2.500 0 0 1 4.700-1.200'
          "
        />
        <rect x="2" y="5.500" width="8" height="5.500" rx="1.200" />
      </svg>
    </button>
    <button
      class="switch"
      :class="{ on: node.only }"
      :aria-pressed="!!node.only"
      :aria-label="node.only ? `${name} with the others again` : `Only ${name}`"
      :title="node.only ? 'With the others again' : 'Only this one: leave the others of its kind out'"
      data-only
      @click="turn('only')"
    >
      <svg width="12" height="12" viewBox="0 0 12 12">
        <circle cx="6" cy="6" r="4.500" />
        <circle class="dot" cx="6" cy="6" r="1.800" />
      </svg>
    </button>
    <button
      class="switch power"
      :class="{ off: node.off }"
      :aria-pressed="!node.off"
      :aria-label="node.off ? `Switch ${name} on` : `Switch ${name} off`"
      :title="node.off ? 'Switch it on' : 'Switch it off; its dials stay'"
      data-power
      @click="turn('off')"
    >
      <svg width="16" height="10" viewBox="0 0 16 10">
        <rect x=".7" y=".7" width="14.600" height="8.600" rx="4.300" />
        <circle class="dot" :cx="node.off ? 5 : 11" cy="5" r="2.400" />
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

.on svg {
  stroke: var(--accent);
}

.on .dot,
.power:not(.off) .dot {
  fill: var(--accent);
}
</style>
