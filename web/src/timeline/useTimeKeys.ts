import type { Ref } from "vue";
import type { Key, TimelineRow } from "../api/types";
import { useDesk } from "../stores/desk";
import { nameOf, useTimes } from "../stores/times";
import type { useTimeAxis } from "./useTimeAxis";
import type { useTimeBox } from "./useTimeBox";

/** Keys of the timeline in the hand and under the keyboard, with all others that are picked. */
export function useTimeKeys(
  section: Readonly<Ref<HTMLElement | null>>,
  axis: ReturnType<typeof useTimeAxis>,
  box: ReturnType<typeof useTimeBox>,
  shown: Ref<TimelineRow[]>,
) {
  const desk = useDesk();
  const times = useTimes();
  /** A key in the hand, with all others that are picked. */
  let grip: { x: number; moved: boolean; frame: number } | null = null;

  function grab(event: PointerEvent, row: TimelineRow, key: Key) {
    if (event.button !== 0) return;
    event.stopPropagation();
    (event.currentTarget as Element)?.setPointerCapture?.(event.pointerId);
    (event.target as Element).closest("button")?.setPointerCapture(event.pointerId);
    section.value?.focus({ preventScroll: true });
    if (event.shiftKey || !times.has(row, key.frame)) times.pick(row, key.frame, event.shiftKey);
    times.copying = event.altKey;
    grip = { x: event.clientX, moved: false, frame: key.frame };
  }

  function move(event: PointerEvent) {
    if (grip) {
      const far = event.clientX - grip.x;
      grip.moved ||= Math.abs(far) > 2;
      if (grip.moved) times.moveTo(axis.frames(far));
    } else box.move(event);
  }

  function up(event: PointerEvent) {
    if (grip) {
      if (grip.moved) void times.settle();
      else {
        times.copying = false;
        desk.go(grip.frame);
      }
      grip = null;
    } else box.up(event);
  }

  /** A key's own keys: it takes along what else is picked. */
  function step(event: KeyboardEvent, row: TimelineRow, key: Key) {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by) {
      if (!times.has(row, key.frame)) times.pick(row, key.frame, false);
      times.copying = false;
      times.moveTo(times.away + by);
      void times.settle();
    } else if (event.key === "Delete" || event.key === "Backspace")
      void desk.timing.dropKeys(
        times.has(row, key.frame) ? times.places : [{ node: row.node, dial: row.dial, frame: key.frame }],
      );
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  function press(event: KeyboardEvent) {
    if ((event.target as HTMLElement).tagName === "INPUT" || axis.keys(event)) return;
    const all = (event.ctrlKey || event.metaKey) && event.key === "a";
    if (all)
      for (const row of shown.value)
        for (const key of row.keys) times.keys.add(`${nameOf(row)}@${key.frame}`);
    else if (event.key === "Delete" && times.places.length) void desk.timing.dropKeys(times.places);
    else if (event.key === "Escape" && (times.keys.size || times.picked.size)) times.clear();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  return { grab, move, up, step, press };
}
