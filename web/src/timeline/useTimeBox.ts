import { computed, ref, type Ref } from "vue";
import { useDesk } from "../stores/desk";
import { nameOf, useTimes } from "../stores/times";
import type { TimeAxis } from "./useTimeAxis";
import type { Line } from "./useTimeLines";

/** A drag over empty lanes picks the keys that it covers; a click goes to its frame. */
export function useTimeBox(lines: Ref<Line[]>, axis: TimeAxis, frameAt: (event: PointerEvent) => number) {
  const desk = useDesk();
  const times = useTimes();
  const drag = ref<{ from: [number, number]; to: [number, number]; edge: DOMRect; add: boolean } | null>(
    null,
  );

  const bounds = computed(() => {
    if (!drag.value) return null;
    const { from, to } = drag.value;
    return {
      left: Math.min(from[0], to[0]),
      right: Math.max(from[0], to[0]),
      top: Math.min(from[1], to[1]),
      bottom: Math.max(from[1], to[1]),
    };
  });
  const shape = computed(() => {
    const at = bounds.value;
    if (!at || at.right - at.left + at.bottom - at.top < 4) return null;
    return {
      left: `${at.left}px`,
      top: `${at.top}px`,
      width: `${at.right - at.left}px`,
      height: `${at.bottom - at.top}px`,
    };
  });

  const at = (event: PointerEvent, edge: DOMRect): [number, number] => [
    event.clientX - edge.left,
    event.clientY - edge.top,
  ];

  function down(event: PointerEvent) {
    const body = event.currentTarget as HTMLElement;
    body.setPointerCapture(event.pointerId);
    const edge = body.querySelector(".over")!.getBoundingClientRect();
    const place = at(event, edge);
    drag.value = { from: place, to: place, edge, add: event.shiftKey };
  }

  function move(event: PointerEvent) {
    if (drag.value) drag.value.to = at(event, drag.value.edge);
  }

  function up(event: PointerEvent) {
    const covered = shape.value && bounds.value;
    if (drag.value && !covered && event.type === "pointerup") {
      desk.playing = false;
      desk.frame = frameAt(event);
      times.clear();
    }
    if (drag.value && covered) {
      if (!drag.value.add) times.clear();
      for (const line of lines.value) {
        if (line.kind !== "row" || line.top > covered.bottom || line.top + line.height < covered.top)
          continue;
        for (const key of line.row.keys) {
          const x = axis.x(key.frame);
          if (x >= covered.left && x <= covered.right) times.keys.add(`${nameOf(line.row)}@${key.frame}`);
        }
      }
    }
    drag.value = null;
  }

  return { shape, down, move, up };
}
