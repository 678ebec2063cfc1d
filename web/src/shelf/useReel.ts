import { useMediaQuery } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { api } from "../api/client";
import type { ShotRow } from "../api/types";

/** The moving picture of a card, made when somebody first looks at it. */
export function useReel(shot: () => ShotRow) {
  const looked = ref(false);
  const name = ref<string | null>(null);
  const job = ref<number | null>(null);
  const still = useMediaQuery("(prefers-reduced-motion: reduce)");

  async function look() {
    looked.value = true;
    const answer = await api.reel(shot().id).catch(() => null);
    name.value = answer?.reel ?? null;
    job.value = answer?.job ?? null;
  }

  const making = computed(() => shot().jobs.find((candidate) => candidate.id === job.value));
  watch(making, (now, before) => {
    if (before && !now && looked.value) void look();
  });

  return {
    look,
    leave: () => (looked.value = false),
    making: computed(() => (looked.value ? making.value : undefined)),
    playing: computed(() => (looked.value && !still.value ? name.value : null)),
  };
}
