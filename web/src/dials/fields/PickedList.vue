<script setup lang="ts">
import { computed } from "vue";
import type { Dial, ShotNode } from "../../api/types";
import { useDesk } from "../../stores/desk";

/** What was picked in the view for a dial, and the button that begins to pick. */
const props = defineProps<{
  dial: Dial;
  node: ShotNode;
  /** What it is picked on. */
  prop: string | null;
  what: "places" | "faces" | "pieces";
  /** What to do while picking. */
  hint: string;
  words: string[];
  count: number;
}>();
const emit = defineEmits<{ drop: [n: number]; clear: []; begin: [] }>();
const desk = useDesk();
const picking = computed(() => desk.placing?.node === props.node.id && desk.placing.dial === props.dial.name);

function pick() {
  if (!props.prop) return desk.complain(new Error(`Choose the prop first; ${props.what} lie on it.`));
  const { node, dial, prop, what } = props;
  desk.placing = picking.value ? null : { node: node.id, dial: dial.name, prop, what };
  if (desk.placing) emit("begin");
}
</script>

<template>
  <div class="picked">
    <button class="link" :title="dial.help" :aria-pressed="picking" data-pick-places @click="pick">
      {{ picking ? hint : "Pick in the view" }}
    </button>
    <span v-for="(text, n) in words" :key="n" class="one">
      {{ text }}
      <button :aria-label="`Take ${text} out`" title="Take it out" @click="emit('drop', n)">×</button>
    </span>
    <span v-if="count && !words.length" class="one">{{ count }} picked</span>
    <button v-if="count > 1" class="link" title="Take all out of the list" @click="emit('clear')">
      None
    </button>
  </div>
</template>

<style scoped>
.picked {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  padding: 1px 0 4px;
}

.one {
  color: var(--quiet);
  font-size: 11.5px;
}

.one button {
  color: var(--faint);
}
</style>
