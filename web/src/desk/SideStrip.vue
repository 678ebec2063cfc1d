<script setup lang="ts">
import { useStorage } from "@vueuse/core";
import { nextTick, type ComponentPublicInstance } from "vue";
import PrintStrip from "./PrintStrip.vue";
import RunStrip from "./RunStrip.vue";

/** What was made: prints, or runs. */
const emit = defineEmits<{ look: [number: number]; wipe: [pair: [number, number]]; run: [number: number] }>();
const tab = useStorage<"prints" | "runs">("vumbral-side", "prints");
/** The prints, while they are shown. */
let prints: { wipe(): void } | null = null;

function lay(strip: Element | ComponentPublicInstance | null) {
  prints = strip && "wipe" in strip ? (strip as unknown as { wipe(): void }) : null;
}

async function wipe() {
  tab.value = "prints";
  await nextTick();
  prints?.wipe();
}
const tabs = [
  ["prints", "Prints", "Finished pictures, each with the settings that made it"],
  ["runs", "Runs", "What was run, each with the settings that made it"],
] as const;

defineExpose({ wipe, show: (name: "prints" | "runs") => (tab.value = name) });
</script>

<template>
  <component
    :is="tab === 'runs' ? RunStrip : PrintStrip"
    :ref="lay"
    @look="(number: number) => (tab === 'runs' ? emit('run', number) : emit('look', number))"
    @wipe="emit('wipe', $event)"
  >
    <div class="tabs">
      <button
        v-for="[name, label, help] in tabs"
        :key="name"
        :class="{ on: tab === name }"
        :aria-pressed="tab === name"
        :title="help"
        :data-side="name"
        @click="tab = name"
      >
        {{ label }}
      </button>
    </div>
  </component>
</template>

<style scoped>
.tabs {
  display: flex;
  gap: 10px;
  flex-basis: 100%;
}

.tabs button {
  color: var(--quiet);
  font-size: 13px;
  font-weight: 650;
}

.tabs .on {
  color: var(--text);
  box-shadow: 0 2px 0 var(--accent);
}
</style>
