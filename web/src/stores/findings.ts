import { computed, shallowRef } from "vue";
import { api } from "../api/client";
import type { Finding } from "../api/types";

/** What preflight found in a shot, by the dial that each is about. */
export function useFindings() {
  const findings = shallowRef<Finding[]>([]);
  const byDial = computed(
    () => new Map(findings.value.map((found) => [`${found.node}.${found.dial}`, found])),
  );
  const nodes = computed(() => new Set(findings.value.map((found) => found.node)));
  let asked = 0;

  /** The answer to the newest question counts. */
  async function load(id: string) {
    const mine = (asked += 1);
    const found = await api.preflight(id).catch(() => null);
    if (found && mine === asked) findings.value = found;
  }

  function clear() {
    asked += 1;
    findings.value = [];
  }

  return { findings, byDial, nodes, load, clear };
}
