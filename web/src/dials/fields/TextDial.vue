<script setup lang="ts">
import { ref, watch } from "vue";
import type { Dial } from "../../api/types";

/** A formula, or words. What is refused stays until it is put right or given up with Esc. */
const props = defineProps<{ dial: Dial; value: string; set: (value: unknown) => Promise<string | null> }>();
const emit = defineEmits<{ forget: [] }>();
const text = ref(props.value);
const refused = ref(false);
watch(
  () => props.value,
  (value) => {
    if (!refused.value && !sending) text.value = value;
  },
);

let sending = false;

async function accept() {
  if (sending) return;
  if (text.value === props.value) return giveUp();
  sending = true;
  const given = text.value;
  refused.value = !!(await props.set(given));
  text.value = given;
  sending = false;
}

function giveUp() {
  text.value = props.value;
  if (refused.value) emit("forget");
  refused.value = false;
}
</script>

<template>
  <input
    v-model="text"
    class="text"
    :class="{ refused }"
    :aria-label="dial.label"
    :aria-invalid="refused"
    spellcheck="false"
    @change="accept"
    @keydown.enter.stop="accept"
    @keydown.esc.stop="giveUp"
    @keydown.stop
  />
</template>

<style scoped>
.text {
  width: 100%;
  min-height: 24px;
  font:
    11.5px "JetBrains Mono",
    monospace;
  color: inherit;
  background: var(--panel);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 3px 6px;
}

.text.refused {
  border-color: var(--error);
  color: var(--error);
}
</style>
