import { useEventListener } from "@vueuse/core";
import { onUnmounted, watch, type ShallowRef } from "vue";
import type { FrameRow } from "../api/types";
import { useDesk } from "../stores/desk";
import type { Stage } from "../view/stage";
import { usePast } from "../stores/past";
import type { useFrameView } from "./useFrameView";

/** Milliseconds without a hand on anything until frames are drawn ahead; longer where that takes the processor. */
const REST = 1500;
const SLOW_REST = 5000;

/** While nothing moves, the frames that wait are drawn at full resolution, under the kept picture of this one, so
 * that they are there when they are asked for. */
export function useDrawAhead(
  stage: ShallowRef<Stage | null>,
  frames: Pick<ReturnType<typeof useFrameView>, "page" | "keep" | "cover" | "stand" | "place">,
) {
  const { page, keep, cover, stand, place } = frames;
  const desk = useDesk();
  const story = usePast();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let round = 0;

  const pause = () => (stage.value?.software ? SLOW_REST : REST);

  function rest() {
    round += 1;
    clearTimeout(timer);
    timer = setTimeout(next, pause());
    // What is picked is where it is seen; two runs together are drawn elsewhere.
    if (!story.pair && stage.value?.giveUpAside()) stand();
  }

  const fine = (view: Stage, row: FrameRow | undefined) => view.book.fine(page(row));

  function still(view: Stage): boolean {
    const busy = desk.playing || story.pair || desk.active.length || view.resting;
    return !busy && document.visibilityState === "visible" && fine(view, desk.row);
  }

  async function next() {
    const view = stage.value;
    const mine = round;
    if (!view) return;
    if (!still(view)) return void (timer = setTimeout(next, pause()));
    const rows = desk.frames?.rows ?? [];
    const here = desk.frame - desk.first;
    const waiting = [...rows.slice(here + 1), ...rows.slice(0, here)].find(
      (row) => row.key && page(row) && !fine(view, row),
    );
    if (!waiting || view.book.full(...view.pixels)) return void stand();
    if (!cover() || !(await place(waiting, () => mine === round))) return;
    view.drawAside(async (canvas) => {
      await keep(canvas, true);
      if (mine === round) void next();
    });
  }

  for (const event of ["pointermove", "pointerdown", "wheel", "keydown"] as const)
    useEventListener(window, event, rest, { passive: true, capture: true });
  watch(() => [desk.frame, desk.playing, desk.frames, desk.shot], rest, { flush: "sync" });
  onUnmounted(() => clearTimeout(timer));
  rest();
}
