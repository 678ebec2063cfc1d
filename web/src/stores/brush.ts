import { defineStore } from "pinia";
import { reactive, ref } from "vue";

export interface Stroke {
  way: string;
  radius: number;
  strength: number;
  hard: number;
  frame: number;
  /** x, y, z, and how hard the pen was pressed. */
  places: number[][];
}

/** The brush in the hand: whose strokes it paints, and how. */
export const useBrush = defineStore("brush", () => {
  const at = ref<{ node: string; dial: string } | null>(null);
  const hand = reactive({ way: "add", radius: 0.12, strength: 1, hard: 0.4 });
  return { at, hand };
});
