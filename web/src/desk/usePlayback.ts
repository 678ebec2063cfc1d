import { onUnmounted, watch } from "vue";
import { useDesk } from "../stores/desk";
import { volumeName, type Volumes } from "../view/volumes";

const AHEAD = 12;

/** Plays at the shot's rate, and has the coming frames fetched before they are due. */
export function usePlayback(volumes: Volumes) {
  const desk = useDesk();
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

  function tick(now: number) {
    if (!desk.playing) return;
    handle = requestAnimationFrame(tick);
    const count = desk.last - desk.first + 1;
    const due = from + Math.floor(((now - began) / 1000) * desk.rate);
    const frame = desk.first + ((due - desk.first) % count);
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
      if (desk.frame >= desk.last) desk.frame = desk.first;
      began = performance.now();
      from = desk.frame;
      handle = requestAnimationFrame(tick);
    },
    { immediate: true },
  );

  watch(() => desk.frame, ahead);
  onUnmounted(() => cancelAnimationFrame(handle));
  return { ahead };
}
