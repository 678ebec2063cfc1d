import { useStorage } from "@vueuse/core";
import type { Edit, ShotNode } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { inFinish } from "./inFinish";
import { onTop } from "./onTop";

/** How far beside what was copied it comes to stand, metres. */
const ASIDE = 0.4;

/** Copies what is picked, with what is done to its shape, and pastes it here or into another shot. */
export function useClipboard() {
  const desk = useDesk();
  const catalog = useCatalog();
  const kept = useStorage<ShotNode[]>("vumbral-clipboard", []);

  function copy() {
    const node = desk.byId.get(desk.selected ?? "");
    if (!node || catalog.kind(node.kind).single) return;
    kept.value = JSON.parse(JSON.stringify([node, ...desk.belonging(node.id)]));
    desk.announce(`${node.name} is copied; Ctrl+V puts it in, here or in another shot.`);
  }

  /** Without what leads to things that this shot does not have. */
  function dials(node: ShotNode): Record<string, unknown> {
    const known = catalog.kind(node.kind).dials;
    const refers = (name: string) => known.find((dial) => dial.name === name)?.type.startsWith("node");
    const kept: Record<string, unknown> = {};
    for (const [name, value] of Object.entries(node.dials)) {
      const whole = !refers(name) || (!Array.isArray(value) && desk.byId.has(String(value)));
      if (whole) kept[name] = value;
      else if (Array.isArray(value)) kept[name] = value.map(String).filter((id) => desk.byId.has(id));
    }
    return kept;
  }

  const add = (node: ShotNode, changed: Record<string, unknown>): Edit => ({
    do: "add",
    kind: node.kind,
    name: node.name,
    dials: { ...dials(node), ...changed },
    keys: node.keys,
    beyond: node.beyond ?? {},
    formulas: node.formulas ?? {},
  });

  async function paste() {
    const [node, ...done] = kept.value;
    if (!node) return;
    const before = new Set(desk.nodes.map((one) => one.id));
    const at = node.dials.position as number[] | undefined;
    const aside = at ? { position: [at[0] + ASIDE, at[1], at[2]] } : {};
    const kind = node.kind === "step" ? onTop(desk, catalog) : inFinish(desk, catalog, node.kind);
    await desk.edit([add(node, kind ?? aside)]);
    const twin = desk.nodes.find((one) => !before.has(one.id));
    if (!twin) return;
    // What belongs to the thing first, then what belongs to that.
    const twins = new Map([[node.id, twin.id]]);
    for (const one of done) {
      const dial = catalog.kind(one.kind).owner!;
      const owner = twins.get(String(one.dials[dial])) ?? twin.id;
      const there = new Set(desk.nodes.map((other) => other.id));
      await desk.edit([add(one, { [dial]: owner })]);
      twins.set(one.id, desk.nodes.find((other) => !there.has(other.id))?.id ?? twin.id);
    }
    desk.chapter = desk.chapterOf(twin);
    desk.selected = twin.id;
  }

  return { copy, paste };
}
