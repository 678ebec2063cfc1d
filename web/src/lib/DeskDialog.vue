<script setup lang="ts">
import { NModal } from "naive-ui";

/** A dialog over everything: it holds the focus, gives it back, and closes with Esc or a click beside it. */
defineProps<{ label: string; width: string }>();
const emit = defineEmits<{ close: [] }>();
</script>

<template>
  <n-modal
    show
    :auto-focus="false"
    :trap-focus="true"
    :close-on-esc="true"
    @update:show="(show: boolean) => show || emit('close')"
  >
    <div class="box" role="dialog" aria-modal="true" :aria-label="label" :style="{ width }">
      <slot />
    </div>
  </n-modal>
</template>

<style scoped>
.box {
  max-width: 96vw;
  max-height: 92vh;
  overflow: auto;
  background: var(--panel);
  border: 1px solid var(--line);
  border-radius: 14px;
  padding: 20px 24px;
}
</style>
