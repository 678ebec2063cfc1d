import { defineStore } from "pinia";
import { computed, ref } from "vue";
import { api } from "../api/client";
import type { Catalog, Dial, Kind, ShotNode, Value } from "../api/types";

/** The kinds of node with their dials, as the server declares them. */
export const useCatalog = defineStore("catalog", () => {
  const catalog = ref<Catalog | null>(null);
  const kinds = computed(() => new Map(catalog.value?.kinds.map((kind) => [kind.name, kind]) ?? []));

  async function load() {
    catalog.value ??= await api.kinds();
  }

  function kind(name: string): Kind {
    return kinds.value.get(name)!;
  }

  function value(node: ShotNode, dial: Dial): Value {
    return node.dials[dial.name] ?? dial.default;
  }

  /** A dial by name, with the node's own value. */
  function read(node: ShotNode, name: string): Value {
    const dial = kind(node.kind).dials.find((candidate) => candidate.name === name);
    return dial ? value(node, dial) : null;
  }

  /** What a dial is called that stands for a name of a formula's own; nothing where the formula has none for it. */
  function called(node: ShotNode, dial: Dial): string | undefined {
    const formula = kind(node.kind).dials.find((other) => other.named?.includes(dial.name));
    if (!formula) return dial.label;
    const words = String(value(node, formula)).match(/\b[a-z][a-z_0-9]*\b(?!\s*\()/g) ?? [];
    const own = [...new Set(words)].filter((word) => !catalog.value?.formula.includes(word));
    return own[formula.named!.indexOf(dial.name)];
  }

  /** Whether a dial is there to be seen, given the others. */
  function applies(node: ShotNode, dial: Dial): boolean {
    return (
      !!called(node, dial) &&
      Object.entries(dial.only ?? {}).every(([name, values]) =>
        values === "set" ? read(node, name) !== null : values.includes(read(node, name)),
      ) &&
      // What another dial says that is not there itself, says nothing.
      !Object.entries(dial.except ?? {}).some(([name, values]) => {
        const other = kind(node.kind).dials.find((candidate) => candidate.name === name);
        return !!other && values.includes(value(node, other)) && applies(node, other);
      })
    );
  }

  return { catalog, load, kind, value, read, applies, called };
});
