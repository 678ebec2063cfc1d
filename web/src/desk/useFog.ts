import { computed, onUnmounted, ref, watch, type ShallowRef } from "vue";
import { api } from "../api/client";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { decodeFog } from "../view/decode";
import type { Stage } from "../view/stage";

/** Has the view draw the shot's fogs and beams as they are at the frame, one after the other: what changes meanwhile is
 * asked for when the last is there. */
export function useFog(stage: ShallowRef<Stage | null>) {
  const desk = useDesk();
  const catalog = useCatalog();
  /** What is drawn, or nothing. */
  const drawn = ref<string | null>(null);
  let asking = false;
  let again = false;
  let gone = false;

  /** Whether there is fog or a beam at all. */
  const foggy = computed(() =>
    desk.nodes.some(
      (node) =>
        !node.off &&
        (node.kind === "fog" ||
          (node.kind === "lamp" &&
            catalog.read(node, "as") === "spot" &&
            (catalog.read(node, "beam") as number) > 0)),
    ),
  );

  async function ask() {
    if (!desk.shot || !stage.value || gone) return;
    if (asking) return void (again = true);
    if (!foggy.value) return show(null, null);
    asking = true;
    again = false;
    try {
      const name = await api.fogName(desk.shot.id, desk.frame);
      if (name && name !== drawn.value) show(name, await api.fog(name));
      else if (!name) show(null, null);
    } catch {
      // The finished picture still tells; the view is asked for again with the next change.
    } finally {
      asking = false;
      if (again) void ask();
    }
  }

  function show(name: string | null, buffer: ArrayBuffer | null) {
    if (gone || name === drawn.value) return;
    drawn.value = name;
    stage.value?.setFog(name && buffer ? decodeFog(name, buffer) : null);
  }

  watch([stage, () => desk.shot, () => desk.frame], () => void ask(), { immediate: true });
  onUnmounted(() => (gone = true));

  return { foggy, drawn };
}
