<script setup lang="ts">
import { onMounted, ref } from "vue";

/** Asks for a name in the place where it is read. */
const props = defineProps<{ name: string; label: string }>();
/** `named` says whether it was Enter, so that the focus stays. */
const emit = defineEmits<{ named: [name: string, stay: boolean]; left: [] }>();
const title = ref(props.name);
const field = ref<HTMLInputElement | null>(null);
let over = false;

onMounted(() => {
  field.value?.scrollIntoView({ block: "nearest" });
  field.value?.select();
});

function end(stay: boolean) {
  if (over) return;
  over = true;
  emit("named", title.value.trim() || props.name, stay);
}

function leave() {
  over = true;
  emit("left");
}
</script>

<template>
  <input
    ref="field"
    v-model="title"
    class="rename"
    :aria-label="label"
    maxlength="80"
    @blur="end(false)"
    @keydown.enter.prevent="end(true)"
    @keydown.esc.stop="leave"
    @keydown.stop
  />
</template>

<style scoped>
.rename {
  font: inherit;
  color: inherit;
  background: var(--surround);
  border: 1px solid var(--accent);
  border-radius: 5px;
  flex: 1;
  min-width: 0;
}
</style>
