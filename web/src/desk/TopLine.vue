<script setup lang="ts">
import { computed, nextTick, ref } from "vue";
import { api } from "../api/client";
import JobProgress from "../lib/JobProgress.vue";
import NameField from "../lib/NameField.vue";
import { useDesk } from "../stores/desk";
import { useStrip } from "../stores/strip";

const emit = defineEmits<{ history: [] }>();
const desk = useDesk();
const strips = useStrip();
/** What somebody waits for: a run before an export. */
const job = computed(() => desk.running ?? desk.exporting);
const title = computed(() => {
  if (job.value?.kind === "export") return "Export";
  return desk.quality === "full" ? "Full run" : "Draft run";
});
const saved = computed(() =>
  !desk.connected ? "no connection; trying again" : desk.saving ? "saving…" : "saved",
);
const renaming = ref(false);
const nameButton = ref<HTMLButtonElement | null>(null);

function named(name: string, stay: boolean) {
  renaming.value = false;
  if (stay) void nextTick(() => nameButton.value?.focus());
  if (name !== desk.shot?.name) void desk.edit([{ do: "rename", name }]);
}
</script>

<template>
  <header class="top">
    <router-link class="brand" to="/" title="Back to the shelf">
      <img src="/mark.svg" width="24" height="24" alt="" /> Vumbral
    </router-link>
    <span class="place"
      ><router-link to="/" title="Back to the shelf">Shelf</router-link> /
      <name-field
        v-if="renaming"
        :name="desk.shot?.name ?? ''"
        label="Name of the shot"
        @named="named"
        @left="named(desk.shot?.name ?? '', true)"
      />
      <button
        v-else
        ref="nameButton"
        class="name"
        title="Click to rename the shot"
        data-rename
        @click="renaming = true"
      >
        {{ desk.shot?.name }}
      </button></span
    >
    <span class="faint" role="status" data-saved>{{ saved }}</span>
    <button
      v-if="desk.shot?.steps.undo"
      class="link faint"
      :title="`Undo: ${desk.shot.steps.undo} (Ctrl+Z)`"
      data-undo
      @click="desk.step('undo')"
    >
      Undo
    </button>
    <button
      v-if="desk.shot?.steps.redo"
      class="link faint"
      :title="`Do again: ${desk.shot.steps.redo} (Ctrl+Shift+Z)`"
      data-redo
      @click="desk.step('redo')"
    >
      Redo
    </button>
    <button
      class="link faint"
      title="All that was tried, as a tree (H)"
      data-open-history
      @click="emit('history')"
    >
      History
    </button>
    <div class="middle" role="status" aria-live="polite" data-progress>
      <template v-if="job">
        <job-progress :job="job" :title="title" />
        <button
          class="link"
          title="Stop it; what is finished stays"
          data-stop
          @click="desk.attempt(() => api.cancel(job!.id))"
        >
          Stop
        </button>
      </template>
      <span v-else-if="desk.trouble" class="trouble" role="alert" data-trouble>{{ desk.trouble }}</span>
    </div>
    <button
      class="pill"
      :disabled="!['fresh', 'still'].includes(desk.row?.state ?? '')"
      title="A finished picture of this frame (P)"
      data-take-print
      @click="desk.takePrint()"
    >
      Take print
    </button>
    <button
      class="pill"
      title="Variations of one to three dials, looked at together (Shift+T)"
      data-test-strip
      @click="strips.show()"
    >
      Test strip
    </button>
    <button class="pill" title="Coarse and quick (R)" data-run-draft @click="desk.run('draft')">
      Run draft
    </button>
    <button class="pill main" title="At full resolution (Shift+R)" data-run-full @click="desk.run('full')">
      Run full
    </button>
  </header>
</template>

<style scoped>
.top {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 14px;
  background: var(--panel);
  border-bottom: 1px solid var(--line);
}

.brand {
  display: flex;
  align-items: center;
  gap: 10px;
  color: var(--text);
  text-decoration: none;
  font-weight: 650;
}

.place {
  color: var(--quiet);
  margin-left: 8px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}

.place a {
  color: inherit;
  text-decoration: none;
}

.name {
  color: var(--text);
  font-weight: 500;
}

.middle {
  flex: 1;
  display: flex;
  align-items: center;
  justify-content: center;
  gap: 12px;
  min-width: 0;
  white-space: nowrap;
}

.trouble {
  color: var(--warning);
}
</style>
