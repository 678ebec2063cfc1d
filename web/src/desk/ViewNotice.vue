<script setup lang="ts">
import { computed } from "vue";
import { useDesk } from "../stores/desk";

/** What must be said of the frame in the view: that it is not there, old, or that the run found something. */
defineProps<{ dark: boolean }>();
const desk = useDesk();
const stale = computed(() => desk.row?.state === "stale");
/** What the run itself found wrong, as a sentence. */
const finding = computed(() => {
  const facts = desk.row?.facts;
  if (facts?.swell_limited)
    return "The gas expands faster than a substep can follow, so it is held back here. Lower the expansion or the pressure push, or allow more substeps.";
  if (facts?.full)
    return "The chamber has grown to the voxels it may have, so gas leaves it here. Allow more voxels, or let smoke fade.";
  if (facts?.limited)
    return "The gas is faster here than the substeps allow. Allow more substeps, or more cells a substep.";
  return "";
});
</script>

<template>
  <div v-if="dark" class="notice">
    This browser gives no WebGL2, so the view stays dark. Prints and exports work all the same.
  </div>
  <div v-else-if="desk.row?.state === 'none' && !desk.running" class="notice">
    This frame has not been run.
    <button
      class="link"
      :title="desk.quality === 'draft' ? 'Coarse and quick (R)' : 'At full resolution (Shift+R)'"
      @click="desk.run(desk.quality)"
    >
      Run {{ desk.quality === "draft" ? "a draft" : "it in full" }}
    </button>
  </div>
  <div v-else-if="stale && !desk.running" class="notice">
    <template v-if="desk.row?.rough">
      This frame is without its finer detail.
      <button class="link" title="Makes what is missing" @click="desk.run(desk.quality)">Make it</button>
    </template>
    <template v-else>
      This frame is from before the last change.
      <button class="link" title="Bring it up to date" @click="desk.run(desk.quality)">Run again</button>
    </template>
  </div>
  <div v-else-if="finding && !desk.playing" class="notice warning" data-finding>{{ finding }}</div>
</template>

<style scoped>
.notice {
  position: absolute;
  top: 48px;
  right: 12px;
  max-width: 270px;
  padding: 9px 13px;
  background: rgb(26 31 35 / 92%);
  border: 1px solid var(--line);
  border-radius: 10px;
}

.warning {
  color: var(--warning);
}
</style>
