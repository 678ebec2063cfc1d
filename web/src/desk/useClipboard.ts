import { useStorage } from "@vueuse/core";
import type { Edit, ShotNode } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useChosen } from "../stores/chosen";
import { useDesk } from "../stores/desk";
import { inFinish } from "./inFinish";
import { onTop } from "./onTop";

/** How far beside what was copied it comes to stand, metres. */
const ASIDE = 0.4;

/** What leads to others comes after these. */
function inTurn(edits: Edit[]): Edit[] {
  const waiting = new Map(edits.map((edit) => [edit.id as string, edit]));
  const ready = (edit: Edit) =>
    Object.values(edit.dials as Record<string, unknown>)
      .flat()
      .every((value) => !waiting.has(value as string) || value === edit.id);
  const found: Edit[] = [];
  while (waiting.size) {
    const next = [...waiting.values()].find(ready) ?? [...waiting.values()][0];
    waiting.delete(next.id as string);
    found.push(next);
  }
  return found;
}

/** Copies what is chosen, with what belongs to it, and pastes it here or into another shot. */
export function useClipboard() {
  const desk = useDesk();
  const catalog = useCatalog();
  const chosen = useChosen();
  const kept = useStorage<ShotNode[]>("vumbral-clipboard", []);

  function copy() {
    const heads = chosen.heads.filter((node) => !catalog.kind(node.kind).single);
    if (!heads.length) return;
    const all = heads.flatMap((node) => [node, ...desk.belonging(node.id)]);
    kept.value = JSON.parse(JSON.stringify(all));
    const named = heads.length > 1 ? `${heads.length} things are` : `${heads[0].name} is`;
    desk.announce(
      `${named} copied; Ctrl+V puts ${heads.length > 1 ? "them" : "it"} in, here or in another shot.`,
    );
  }

  /** Leads to the copies of what was copied too, and nowhere for what this shot does not have. */
  function dials(node: ShotNode, twins: Map<string, string>): Record<string, unknown> {
    const known = catalog.kind(node.kind).dials;
    const refers = (name: string) => known.find((dial) => dial.name === name)?.type.startsWith("node");
    const there = (id: unknown) =>
      twins.get(String(id)) ?? (desk.byId.has(String(id)) ? String(id) : undefined);
    const found: Record<string, unknown> = {};
    for (const [name, value] of Object.entries(node.dials)) {
      if (!refers(name)) found[name] = value;
      else if (Array.isArray(value)) found[name] = value.map(there).filter((id) => id !== undefined);
      else if (there(value) !== undefined) found[name] = there(value);
    }
    return found;
  }

  /** Ids that nothing has yet. */
  function named(nodes: ShotNode[]): Map<string, string> {
    const taken = new Set(desk.byId.keys());
    return new Map(
      nodes.map((node) => {
        let n = 1;
        while (taken.has(`${node.kind}-${n}`)) n += 1;
        taken.add(`${node.kind}-${n}`);
        return [node.id, `${node.kind}-${n}`];
      }),
    );
  }

  /** Beside what it was copied from, unless it goes with something that was copied too. */
  function aside(node: ShotNode, twins: Map<string, string>): Record<string, unknown> {
    const at = node.dials.position as number[] | undefined;
    return at && !twins.has(String(node.dials.leader)) ? { position: [at[0] + ASIDE, at[1], at[2]] } : {};
  }

  async function paste() {
    const [first] = kept.value;
    if (!first) return;
    const twins = named(kept.value);
    const edits = kept.value.map((node): Edit => {
      const owned = twins.has(String(node.dials[catalog.kind(node.kind).owner ?? ""]));
      const kind = node.kind === "step" ? onTop(desk, catalog) : inFinish(desk, catalog, node.kind);
      return {
        do: "add",
        id: twins.get(node.id),
        kind: node.kind,
        name: node.name,
        dials: { ...dials(node, twins), ...(owned ? {} : (kind ?? aside(node, twins))) },
        keys: node.keys,
        beyond: node.beyond ?? {},
        formulas: node.formulas ?? {},
      };
    });
    await desk.edit(inTurn(edits));
    const twin = desk.byId.get(twins.get(first.id)!);
    if (!twin) return;
    desk.chapter = desk.chapterOf(twin);
    desk.selected = twin.id;
  }

  return { copy, paste };
}
