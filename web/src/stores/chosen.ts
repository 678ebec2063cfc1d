import { defineStore } from "pinia";
import { computed, ref, watch } from "vue";
import { useCatalog } from "./catalog";
import { useDesk } from "./desk";
import type { ShotNode } from "../api/types";

/** What is picked, and what else: several things that are moved, grouped or taken away at once. */
export const useChosen = defineStore("chosen", () => {
  const desk = useDesk();
  const catalog = useCatalog();
  const beside = ref<string[]>([]);
  /** Whether the pick moves on to another of them. */
  let goesOn = false;

  /** Ids, that of what is picked first. */
  const all = computed(() =>
    desk.selected
      ? [desk.selected, ...beside.value.filter((id) => id !== desk.selected && desk.byId.has(id))]
      : [],
  );
  const several = computed(() => all.value.length > 1);
  const nodes = computed(() =>
    all.value.map((id) => desk.byId.get(id)).filter((node): node is ShotNode => !!node),
  );

  // Who picks one thing picks that alone.
  watch(
    () => desk.selected,
    () => {
      if (!goesOn) beside.value = [];
      goesOn = false;
    },
    { flush: "sync" },
  );

  function pick(id: string | null) {
    if (id === desk.selected) return;
    goesOn = true;
    desk.selected = id;
  }

  /** Takes a thing among those that are chosen, or out of them. */
  function toggle(id: string) {
    const node = desk.byId.get(id);
    if (!node || catalog.kind(node.kind).single) return;
    if (!desk.selected) return pick(id);
    if (id === desk.selected) {
      const [next = null, ...rest] = all.value.slice(1);
      pick(next);
      beside.value = rest;
    } else if (beside.value.includes(id)) beside.value = beside.value.filter((other) => other !== id);
    else beside.value = [...beside.value, id];
  }

  /** Those that do not go away with another of them. */
  const heads = computed(() =>
    nodes.value.filter((node) => {
      for (let above = desk.family.owner(node); above; above = desk.family.owner(above))
        if (all.value.includes(above.id)) return false;
      return true;
    }),
  );

  const takeAway = () =>
    desk.selected && desk.edit(heads.value.map((node) => ({ do: "remove", node: node.id })));

  /** Moves them all by so much, in the world. */
  const shift = (by: number[]) =>
    desk.edit([
      { do: "shift", nodes: all.value, frame: desk.frame, by: by.map((c) => Number(c.toFixed(5))) },
    ]);

  /** Whether the hand must leave a thing where it is: it is locked, or its group is. */
  const held = (node: ShotNode | undefined) =>
    !!node && (!!node.locked || desk.family.marksOver(node).some((mark) => mark.locked));

  return { all, several, nodes, heads, toggle, takeAway, shift, held };
});
