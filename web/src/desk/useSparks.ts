import { computed } from "vue";
import { api } from "../api/client";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";

const NONE = new Float32Array(0);
const KEPT = 300;

/** The sparks of each frame, kept while the shot stays as it is. */
export function useSparks() {
  const desk = useDesk();
  const catalog = useCatalog();
  const known = new Map<string, Float32Array>();
  const glows = computed(() =>
    desk.nodes.some(
      (node) =>
        node.kind === "emitter" && ((catalog.read(node, "glow") as number) > 0 || node.keys.glow?.length),
    ),
  );
  /** Changes with all that sparks may come of. */
  const edition = computed(() => (glows.value ? `${desk.shot?.id} ${desk.shot?.head}` : ""));
  const name = (frame: number) => `${edition.value} ${frame}`;

  function get(frame: number): Float32Array | undefined {
    return glows.value ? known.get(name(frame)) : NONE;
  }

  async function fetch(frame: number): Promise<Float32Array | null> {
    const here = get(frame);
    if (here || !desk.shot) return here ?? null;
    const asked = name(frame);
    const rows = await api.sparks(desk.shot.id, frame).catch(() => null);
    if (rows) known.set(asked, rows);
    if (known.size > KEPT) known.delete(known.keys().next().value!);
    return rows;
  }

  return { glows, edition, get, fetch };
}
