<script setup lang="ts">
import { NPopover } from "naive-ui";
import { ref } from "vue";
import type { ShotNode } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

const props = defineProps<{ node: ShotNode }>();
const desk = useDesk();
const catalog = useCatalog();
const open = ref(false);

async function take(look: string) {
  open.value = false;
  await desk.edit([{ do: "take_look", node: props.node.id, look }]);
}
</script>

<template>
  <n-popover
    v-model:show="open"
    trigger="click"
    placement="right-start"
    :style="{ padding: '10px', width: '604px' }"
  >
    <template #trigger>
      <button class="link" title="Looks that come along: smoke, steam, fire, dust, mist" data-ready-looks>
        Ready looks
      </button>
    </template>
    <div class="shelf" role="list" aria-label="Looks that are ready">
      <button
        v-for="look in catalog.catalog?.looks ?? []"
        :key="look.name"
        class="look"
        role="listitem"
        :title="look.help"
        :data-look="look.name"
        @click="take(look.name)"
      >
        <img :src="`/looks/${look.name}.png`" alt="" width="138" height="86" />
        <span>{{ look.label }}</span>
      </button>
    </div>
  </n-popover>
</template>

<style scoped>
.shelf {
  display: grid;
  grid-template-columns: repeat(4, 138px);
  gap: 8px;
}

.look {
  text-align: left;
  color: var(--quiet);
  font-size: 11.5px;
  border-radius: 7px;
}

.look img {
  display: block;
  border-radius: 7px;
  margin-bottom: 3px;
}

.look:hover,
.look:focus-visible {
  color: var(--text);
}

.look:hover img,
.look:focus-visible img {
  outline: 2px solid var(--accent);
}
</style>
