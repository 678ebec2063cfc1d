<script setup lang="ts">
import { NSwitch } from "naive-ui";
import { computed, ref } from "vue";
import type { Dial } from "../api/types";
import DialRow from "../dials/DialRow.vue";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

/** Frames, rate and seed of the shot, where they are read. */
const desk = useDesk();
const catalog = useCatalog();
const node = computed(() => desk.byId.get("general"));
/** Whether all that is timed goes along with the shot's rate and length. */
const stretch = ref(false);

function setting(dial: Dial) {
  if (!stretch.value || !["rate", "last"].includes(dial.name)) return undefined;
  return (value: unknown) => desk.timing.setPace({ [dial.name]: value }, true);
}
</script>

<template>
  <div v-if="node" class="settings" data-shot-settings>
    <dial-row
      v-for="dial in catalog.kind('general').dials"
      :key="dial.name"
      :node="node"
      :dial="dial"
      :setting="setting(dial)"
    />
    <label class="stretch">
      <n-switch v-model:value="stretch" size="small" aria-label="Stretch what is timed" data-stretch />
      <span title="A new rate or length takes keys, beginnings and ends along">Stretch what is timed</span>
    </label>
  </div>
</template>

<style scoped>
.settings {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
  gap: 0 26px;
  padding: 2px 14px 8px;
  border-bottom: 1px solid var(--line);
}

.stretch {
  display: flex;
  align-items: center;
  gap: 8px;
  color: var(--quiet);
}
</style>
