<script setup lang="ts">
import { NDropdown } from "naive-ui";
import { computed, h, ref } from "vue";
import { api } from "../api/client";
import type { Preset, ShotNode } from "../api/types";
import { useDesk } from "../stores/desk";

/** Dials of other shots' things of the same kind, and these ones kept for them. */
const props = defineProps<{ node: ShotNode }>();
const desk = useDesk();
const kept = ref<Preset[]>([]);
const KEEP = "keep";
const options = computed(() => [
  ...kept.value.map((preset) => ({ key: preset.id, label: () => shown(preset) })),
  ...(kept.value.length ? [{ type: "divider", key: "line" }] : []),
  { key: KEEP, label: `Keep what is set as “${props.node.name}”` },
]);

/** A preset as the menu has it, with its picture. */
function shown({ id, name, dials, picture }: Preset) {
  const style = { height: "40px", borderRadius: "5px", margin: "3px 10px 3px 0", verticalAlign: "middle" };
  return h("span", [
    picture ? h("img", { src: api.presetUrl(id), alt: "", style }) : null,
    `${name} (${dials} set)`,
  ]);
}

const load = async () => (kept.value = (await desk.attempt(() => api.presets(props.node.kind))) ?? []);

/** What the view shows, small. */
function small(view?: HTMLCanvasElement | null): string | null {
  if (!view?.width) return null;
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [160, 100];
  const scale = Math.max(canvas.width / view.width, canvas.height / view.height);
  const [width, height] = [view.width * scale, view.height * scale];
  const at = [(canvas.width - width) / 2, (canvas.height - height) / 2] as const;
  canvas.getContext("2d", { alpha: false })!.drawImage(view, ...at, width, height);
  return canvas.toDataURL("image/jpeg", 0.85).split(",")[1];
}

async function choose(key: string) {
  if (!desk.shot) return;
  const { id } = desk.shot;
  if (key === KEEP) {
    const { name } = props.node;
    if (await desk.attempt(() => api.keepPreset(id, props.node.id, name, small(desk.view?.picture()))))
      desk.announce(`${name} is kept for other things of its kind.`);
    return;
  }
  const answer = await desk.attempt(() => api.applyPreset(id, props.node.id, key));
  if (answer) desk.take(answer);
}
</script>

<template>
  <n-dropdown trigger="click" :options="options" @select="choose">
    <button
      class="link"
      title="Dials that were kept for things of this kind, in this shot or in others; or keep these"
      data-presets
      @click="load"
    >
      Presets
    </button>
  </n-dropdown>
</template>
