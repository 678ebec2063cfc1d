import { computed, type Ref } from "vue";
import { useDesk } from "../stores/desk";
import { useTimes } from "../stores/times";

/** Room at both ends of the frames, pixels. */
const PAD = 6;
/** So few frames are seen at the closest. */
const LEAST = 4;

/** Where frames are seen in a lane that is some pixels wide. */
export function useTimeAxis(width: Ref<number>) {
  const desk = useDesk();
  const times = useTimes();
  const from = computed(() => times.view?.from ?? desk.first);
  const to = computed(() => times.view?.to ?? desk.last);
  const span = computed(() => Math.max(to.value - from.value, 1));
  const room = computed(() => Math.max(width.value - 2 * PAD, 1));

  const x = (frame: number) => ((frame - from.value) / span.value) * room.value + PAD;
  /** The frame at a place, not rounded. */
  const frameAt = (left: number) => from.value + ((left - PAD) / room.value) * span.value;
  /** Frames that so many pixels are. */
  const frames = (pixels: number) => (pixels / room.value) * span.value;

  function see(low: number, high: number) {
    const whole = Math.max(desk.last - desk.first, 1);
    const size = Math.min(Math.max(high - low, Math.min(LEAST, whole)), whole);
    const start = Math.min(Math.max(low, desk.first), desk.last - size);
    times.view = size >= whole ? null : { from: start, to: start + size };
  }

  /** @param about the frame that stays where it is */
  function zoom(factor: number, about = desk.frame) {
    const size = Math.min(Math.max(span.value * factor, LEAST), Math.max(desk.last - desk.first, 1));
    const part = Math.min(Math.max((about - from.value) / span.value, 0), 1);
    see(about - part * size, about + (1 - part) * size);
  }

  const pan = (by: number) => see(from.value + by, to.value + by);

  /** With Ctrl the wheel comes nearer; sideways, or with Shift, it shifts. */
  function wheel(event: WheelEvent, left: number) {
    const aside = event.shiftKey ? event.deltaY || event.deltaX : event.deltaX;
    if (event.ctrlKey || event.metaKey) zoom(Math.exp(event.deltaY * 0.002), frameAt(left));
    else if (Math.abs(aside) > Math.abs(event.shiftKey ? 0 : event.deltaY)) pan(frames(aside));
    else return;
    event.preventDefault();
  }

  function keys(event: KeyboardEvent) {
    const act = {
      "+": () => zoom(0.7),
      "=": () => zoom(0.7),
      "-": () => zoom(1 / 0.7),
      "*": () => (times.view = null),
      PageUp: () => pan(-0.5 * span.value),
      PageDown: () => pan(0.5 * span.value),
    }[event.key];
    if (!act || event.ctrlKey || event.metaKey) return false;
    act();
    event.preventDefault();
    event.stopPropagation();
    return true;
  }

  return { from, to, x, frameAt, frames, zoom, pan, wheel, keys };
}

export type TimeAxis = ReturnType<typeof useTimeAxis>;
