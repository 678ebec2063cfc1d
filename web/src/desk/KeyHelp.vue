<script setup lang="ts">
import DeskDialog from "../lib/DeskDialog.vue";
import { keyList } from "./useKeys";

const emit = defineEmits<{ close: [] }>();
</script>

<template>
  <desk-dialog label="Keys" width="500px" @close="emit('close')">
    <h3>Keys</h3>
    <dl>
      <template v-for="[key, words] in keyList" :key="key">
        <dt>{{ key }}</dt>
        <dd>{{ words }}</dd>
      </template>
    </dl>
    <button class="pill" title="Esc" @click="emit('close')">Close</button>
  </desk-dialog>
</template>

<style scoped>
h3 {
  margin: 0 0 10px;
}

dl {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 5px 14px;
}

dt {
  font-family: "JetBrains Mono", monospace;
  color: var(--accent);
}

dd {
  margin: 0;
}
</style>
