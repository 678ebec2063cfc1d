<script setup lang="ts">
import { useStrip } from "../stores/strip";
import type { laidOut } from "./layout";

/** Turns through a strip of more variations than one page has: by numbers, or by the values of its third dial. */
defineProps<{ laid: ReturnType<typeof laidOut> }>();
const page = defineModel<number>({ required: true });
const strips = useStrip();
</script>

<template>
  <div class="pages" role="group" aria-label="Pages">
    <template v-if="laid.named">
      <button
        class="pill"
        aria-label="Those before"
        title="Those before"
        :disabled="!page"
        @click="page -= 1"
      >
        ‹
      </button>
      <span data-strip-page>{{ laid.pages[page] }} of {{ strips.strip?.size.toLocaleString("en") }}</span>
      <button
        class="pill"
        aria-label="Those after"
        title="Those after"
        :disabled="page + 1 >= laid.pages.length"
        @click="page += 1"
      >
        ›
      </button>
    </template>
    <template v-else>
      <button
        v-for="(word, n) in laid.pages"
        :key="word"
        class="pill"
        :aria-pressed="n === page"
        :title="strips.strip?.axes[2].label"
        @click="page = n"
      >
        {{ word }}
      </button>
    </template>
  </div>
</template>

<style scoped>
.pages {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
</style>
