import { useEventListener } from "@vueuse/core";
import { onUnmounted, watch, type ShallowRef } from "vue";
import type { FrameRow } from "../api/types";
import { useDesk } from "../stores/desk";
import type { Stage } from "../view/stage";
import { volumeName, type Volumes } from "../view/volumes";
import { pageName } from "./useFlipBook";

/** Milliseconds without a hand on anything until frames are drawn ahead. */
const REST = 1500;

/** While nothing moves, the frames that wait are drawn at full resolution, under the kept picture of this one, so
 * that they are there when they are asked for.
 * @param sparks of a frame, put into the view
 * @param cover lays the kept picture of this frame over the view */
export function useDrawAhead(
  stage: ShallowRef<Stage | null>,
  volumes: Volumes,
  whole: () => boolean,
  sparks: (frame: number) => Promise<boolean>,
  cover: () => boolean,
) {
  const desk = useDesk();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let round = 0;
  /** The frame that the view under the kept picture was set to. */
  let under: number | null = null;

  function rest() {
    round += 1;
    clearTimeout(timer);
    timer = setTimeout(next, REST);
    stage.value?.giveUpAside();
    restore();
  }

  /** What is picked and read is of the frame that is seen. */
  function restore() {
    if (under === null) return;
    under = null;
    stage.value?.props.go(desk.frame);
    void sparks(desk.frame);
  }

  const fine = (view: Stage, row: FrameRow) => view.book.fine(pageName(row.frame, volumeName(row)));

  function still(view: Stage): boolean {
    const busy = desk.playing || desk.running || desk.exporting || desk.printing.length;
    return (
      !busy &&
      document.visibilityState === "visible" &&
      (under !== null || whole()) &&
      !!desk.row &&
      fine(view, desk.row)
    );
  }

  async function next() {
    const view = stage.value;
    const mine = round;
    if (!view) return;
    if (!still(view)) return void (timer = setTimeout(next, REST));
    const rows = desk.frames?.rows ?? [];
    const here = desk.frame - desk.first;
    const waiting = [...rows.slice(here + 1), ...rows.slice(0, here)].find(
      (row) => volumeName(row) && !fine(view, row),
    );
    if (!waiting || view.book.full(...view.pixels)) return restore();
    const volume = await volumes.fetch(volumeName(waiting)!);
    if (mine !== round || !volume || !cover()) return;
    under = waiting.frame;
    view.props.go(waiting.frame);
    view.setVolume(volume);
    if (!(await sparks(waiting.frame)) || mine !== round) return;
    view.drawAside(async (canvas) => {
      await view.book.take(pageName(waiting.frame, volume.name), canvas, true);
      if (mine === round) void next();
    });
  }

  for (const event of ["pointermove", "pointerdown", "wheel", "keydown"] as const)
    useEventListener(window, event, rest, { passive: true, capture: true });
  watch(() => [desk.frame, desk.playing, desk.frames, desk.shot], rest, { flush: "sync" });
  onUnmounted(() => clearTimeout(timer));
  rest();
}
