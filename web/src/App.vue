<script setup lang="ts">
import { darkTheme, NConfigProvider, NMessageProvider } from "naive-ui";
import { theme } from "./theme";
</script>

<template>
  <n-config-provider :theme="darkTheme" :theme-overrides="theme" style="height: 100%">
    <n-message-provider placement="bottom" :max="3" keep-alive-on-hover>
      <router-view />
    </n-message-provider>
  </n-config-provider>
</template>
