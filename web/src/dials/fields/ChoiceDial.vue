<script setup lang="ts">
import { NSelect } from "naive-ui";
import { computed, nextTick } from "vue";
import type { Dial, ShotNode } from "../../api/types";
import { widthOf } from "../../lib/numbers";
import { useCatalog } from "../../stores/catalog";

const props = defineProps<{
  dial: Dial;
  node: ShotNode;
  value: string;
  set: (value: unknown) => Promise<string | null>;
}>();
const catalog = useCatalog();
const options = computed(() =>
  Object.entries(props.dial.choices ?? {}).map(([value, label]) => ({ label, value })),
);

/** A choice that needs a file asks for it at once. */
async function choose(choice: string) {
  const asks = catalog
    .kind(props.node.kind)
    .dials.find(
      (dial) =>
        ["mesh", "picture"].includes(dial.type) &&
        dial.only?.[props.dial.name]?.includes(choice) &&
        !catalog.value(props.node, dial),
    );
  const done = props.set(choice);
  if (asks) {
    await done;
    await nextTick();
    document
      .querySelector<HTMLInputElement>(`[data-dial="${props.node.id}.${asks.name}"] input[type=file]`)
      ?.click();
  }
}
</script>

<template>
  <n-select
    size="small"
    :style="{ width: widthOf(dial.choices?.[value] ?? '') }"
    :value="value"
    :options="options"
    :consistent-menu-width="false"
    :aria-label="dial.label"
    @update:value="choose"
  />
</template>
