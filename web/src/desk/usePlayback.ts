import { onUnmounted, watch } from "vue";
import { useDesk } from "../stores/desk";
import { useLive } from "../stores/live";
import { useTimes } from "../stores/times";
import { volumeName, type Volumes } from "../view/volumes";

const AHEAD = 12;

/** Plays at the shot's rate, and has the coming frames fetched before they are due. */
export function usePlayback(volumes: Volumes) {
  const desk = useDesk();
  const times = useTimes();
  const live = useLive();
  /** What is played, from frame to frame. */
  const part = () => times.loop ?? { from: desk.first, to: desk.last };
  let began = 0;
  let from = 0;
  let handle = 0;

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

  function tick(now: number) {
    if (!desk.playing) return;
    handle = requestAnimationFrame(tick);
    const { from: start, to: end } = part();
    const due = from + Math.floor(((now - began) / 1000) * desk.rate * times.pace);
    const frame = live.job ? asItComes(due) : start + ((due - start) % (end - start + 1));
    if (frame !== desk.frame) {
      desk.frame = frame;
      ahead();
    }
  }

  watch(
    () => desk.playing,
    (playing) => {
      cancelAnimationFrame(handle);
      if (!playing) return;
      const { from: start, to: end } = part();
      if (desk.frame >= end || desk.frame < start) desk.frame = start;
      began = performance.now();
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
