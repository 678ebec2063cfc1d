<script setup lang="ts">
import { NSelect } from "naive-ui";
import { computed } from "vue";
import type { Dial, ShotNode, Value, Varied } from "../../api/types";
import { hexOf, linearOf } from "../../lib/numbers";
import { useCatalog } from "../../stores/catalog";
import NumberField from "../NumberField.vue";

/** Dials that differ from copy to copy at random, or that a hand set for one copy. */
const props = defineProps<{
  dial: Dial;
  node: ShotNode;
  value: Varied[];
  set: (value: unknown) => Promise<string | null>;
}>();
const catalog = useCatalog();
const byHand = computed(() => props.dial.type === "overrides");
const dials = computed(() => {
  const named = (props.dial.of as string[]) ?? [];
  return catalog.kind(props.node.kind).dials.filter((dial) => named.includes(dial.name));
});
const options = computed(() => dials.value.map((dial) => ({ label: dial.label, value: dial.name })));
const copies = computed(() =>
  Array.from({ length: catalog.read(props.node, "copies") as number }, (_, n) => ({
    label: `copy ${n + 1}`,
    value: n + 1,
  })),
);
const of = (row: Varied) => dials.value.find((dial) => dial.name === row.dial)!;

function change(n: number, more: Partial<Varied>) {
  return props.set(props.value.map((row, k) => (k === n ? { ...row, ...more } : row)));
}

/** What a dial of the source has, to begin with. */
const own = (name: string) => catalog.read(props.node, name) as Value;

function add() {
  const used = props.value.map((row) => row.dial);
  const dial = (dials.value.find((each) => !used.includes(each.name)) ?? dials.value[0]).name;
  const row = byHand.value ? { copy: copies.value.length, dial, value: own(dial) } : { dial, by: 0.3 };
  return props.set([...props.value, row]);
}

function rename(n: number, dial: string) {
  return change(n, byHand.value ? { dial, value: own(dial) } : { dial });
}

function part(n: number, k: number, to: number) {
  const value = [...(props.value[n].value as number[])];
  value[k] = to;
  return change(n, { value });
}
</script>

<template>
  <div class="varied">
    <div v-for="(row, n) in value" :key="n" class="row">
      <n-select
        v-if="byHand"
        size="tiny"
        class="copy"
        :value="row.copy"
        :options="copies"
        aria-label="Copy"
        :consistent-menu-width="false"
        @update:value="(copy: number) => change(n, { copy })"
      />
      <n-select
        size="tiny"
        class="name"
        :value="row.dial"
        :options="options"
        aria-label="Dial"
        :consistent-menu-width="false"
        @update:value="(name: string) => rename(n, name)"
      />
      <NumberField
        v-if="!byHand"
        :value="row.by!"
        :low="0"
        :high="1"
        :range="[0, 1]"
        :label="`${of(row).label} varies by`"
        @commit="(by: number) => change(n, { by })"
      />
      <input
        v-else-if="of(row).type === 'colour'"
        type="color"
        :aria-label="of(row).label"
        :value="hexOf(row.value as number[])"
        @change="(event) => change(n, { value: linearOf((event.target as HTMLInputElement).value) })"
      />
      <template v-else-if="of(row).type === 'vector'">
        <NumberField
          v-for="(c, k) in row.value as number[]"
          :key="k"
          :value="c"
          :low="of(row).slider![0]"
          :high="of(row).slider![1]"
          :range="of(row).range"
          :label="`${of(row).label} ${'xyz'[k]}`"
          @commit="(to: number) => part(n, k, to)"
        />
      </template>
      <NumberField
        v-else
        :value="row.value as number"
        :low="of(row).slider![0]"
        :high="of(row).slider![1]"
        :range="of(row).range"
        :whole="of(row).type === 'whole'"
        :label="of(row).label"
        @commit="(value: number) => change(n, { value })"
      />
      <button
        title="Leave it out"
        :aria-label="`Leave out ${of(row).label}`"
        @click="set(value.filter((_, k) => k !== n))"
      >
        ×
      </button>
    </div>
    <button class="link" :title="dial.help" :data-add-varied="dial.name" @click="add">
      {{ byHand ? "Set one copy by hand" : "Vary a dial" }}
    </button>
  </div>
</template>

<style scoped>
.varied {
  padding: 1px 0 4px;
}

.row {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 1px 0;
}

.copy {
  width: 78px;
}

.name {
  width: 128px;
}

.row > button {
  color: var(--faint);
}
</style>
