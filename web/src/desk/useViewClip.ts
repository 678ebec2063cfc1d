import { type Ref, type ShallowRef } from "vue";
import { useClip } from "../lib/useClip";
import { useDesk } from "../stores/desk";
import { usePast } from "../stores/past";
import { useTimes } from "../stores/times";
import type { Stage } from "../view/stage";
import type { useFrameView } from "./useFrameView";

/** A movie of the view as it is: of the frames that play, or of two runs together. */
export function useViewClip(
  stage: ShallowRef<Stage | null>,
  view: Pick<ReturnType<typeof useFrameView>, "page" | "place" | "show">,
  both: { canvas: Readonly<Ref<HTMLCanvasElement | null>>; work: () => Promise<void> },
) {
  const desk = useDesk();
  const story = usePast();
  const times = useTimes();
  const clip = useClip();

  /** A kept picture of the frame, or one that is drawn now. */
  async function draw(frame: number): Promise<HTMLCanvasElement | null> {
    const there = stage.value;
    desk.frame = frame;
    if (story.pair) {
      await both.work();
      return both.canvas.value;
    }
    const row = desk.row;
    if (!there || !row) return null;
    const kept = there.book.get(view.page(row), true);
    if (!kept) return (await view.place(row, () => desk.frame === frame)) ? there.sketch() : null;
    const canvas = document.createElement("canvas");
    canvas.width = kept.width;
    canvas.height = kept.height;
    canvas.getContext("2d", { alpha: false })!.drawImage(kept, 0, 0);
    return canvas;
  }

  async function make() {
    const before = desk.frame;
    const { from, to } = times.loop ?? { from: desk.first, to: desk.last };
    desk.playing = false;
    const frames = Array.from({ length: to - from + 1 }, (_, n) => from + n);
    await clip.make(frames, draw, desk.shot?.name ?? "view");
    desk.frame = before;
    if (!story.pair) void view.show();
  }

  return { going: clip.going, make, stop: clip.stop };
}
