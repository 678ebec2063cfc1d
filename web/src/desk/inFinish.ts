import type { Edit } from "../api/types";
import type { useCatalog } from "../stores/catalog";
import type { useDesk } from "../stores/desk";

type Desk = ReturnType<typeof useDesk>;
type Catalog = ReturnType<typeof useCatalog>;

/** The layer that is made with what needs one. */
const FIRST = "shot-layer";
const ALL = "change-layer";

/** What is picked, or what that belongs to, if it is of one of these kinds. */
function above(desk: Desk, kinds: string[]) {
  for (let node = desk.byId.get(desk.selected ?? ""); node; node = desk.family.owner(node))
    if (kinds.includes(node.kind)) return node;
  return undefined;
}

const shown = (desk: Desk, catalog: Catalog, what: string) =>
  desk.family.layers.filter((layer) => catalog.read(layer, "what") === what);

/** Where a new thing of the finish goes: a plate below all, other layers on top, effects and masks to what is picked.
 * Nothing for what is no part of it. */
export function inFinish(
  desk: Desk,
  catalog: Catalog,
  kind: string,
  dials: Record<string, unknown> = {},
): Record<string, unknown> | undefined {
  const { layers } = desk.family;
  if (kind === "layer") {
    const lowest = Math.min(0, ...layers.map((layer) => catalog.read(layer, "order") as number));
    return { order: dials.what === "plate" ? lowest - 1 : Math.max(desk.family.next(layers), 1) };
  }
  if (kind === "effect") {
    const layer = above(desk, ["layer"])?.id ?? layers.at(-1)?.id ?? ALL;
    return { layer, order: desk.family.next(desk.family.of(layer, kind)) };
  }
  if (kind === "mask") {
    const to = above(desk, ["layer", "effect"])?.id ?? layers.at(-1)?.id;
    return to ? { to, order: desk.family.next(desk.family.of(to, kind)) } : {};
  }
  if (kind === "track") {
    const picked = above(desk, ["layer"]);
    const moves = picked && ["plate", "shot"].includes(catalog.read(picked, "what") as string);
    const layer = moves ? picked : (shown(desk, catalog, "plate")[0] ?? shown(desk, catalog, "shot")[0]);
    return layer ? { layer: layer.id } : {};
  }
  return undefined;
}

/** What has to be there before it: the shot's own picture, and for an effect a layer that it changes. */
export function needed(desk: Desk, catalog: Catalog, kind: string, dials: Record<string, unknown>): Edit[] {
  const first: Edit = { do: "add", kind: "layer", id: FIRST, name: "The shot", dials: { order: 0 } };
  if (shown(desk, catalog, "shot").length || desk.byId.has(FIRST)) return [];
  if (kind === "layer" && dials.what !== "shot") return [first];
  if (kind !== "effect" || desk.family.layers.length) return [];
  return [
    first,
    { do: "add", kind: "layer", id: ALL, name: "All of it", dials: { what: "change", order: 1 } },
  ];
}
