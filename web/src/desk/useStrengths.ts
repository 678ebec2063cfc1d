import { computed } from "vue";
import { api } from "../api/client";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import type { Strength } from "../view/strengths";

const KEPT = 400;

/** What is strong where on the props at each frame: second colours by their maps, and what the picked front or map
 * comes to. Kept while the shot stays as it is. */
export function useStrengths() {
  const desk = useDesk();
  const catalog = useCatalog();
  const known = new Map<string, Uint8Array>();
  const read = (id: string, name: string) => catalog.read(desk.byId.get(id)!, name);
  const owner = (map: string) => desk.byId.get(String(read(map, "to")));

  /** A front runs over the prop of the one that it follows. */
  function crossed(front: string, far = 0): string | null {
    if (!desk.byId.has(front) || far > 8) return null;
    return read(front, "starts") === "after"
      ? crossed(String(read(front, "after")), far + 1)
      : (read(front, "prop") as string | null);
  }

  /** Props that a source or an emitter gives off from, or the prop itself. */
  function surfaces(id: string): string[] {
    const node = desk.byId.get(id);
    if (!node) return [];
    if (node.kind === "prop") return [id];
    const also = node.kind === "source" ? (read(id, "also") as string[]) : [];
    return [read(id, "prop") as string | null, ...also].filter((prop): prop is string => !!prop);
  }

  const maps = computed(() => desk.nodes.filter((node) => node.kind === "map" && !node.off));
  /** What is drawn: on which prop, of which node, and whether it is only shown and not there in the picture. */
  const drawn = computed<{ prop: string; node: string; shown: boolean }[]>(() => {
    const mixed = [
      ...new Set(maps.value.map((map) => owner(map.id)).filter((node) => node?.kind === "prop")),
    ];
    const found = mixed.map((node) => ({ prop: node!.id, node: node!.id, shown: false }));
    const picked = desk.byId.get(desk.selected ?? "");
    const props =
      picked?.kind === "front"
        ? [crossed(picked.id)]
        : picked?.kind === "map"
          ? surfaces(owner(picked.id)?.id ?? "")
          : picked && picked.kind !== "prop" && maps.value.some((map) => owner(map.id)?.id === picked.id)
            ? surfaces(picked.id)
            : [];
    for (const prop of props) if (prop) found.push({ prop, node: picked!.id, shown: true });
    // What is picked is seen before what is there.
    return found.filter(
      (one, n) => one.shown || !found.some((other, k) => k !== n && other.prop === one.prop),
    );
  });
  /** Changes with all that strengths may come of. */
  const edition = computed(() =>
    drawn.value.length
      ? `${desk.shot?.id} ${desk.shot?.head} ${drawn.value.map((one) => one.node + one.prop).join()}`
      : "",
  );
  const name = (frame: number, one: { prop: string; node: string }) =>
    `${edition.value} ${frame} ${one.node} ${one.prop}`;

  async function fetch(frame: number): Promise<Map<string, Strength>> {
    const found = new Map<string, Strength>();
    const id = desk.shot?.id;
    if (!id) return found;
    await Promise.all(
      drawn.value.map(async (one) => {
        const asked = name(frame, one);
        const bytes =
          known.get(asked) ??
          (await api.strengths(id, one.node, frame, one.prop).catch(() => new Uint8Array(0)));
        known.set(asked, bytes);
        if (known.size > KEPT) known.delete(known.keys().next().value!);
        if (bytes.length) found.set(one.prop, { bytes, shown: one.shown });
      }),
    );
    return found;
  }

  return { drawn, edition, fetch };
}

export type Strengths = ReturnType<typeof useStrengths>;
