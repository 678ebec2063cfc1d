import { useStorage } from "@vueuse/core";
import { defineStore } from "pinia";

/** Steps of the grid that the hand may keep to, metres. */
export const STEPS = [0.001, 0.01, 0.05, 0.1, 0.25, 0.5, 1, 5];

/** The grid that the hand keeps to while it moves things: always, or with Shift. */
export const useGrid = defineStore("grid", () => {
  const step = useStorage("vumbral-grid-step", 0.1);
  const always = useStorage("vumbral-grid-always", false);

  /** @return the step to keep to now, metres; nothing for none */
  const now = (shift: boolean) => (shift !== always.value ? step.value : null);

  return { step, always, now };
});
