<script setup lang="ts">
import { NSwitch } from "naive-ui";
import { ref } from "vue";
import { useNotices } from "../stores/notices";

/** How one is told of long work that is done. */
const notices = useNotices();
const wrong = ref("");

function sound(whether: boolean) {
  notices.sound = whether;
  // It is heard at once.
  if (whether) notices.play();
}

async function show(whether: boolean) {
  wrong.value = (await notices.show(whether)) ?? "";
}
</script>

<template>
  <section aria-label="When something long is done" data-notices>
    <h2>When something long is done</h2>
    <p class="quiet">
      The window's title tells how far work is, and what was done while you looked elsewhere; if you want:
    </p>
    <label class="part">
      <n-switch size="small" :value="notices.sound" aria-label="A sound" data-sound @update:value="sound" />
      <span>A sound</span>
    </label>
    <label v-if="notices.there" class="part">
      <n-switch
        size="small"
        :value="notices.shown"
        aria-label="A notice of the browser"
        data-shown
        @update:value="show"
      />
      <span>A notice of the browser</span>
    </label>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </section>
</template>

<style scoped src="./work.css"></style>
