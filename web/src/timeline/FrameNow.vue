<script setup lang="ts">
import { useDesk } from "../stores/desk";

/** The frame that one is at, or its time: by itself, so that nothing around is shown anew as it goes on. */
defineProps<{ seconds?: boolean }>();
const desk = useDesk();
</script>

<template>{{ seconds ? ((desk.frame - desk.first) / desk.rate).toFixed(2) : desk.frame }}</template>
