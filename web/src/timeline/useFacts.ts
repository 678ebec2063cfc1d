import { useStorage } from "@vueuse/core";
import { computed } from "vue";
import type { FrameFacts } from "../api/types";
import { plain } from "../lib/numbers";
import { useDesk } from "../stores/desk";

/** What each frame found out about itself, as curves to choose from. */
const facts: Record<
  string,
  { label: string; unit: string; read: (facts: FrameFacts) => number | undefined }
> = {
  seconds: { label: "Seconds a frame", unit: "s", read: (f) => f.seconds },
  peak: { label: "Peak temperature", unit: "K", read: (f) => f.peak },
  speed: { label: "Top speed", unit: "m/s", read: (f) => f.speed },
  smoke: { label: "Smoke in the box", unit: "", read: (f) => f.smoke },
  fuel: { label: "Fuel left", unit: "", read: (f) => f.fuel },
  volume: { label: "Liquid", unit: "m³", read: (f) => f.volume },
  energy: { label: "Its energy", unit: "J/kg", read: (f) => f.energy },
  drops: { label: "Particles", unit: "", read: (f) => f.drops },
  sprayed: { label: "Spray and foam", unit: "", read: (f) => f.sprayed },
  left: { label: "Left the box", unit: "", read: (f) => f.left },
  residual: { label: "Residual", unit: "", read: (f) => f.residual },
  substeps: { label: "Substeps", unit: "", read: (f) => f.substeps },
  iterations: { label: "Iterations", unit: "", read: (f) => f.iterations },
};
/** The curves that somebody chose to see, in a lane of some height; `x` is where a frame stands. */
export function useFacts(x: (frame: number) => number, height: number) {
  const desk = useDesk();
  const chosen = useStorage("vumbral-facts", ["seconds"]);
  // Gas tells other things than liquid does.
  const choices = computed(() =>
    Object.entries(facts)
      .filter(([name, fact]) => {
        const rows = (desk.frames?.rows ?? []).filter((row) => row.facts);
        return (
          !rows.length ||
          chosen.value.includes(name) ||
          rows.some((row) => fact.read(row.facts!) !== undefined)
        );
      })
      .map(([value, fact]) => ({ value, label: fact.label })),
  );
  const curves = computed(() =>
    chosen.value
      .filter((name) => facts[name])
      .map((name) => {
        const rows = (desk.frames?.rows ?? []).filter(
          (row) => row.facts && facts[name].read(row.facts) !== undefined,
        );
        const values = rows.map((row) => facts[name].read(row.facts!)!);
        const peak = Math.max(...values, 1e-12);
        const path = rows
          .map(
            (row, i) =>
              `${i ? "L" : "M"}${x(row.frame).toFixed(1)},${(height - 4 - (values[i] / peak) * 16).toFixed(1)}`,
          )
          .join("");
        const here = desk.row?.facts && facts[name].read(desk.row.facts);
        const shown = here ?? peak;
        return { name, label: facts[name].label, path, value: `${plain(shown)} ${facts[name].unit}` };
      })
      .filter((curve) => curve.path),
  );

  return { chosen, choices, curves };
}
