<script setup lang="ts">
import { nextTick, onMounted, ref, watch } from "vue";
import DeskDialog from "../lib/DeskDialog.vue";
import { useFinds, type Command } from "./useFinds";

/** One field for all that has a name. */
const props = defineProps<{ commands: Command[] }>();
const emit = defineEmits<{ close: []; print: [number: number]; run: [number: number] }>();
const words = ref("");
const field = ref<HTMLInputElement | null>(null);
const at = ref(0);
const found = useFinds(words, {
  commands: props.commands,
  print: (number) => emit("print", number),
  run: (number) => emit("run", number),
});
const list = ref<HTMLElement | null>(null);
watch(at, async (index) => {
  await nextTick();
  list.value?.children[index]?.scrollIntoView({ block: "nearest" });
});

onMounted(() => field.value?.focus());

function go(index = at.value) {
  const find = found.value[index];
  if (!find) return;
  emit("close");
  void find.go();
}
</script>

<template>
  <desk-dialog label="Find anything" width="420px" @close="emit('close')">
    <div class="find">
      <input
        ref="field"
        v-model="words"
        placeholder="A dial, a thing, a print, a run, something to do"
        aria-label="Find anything by name"
        @input="at = 0"
        @keydown.stop
        @keydown.down.prevent="at = Math.min(at + 1, found.length - 1)"
        @keydown.up.prevent="at = Math.max(at - 1, 0)"
        @keydown.enter.prevent="go()"
        @keydown.esc.stop="emit('close')"
      />
      <div ref="list" class="found">
        <button
          v-for="(find, index) in found"
          :key="find.id"
          :class="{ at: index === at }"
          :title="find.help ?? find.label"
          :data-find="find.id"
          @click="go(index)"
        >
          {{ find.label }} <span class="faint">{{ find.of }}</span>
        </button>
      </div>
      <p v-if="!found.length" class="faint">Nothing has that name.</p>
    </div>
  </desk-dialog>
</template>

<style scoped>
.find {
  display: grid;
}

.found {
  display: grid;
  max-height: 50vh;
  overflow: auto;
}

input {
  font: inherit;
  font-size: 14px;
  color: inherit;
  background: none;
  border: 0;
  padding: 8px 10px;
}

input:focus {
  outline: none;
}

.found button {
  text-align: left;
  padding: 6px 10px;
  border-radius: 7px;
}

.found button.at,
.found button:hover {
  background: var(--track);
}

.found button.at .faint,
.found button:hover .faint {
  color: var(--quiet);
}

p {
  margin: 4px 10px;
}
</style>
