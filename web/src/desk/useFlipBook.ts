import { ref, useTemplateRef, watch, type ComputedRef, type ShallowRef } from "vue";
import { useDesk } from "../stores/desk";
import type { Stage } from "../view/stage";
import { volumeName } from "../view/volumes";

/** What a kept picture goes by. */
export const pageName = (frame: number, volume: string | null) => `${frame} ${volume}`;

/** Pictures of frames that were drawn already, shown over the view instead of drawing them again.
 * @param name of the volume that this frame wants */
export function useFlipBook(stage: ShallowRef<Stage | null>, name: ComputedRef<string | null>) {
  const desk = useDesk();
  const over = useTemplateRef<HTMLCanvasElement>("over");
  const covered = ref(false);

  watch(stage, (made) => {
    if (!made) return;
    made.book.changed = () => {
      const rows = desk.frames?.rows ?? [];
      desk.kept = rows
        .filter((row) => made.book.has(pageName(row.frame, volumeName(row))))
        .map((row) => row.frame);
    };
  });

  /** Keeps what is drawn for the next time round. */
  function keep(canvas: HTMLCanvasElement, fine: boolean) {
    void stage.value?.book.take(pageName(desk.frame, name.value), canvas, fine);
  }

  function put(whether: boolean) {
    if (stage.value) stage.value.covered = whether;
    covered.value = whether;
  }

  /** Shows a picture that was kept: any while it plays, else only the finest. @return whether there is one */
  function cover(): boolean {
    const picture = stage.value?.book.get(pageName(desk.frame, name.value), !desk.playing);
    const canvas = over.value;
    if (!picture || !canvas) return false;
    // What is picked is where it is seen.
    stage.value!.props.go(desk.frame);
    if (canvas.width !== picture.width) canvas.width = picture.width;
    if (canvas.height !== picture.height) canvas.height = picture.height;
    canvas.getContext("2d")!.drawImage(picture, 0, 0);
    put(true);
    return true;
  }

  /** Shows the view again. @return whether a picture lay over it */
  function uncover(): boolean {
    const lay = covered.value;
    put(false);
    return lay;
  }

  return { covered, keep, cover, uncover };
}
