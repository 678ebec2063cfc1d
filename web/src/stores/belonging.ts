import { computed, type Ref } from "vue";
import type { ShotNode } from "../api/types";
import type { useCatalog } from "./catalog";

/** What stands under another thing and goes with it: what is done to a shape, steps, maps, effects, masks. Each kind says by
 * which of its dials it names its owner. */
export function useBelonging(
  nodes: Ref<ShotNode[]>,
  byId: Ref<Map<string, ShotNode>>,
  catalog: ReturnType<typeof useCatalog>,
) {
  const order = (node: ShotNode) => (catalog.read(node, "order") as number) ?? 0;

  /** What a thing belongs to, if that is there. */
  function owner(node: ShotNode): ShotNode | undefined {
    const dial = catalog.kind(node.kind).owner;
    const id = dial && catalog.read(node, dial);
    return typeof id === "string" ? byId.value.get(id) : undefined;
  }

  const under = computed(() => {
    const kinds = new Map(catalog.catalog?.kinds.map((kind, n) => [kind.name, n]));
    const found = new Map<string, ShotNode[]>();
    for (const node of nodes.value) {
      const above = owner(node);
      if (above) found.set(above.id, [...(found.get(above.id) ?? []), node]);
    }
    for (const list of found.values())
      list.sort((a, b) => kinds.get(a.kind)! - kinds.get(b.kind)! || order(a) - order(b));
    return found;
  });

  /** Those of a kind that belong to a thing, in order. */
  const of = (id: string, kind: string) => (under.value.get(id) ?? []).filter((node) => node.kind === kind);
  /** All that belongs to a thing, with what belongs to that. */
  const belonging = (id: string): ShotNode[] =>
    (under.value.get(id) ?? []).flatMap((node) => [node, ...belonging(node.id)]);
  /** Layers lie over each other in order, and belong to nothing. */
  const layers = computed(() =>
    nodes.value.filter((node) => node.kind === "layer").sort((a, b) => order(a) - order(b)),
  );
  /** A place behind all others. */
  const next = (all: ShotNode[]) => Math.max(-1, ...all.map(order)) + 1;

  /** The marks that a thing goes with, over others: its groups. */
  function marksOver(node: ShotNode): ShotNode[] {
    const seen = new Set<ShotNode>();
    let above = byId.value.get(String(node.dials.leader ?? ""));
    while (above && !seen.has(above)) {
      seen.add(above);
      above = byId.value.get(String(above.dials.leader ?? ""));
    }
    return [...seen].filter((one) => one.dials.shape === "mark");
  }

  return { owner, of, belonging, layers, next, marksOver };
}
