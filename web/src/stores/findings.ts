import { computed, shallowRef } from "vue";
import { api } from "../api/client";
import type { Finding } from "../api/types";

const LATER = 300;

/** What preflight found in a shot, by the dial that each is about. */
export function useFindings() {
  const findings = shallowRef<Finding[]>([]);
  const byDial = computed(
    () => new Map(findings.value.map((found) => [`${found.node}.${found.dial}`, found])),
  );
  const nodes = computed(() => new Set(findings.value.map((found) => found.node)));
  let asked = 0;
  let soon: ReturnType<typeof setTimeout> | undefined;

  /** The answer to the newest question counts. */
  async function load(id: string) {
    const mine = (asked += 1);
    const found = await api.preflight(id).catch(() => null);
    if (found && mine === asked) findings.value = found;
  }

  /** After a change what is computed comes first, and several changes need one answer. */
  function loadSoon(id: string) {
    clearTimeout(soon);
    soon = setTimeout(() => load(id), LATER);
  }

  function clear() {
    clearTimeout(soon);
    asked += 1;
    findings.value = [];
  }

  return { findings, byDial, nodes, load, loadSoon, clear };
}
