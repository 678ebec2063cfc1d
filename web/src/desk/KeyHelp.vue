<script setup lang="ts">
import { keyList } from "./useKeys";

const emit = defineEmits<{ close: [] }>();
</script>

<template>
  <div class="cover" role="dialog" aria-label="Keys" @click.self="emit('close')">
    <div class="box">
      <h3>Keys</h3>
      <dl>
        <template v-for="[key, words] in keyList" :key="key">
          <dt>{{ key }}</dt>
          <dd>{{ words }}</dd>
        </template>
      </dl>
      <button class="pill" @click="emit('close')">Close</button>
    </div>
  </div>
</template>

<style scoped>
.cover {
  position: fixed;
  inset: 0;
  z-index: 40;
  background: rgb(8 10 11 / 60%);
}

.box {
  width: 430px;
  margin: 70px auto;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 12px;
  padding: 18px 22px;
}

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
