import { defineStore } from "pinia";
import { shallowRef } from "vue";
import type { Value } from "../api/types";

/** A dial under the hand, and what it stands at before it is let go. */
export interface Held {
  node: string;
  dial: string;
  value: Value;
}

/** What the hand is doing to a dial, for those who show what comes of it at once. */
export const useHand = defineStore("hand", () => {
  const held = shallowRef<Held | null>(null);
  /** How it was let go last: set, or taken back. */
  const kept = shallowRef(true);

  function hold(node: string, dial: string, value: Value) {
    held.value = { node, dial, value };
  }

  function drop(set: boolean) {
    kept.value = set;
    held.value = null;
  }

  return { held, kept, hold, drop };
});
