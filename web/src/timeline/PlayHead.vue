<script setup lang="ts">
import { useDesk } from "../stores/desk";
import type { TimeAxis } from "./useTimeAxis";

/** Where in time one is: by itself, so that the rows are not shown anew as it goes on. */
defineProps<{ axis: TimeAxis }>();
const desk = useDesk();
</script>

<template>
  <span :style="{ transform: `translateX(${axis.x(desk.frame)}px)` }" />
</template>
