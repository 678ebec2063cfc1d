<script setup lang="ts">
import type { Difference } from "../api/types";

/** What differs, dial by dial; what is ticked alone is brought back. */
withDefaults(defineProps<{ rows: Difference[]; ticks?: boolean }>(), { ticks: true });
const picked = defineModel<string[]>({ default: () => [] });
const nameOf = (row: Difference) => `${row.node} ${row.dial ?? ""}`;
</script>

<template>
  <p v-if="!rows.length" class="quiet">Nothing: the settings are the same.</p>
  <dl>
    <template v-for="row in rows" :key="nameOf(row)">
      <dt>
        <label :title="ticks ? 'Only what is ticked is brought back; without ticks, all of it' : undefined">
          <input
            v-if="ticks"
            v-model="picked"
            type="checkbox"
            :value="nameOf(row)"
            :data-pick="nameOf(row)"
          />
          {{ row.label ?? row.text }} <span class="faint">{{ row.label ? row.name : "" }}</span>
        </label>
      </dt>
      <dd v-if="row.label">
        <span class="faint">{{ row.before }} →</span> {{ row.after }}
      </dd>
    </template>
  </dl>
</template>

<style scoped>
dl {
  margin: 0;
}

dt {
  padding-top: 7px;
  border-top: 1px solid var(--track);
  margin-top: 7px;
}

dt label {
  display: block;
  min-height: 24px;
}

dt input {
  margin: 0 5px 0 0;
  accent-color: var(--accent);
  vertical-align: -2px;
}

dd {
  margin: 0;
  overflow-wrap: anywhere;
}
</style>
