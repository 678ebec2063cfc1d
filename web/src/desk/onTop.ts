import type { useCatalog } from "../stores/catalog";
import type { useDesk } from "../stores/desk";

/** The sculpt that is picked, or whose step is, or else another, and a place behind all its steps. */
export function onTop(
  desk: ReturnType<typeof useDesk>,
  catalog: ReturnType<typeof useCatalog>,
  otherwise?: string,
): { sculpt?: string; order?: number } {
  const picked = desk.byId.get(desk.selected ?? "");
  const own = picked?.kind === "step" ? desk.byId.get(String(catalog.read(picked, "sculpt"))) : picked;
  const sculpt = own?.kind === "sculpt" ? own : desk.byId.get(otherwise ?? "");
  if (!sculpt) return {};
  const orders = desk.steps(sculpt.id).map((node) => catalog.read(node, "order") as number);
  return { sculpt: sculpt.id, order: Math.max(-1, ...orders) + 1 };
}
