<script setup lang="ts">
import { NSwitch } from "naive-ui";
import type { Dial } from "../../api/types";

defineProps<{ dial: Dial; value: boolean; set: (value: unknown) => Promise<string | null> }>();
</script>

<template>
  <n-switch size="small" :value="value" :aria-label="dial.label" @update:value="set" />
</template>
