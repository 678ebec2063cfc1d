import { computed, type Ref } from "vue";
import type { TimelineRow } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { nameOf, useTimes } from "../stores/times";

export const LANE = 26;
export const OPEN = 118;
const HEAD = 24;
/** So many rows are seen without headings. */
const FEW = 6;

/** What stands below each other in the timeline. */
type Place = { name: string; top: number; height: number };
export type RowLine = Place & { kind: "row"; row: TimelineRow; open: boolean };
export type Line = (Place & { kind: "group"; label: string; count: number }) | RowLine;

/** The rows in their groups, each with its place, and those of them that are seen.
 * @param scroll how far it is scrolled; @param height how much of it is seen, pixels */
export function useTimeLines(scroll: Ref<number>, height: Ref<number>) {
  const desk = useDesk();
  const catalog = useCatalog();
  const times = useTimes();

  const shown = computed(() => {
    const words = times.words.toLowerCase().trim();
    return times.rows.filter(
      (row) =>
        (!words || row.name.toLowerCase().includes(words)) &&
        (!times.only.includes("keys") || row.keys.length || row.formula) &&
        (!times.only.includes("picked") || row.node === desk.selected),
    );
  });

  const lines = computed<Line[]>(() => {
    const all: Line[] = [];
    let top = 0;
    const groups = new Map<string, TimelineRow[]>();
    for (const row of shown.value) groups.set(row.kind, [...(groups.get(row.kind) ?? []), row]);
    const headed = shown.value.length > FEW && groups.size > 1;
    for (const [kind, rows] of groups) {
      if (headed) {
        all.push({
          kind: "group",
          name: kind,
          label: catalog.kind(kind).plural,
          count: rows.length,
          top,
          height: HEAD,
        });
        top += HEAD;
        if (times.folded.has(kind)) continue;
      }
      for (const row of rows) {
        const open = times.open.has(nameOf(row)) && !!row.slopes;
        const height = open ? OPEN : LANE;
        all.push({ kind: "row", name: nameOf(row), row, open, top, height });
        top += height;
      }
    }
    return all;
  });

  const total = computed(() => lines.value.reduce((sum, line) => sum + line.height, 0));
  const seen = computed(() =>
    lines.value.filter(
      (line) => line.top + line.height > scroll.value - 60 && line.top < scroll.value + height.value + 60,
    ),
  );

  return { lines, seen, total, shown };
}
