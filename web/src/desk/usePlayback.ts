import { onUnmounted, watch } from "vue";
import { useDesk } from "../stores/desk";
import type { FrameRow } from "../api/types";
import { useLive } from "../stores/live";
import { useTimes } from "../stores/times";
import { volumeName, type Volumes } from "../view/volumes";

const AHEAD = 12;
/** So long a frame is waited for, ms: one that does not come must not stop all others. */
const PATIENCE = 2000;

/** Plays at the shot's rate, and has the coming frames fetched before they are due. Frames that are to be kept as
 * pictures are all drawn the first time round, however long that takes: from then on they play in time on any machine.
 * @param waits whether a frame of a row is still to be drawn and kept */
export function usePlayback(volumes: Volumes, waits: (row: FrameRow | undefined) => boolean) {
  const desk = useDesk();
  const times = useTimes();
  const live = useLive();
  /** What is played, from frame to frame. */
  const part = () => times.loop ?? { from: desk.first, to: desk.last };
  let began = 0;
  let from = 0;
  let handle = 0;
  /** Since when the frame is seen. */
  let since = 0;

  /** Frames that did not come. */
  const given = new Set<number>();

  const awaited = (frame: number) => !given.has(frame) && waits(desk.frames?.rows[frame - desk.first]);

  function ahead() {
    const rows = desk.frames?.rows ?? [];
    for (let n = 0; n < AHEAD && volumes.busy < 4; n++) {
      const name = volumeName(rows[(desk.frame - desk.first + n) % rows.length]);
      if (name && !volumes.has(name)) void volumes.fetch(name);
    }
  }

  /** Up to the frame that has come last, and once all have, from the beginning again. */
  function asItComes(due: number): number {
    if (due <= live.upto) return due;
    began = performance.now();
    return (from = live.upto >= desk.last ? desk.first : live.upto);
  }

  /** The frame that is due, or the one before it that is not kept yet. */
  function inTime(due: number, now: number): number {
    const { from: start, to: end } = part();
    const round = (frame: number) => start + ((frame - start) % (end - start + 1));
    const goOn = (frame: number) => ((began = now), (from = frame));
    if (awaited(desk.frame)) {
      if (now - since < PATIENCE) return goOn(desk.frame);
      given.add(desk.frame);
    }
    for (let next = from; next <= due; next++) {
      const frame = round(next);
      if (frame !== desk.frame && awaited(frame)) return goOn(frame);
    }
    return round(due);
  }

  function tick(now: number) {
    if (!desk.playing) return;
    handle = requestAnimationFrame(tick);
    const due = from + Math.floor(((now - began) / 1000) * desk.rate * times.pace);
    const frame = live.job ? asItComes(due) : inTime(due, now);
    if (frame !== desk.frame) {
      since = now;
      desk.frame = frame;
      ahead();
    }
  }

  watch(
    () => desk.playing,
    (playing) => {
      cancelAnimationFrame(handle);
      if (!playing) return;
      given.clear();
      const { from: start, to: end } = part();
      if (desk.frame >= end || desk.frame < start) desk.frame = start;
      began = since = performance.now();
      from = desk.frame;
      handle = requestAnimationFrame(tick);
    },
    { immediate: true },
  );

  // From where it is, on.
  watch([() => times.pace, () => times.loop], () => {
    began = performance.now();
    from = desk.frame;
    const { from: start, to: end } = part();
    if (desk.playing && (from < start || from > end)) from = desk.frame = start;
  });

  watch(
    () => live.job,
    (job) => {
      if (!job) return;
      began = performance.now();
      from = desk.frame = Math.min(desk.frame, live.upto);
    },
  );
  watch(() => desk.frame, ahead);
  onUnmounted(() => cancelAnimationFrame(handle));
  return { ahead };
}
