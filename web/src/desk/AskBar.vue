<script setup lang="ts">
import { nextTick, ref, watch } from "vue";
import { useDesk } from "../stores/desk";

const desk = useDesk();
const no = ref<HTMLButtonElement | null>(null);
// What changes nothing is the first to be reached.
watch(
  () => desk.question,
  async (question) => {
    await nextTick();
    if (question) no.value?.focus();
  },
);
</script>

<template>
  <div
    v-if="desk.question"
    class="ask"
    role="alertdialog"
    aria-labelledby="ask-text"
    data-question
    @keydown.esc.stop="desk.decide(false)"
  >
    <span id="ask-text">{{ desk.question.text }}</span>
    <button ref="no" class="pill" title="Esc" data-no @click="desk.decide(false)">
      {{ desk.question.no }}
    </button>
    <button class="pill main" :title="desk.question.text" data-yes @click="desk.decide(true)">
      {{ desk.question.yes }}
    </button>
  </div>
</template>

<style scoped>
.ask {
  position: fixed;
  right: 190px;
  top: 92px;
  z-index: 40;
  max-width: min(640px, 60vw);
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 12px 14px 12px 18px;
  background: var(--card);
  border: 1px solid var(--warning);
  border-radius: 10px;
  box-shadow: 0 12px 40px rgb(0 0 0 / 55%);
}

.ask span {
  flex: 1;
}
</style>
