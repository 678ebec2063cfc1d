<script setup lang="ts">
import { NSelect, NSwitch } from "naive-ui";
import { computed, onMounted, ref, watch } from "vue";
import { api } from "../api/client";
import { past } from "../api/past";
import type { ExportRow } from "../api/types";
import NumberField from "../dials/NumberField.vue";
import JobProgress from "../lib/JobProgress.vue";
import { bytes } from "../lib/numbers";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

const desk = useDesk();
const catalog = useCatalog();
const as = ref("png");
const passes = ref<string[]>(["depth"]);
/** With the layers of the finish, where there are some and the format holds pictures. */
const finish = ref(true);
const finishes = computed(
  () => desk.family.layers.length > 0 && !holdsProps.value && !/^(vdb|points|drops|usda|zip)/.test(as.value),
);
/** Of formats that hold props, only these. */
const props = ref<string[]>([]);
const holdsProps = computed(() => catalog.catalog?.exports_of_props?.includes(as.value));
const propChoices = computed(() =>
  desk.nodes.filter((node) => node.kind === "prop").map((node) => ({ value: node.id, label: node.name })),
);
const passChoices = computed(() =>
  Object.entries(catalog.catalog?.passes_of_exr ?? {}).map(([value, label]) => ({ value, label })),
);
const from = ref(desk.first);
const to = ref(desk.last);
const rows = ref<ExportRow[]>([]);
const shown = ref<string | null>(null);
const choices = computed(() =>
  Object.entries(catalog.catalog?.exports ?? {}).map(([value, label]) => ({ value, label })),
);
const fresh = computed(
  () => desk.frames?.rows.filter((row) => ["fresh", "still"].includes(row.state)).length ?? 0,
);

async function load() {
  if (desk.shot) rows.value = await api.exports(desk.shot.id).catch(() => rows.value);
}

onMounted(load);
watch(() => desk.exporting?.id, load);

async function start() {
  if (desk.shot)
    await desk.attempt(() =>
      api.export(desk.shot!.id, as.value, [from.value, to.value], {
        passes: as.value === "exr" ? passes.value : [],
        finish: !finishes.value || finish.value,
        props: holdsProps.value ? props.value : [],
      }),
    );
}
/** How many settings differ from those that made the export that is open; nothing where it does not tell. */
const since = ref<number | null>(null);
watch([shown, () => desk.shot?.head], async ([name]) => {
  since.value = null;
  if (name && desk.shot)
    since.value = await past.exportDifferences(desk.shot.id, name).then(
      (found) => found.length,
      () => null,
    );
});

async function bringBack(name: string) {
  const answer = await desk.attempt(() => past.bringExportBack(desk.shot!.id, name));
  if (answer) desk.take(answer);
}

/** Keeps what is set here with the shot. */
async function keep() {
  const whole = from.value === desk.first && to.value === desk.last;
  const dials: Record<string, unknown> = { as: as.value, finish: finish.value };
  if (!whole) Object.assign(dials, { which: "part", from: from.value, to: to.value });
  if (holdsProps.value) dials.props = props.value;
  if (as.value === "exr")
    for (const { value } of passChoices.value) dials[value] = passes.value.includes(value);
  const name = choices.value.find((one) => one.value === as.value)!.label.split(",")[0];
  await desk.edit([{ do: "add", kind: "export", name, dials }]);
}
</script>

<template>
  <section class="card">
    <p class="quiet">
      Hands on the frames of the shot as it stands: {{ fresh }} of {{ desk.last - desk.first + 1 }} are there.
      A full run's frames are taken where there are some, a draft's otherwise.
    </p>
    <n-select
      v-model:value="as"
      size="small"
      :options="choices"
      :virtual-scroll="false"
      aria-label="Format"
    />
    <n-select
      v-if="as === 'exr'"
      v-model:value="passes"
      multiple
      size="small"
      :options="passChoices"
      placeholder="the picture alone"
      aria-label="Besides the picture"
    />
    <label v-if="finishes" class="switch-row">
      <n-switch v-model:value="finish" size="small" aria-label="With the layers of the finish" />
      With the layers of the finish
    </label>
    <n-select
      v-if="holdsProps"
      v-model:value="props"
      multiple
      size="small"
      :options="propChoices"
      placeholder="all props"
      aria-label="Which props"
    />
    <div class="frames">
      Frames
      <number-field
        :value="from"
        :low="desk.first"
        :high="desk.last"
        whole
        label="First frame"
        @preview="from = $event ?? from"
        @commit="from = $event"
      />
      to
      <number-field
        :value="to"
        :low="desk.first"
        :high="desk.last"
        whole
        label="Last frame"
        @preview="to = $event ?? to"
        @commit="to = $event"
      />
    </div>
    <template v-if="desk.exporting">
      <div class="going" role="status"><job-progress :job="desk.exporting" /></div>
      <button class="pill" title="Stop it; what is finished stays" @click="api.cancel(desk.exporting.id)">
        Stop
      </button>
    </template>
    <div v-else class="going">
      <button class="pill main" title="Write the files in the background" data-export @click="start">
        Export
      </button>
      <button
        class="link"
        title="Keep these settings with the shot, with more of them: names, size, grids, a log beside the files"
        data-keep-export
        @click="keep"
      >
        Keep as a saved export
      </button>
    </div>
  </section>
  <section v-for="row in rows" :key="row.name" class="card" data-exported>
    <button
      class="row"
      :aria-expanded="shown === row.name"
      title="Its files"
      @click="shown = shown === row.name ? null : row.name"
    >
      <span>{{ row.name }}</span>
      <span class="faint">{{ row.files.length }} files, {{ bytes(row.bytes) }}</span>
    </button>
    <p v-if="shown === row.name && since !== null" class="quiet">
      {{ since ? `${since} settings are others now.` : "The shot has the settings that made it." }}
      <button
        v-if="since"
        class="link"
        title="The shot gets the settings that this was exported with"
        data-bring-export-back
        @click="bringBack(row.name)"
      >
        Bring them back
      </button>
    </p>
    <ul v-if="shown === row.name">
      <li v-for="file in row.files" :key="file">
        <a class="link" :href="api.exportUrl(desk.shot!.id, row.name, file)" download>{{ file }}</a>
      </li>
    </ul>
  </section>
  <section class="card">
    <p class="quiet">The shot itself, as a file that can be brought in again.</p>
    <a class="link" :href="api.fileUrl(desk.shot!.id)" download>Save the shot file</a>
  </section>
</template>

<style scoped>
.card {
  background: var(--card);
  border-radius: 10px;
  padding: 10px 12px;
  margin-bottom: 6px;
  display: grid;
  gap: 9px;
}

p {
  margin: 0;
}

.switch-row {
  display: flex;
  gap: 8px;
  align-items: center;
}

.frames {
  display: flex;
  gap: 8px;
  align-items: center;
}

.row {
  display: flex;
  justify-content: space-between;
}

ul {
  margin: 0;
  padding-left: 16px;
  max-height: 180px;
  overflow-y: auto;
}

.going {
  display: flex;
  align-items: center;
  gap: 10px;
}
</style>
