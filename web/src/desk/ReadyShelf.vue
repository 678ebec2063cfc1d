<script setup lang="ts">
import { NPopover } from "naive-ui";
import { computed, ref } from "vue";
import type { ShotNode } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

/** What comes along for a look or a prop, by a click on its picture. */
const props = defineProps<{ node: ShotNode; of: "look" | "material" }>();
const desk = useDesk();
const catalog = useCatalog();
const open = ref(false);

const ready = computed(() => catalog.catalog?.[`${props.of}s`] ?? []);
const told = {
  look: ["Ready looks", "Looks that come along: smoke, steam, fire, dust, mist", "Looks that are ready"],
  material: ["Made of", "What it is made of: clay, glaze, wood, paper, metal", "Materials that are ready"],
};

async function take(name: string) {
  open.value = false;
  await desk.edit([{ do: `take_${props.of}`, node: props.node.id, [props.of]: name }]);
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
      <button class="link" :title="told[of][1]" :data-ready="of">{{ told[of][0] }}</button>
    </template>
    <div class="shelf" role="list" :aria-label="told[of][2]">
      <button
        v-for="look in ready"
        :key="look.name"
        class="look"
        role="listitem"
        :title="look.help"
        v-bind="{ [`data-${of}`]: look.name }"
        @click="take(look.name)"
      >
        <img :src="`/${of}s/${look.name}.png`" alt="" width="138" height="86" />
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
