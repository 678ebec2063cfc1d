<script setup lang="ts">
import { computed } from "vue";
import { bytes, plain } from "../lib/numbers";
import { useDesk } from "../stores/desk";

/** What the frame that is seen is made of, and how fast and hot it is. */
const desk = useDesk();
const facts = computed(() => desk.row?.facts);
</script>

<template>
  <div>
    <div v-if="facts?.size && facts.voxel && !facts.drops">
      {{ facts.size.join(" × ") }} voxels, {{ plain(facts.voxel) }} m<template v-if="facts.bytes">
        · {{ bytes(facts.bytes) }} a frame</template
      >
    </div>
    <div v-else-if="desk.frames">
      <template v-if="desk.frames.boxes.length > 1">{{ desk.frames.boxes.length }} chambers, </template>
      <template v-else>{{ desk.frames.size.join(" × ") }} voxels, </template>
      {{ plain(desk.frames.voxel) }} m
      <template v-if="facts?.drops"> · {{ facts.drops.toLocaleString("en") }} particles</template>
      <template v-else-if="facts?.size && facts.size.join() !== desk.frames.size.join()">
        · {{ facts.size.join(" × ") }} in use
      </template>
    </div>
    <div v-if="facts && facts.speed !== undefined">
      peak {{ plain(facts.speed) }} m/s
      <template v-if="facts.peak"> · {{ plain(facts.peak) }} K</template>
      · {{ facts.substeps }} {{ facts.substeps === 1 ? "substep" : "substeps"
      }}<template v-if="facts.finer"> · {{ facts.finer }} times finer</template
      ><template v-if="facts.bytes"> · {{ bytes(facts.bytes) }} a frame</template>
    </div>
  </div>
</template>
