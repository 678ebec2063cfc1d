<script setup lang="ts">
import { computed } from "vue";
import type { Dial, ShotNode } from "../../api/types";
import { plain } from "../../lib/numbers";
import { useDesk } from "../../stores/desk";

/** Places on a prop, picked in the view. */
const props = defineProps<{
  dial: Dial;
  node: ShotNode;
  value: number[][];
  set: (value: unknown) => Promise<string | null>;
}>();
const desk = useDesk();
const picking = computed(() => desk.placing?.node === props.node.id && desk.placing.dial === props.dial.name);
const prop = computed(() => (props.node.dials.prop as string | undefined) ?? null);

function pick() {
  const on = prop.value && !picking.value;
  desk.placing = on ? { node: props.node.id, dial: props.dial.name, prop: prop.value! } : null;
  if (!prop.value) desk.complain(new Error("Choose the prop first; places lie on it."));
}
</script>

<template>
  <div class="places">
    <button class="link" :aria-pressed="picking" data-pick-places @click="pick">
      {{ picking ? "Click on the prop… done" : "Pick in the view" }}
    </button>
    <span v-for="(place, n) in value" :key="n" class="place">
      {{ place.map(plain).join(", ") }}
      <button
        :aria-label="`Take place ${n + 1} away`"
        title="Take it away"
        @click="set(value.filter((_, k) => k !== n))"
      >
        ×
      </button>
    </span>
  </div>
</template>

<style scoped>
.places {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  padding: 1px 0 4px;
}

.place {
  color: var(--quiet);
  font-size: 11.5px;
}

.place button {
  color: var(--faint);
}
</style>
