import { computed, ref, useTemplateRef, watch, type ShallowRef } from "vue";
import type { FrameRow } from "../api/types";
import { useDesk } from "../stores/desk";
import type { Stage } from "../view/stage";
import { volumeName, type Volume, type Volumes } from "../view/volumes";
import type { useScene } from "./useScene";
import type { useSparks } from "./useSparks";
import type { Strengths } from "./useStrengths";

/** No strengths at all. */
const NONE = new Map();

/** Puts frames into the view: as pictures that were kept of them, or drawn anew.
 * @param shown what the view shows of a volume
 * @param plain whether it shows nothing besides
 * @param lights what light and surfaces are at a frame, and whether they change */
export function useFrameView(
  stage: ShallowRef<Stage | null>,
  volumes: Volumes,
  sparks: ReturnType<typeof useSparks>,
  strengths: Strengths,
  shown: { smoke: boolean; fire: boolean; heat: boolean },
  plain: () => boolean,
  lights: Pick<ReturnType<typeof useScene>, "alters" | "dress">,
) {
  const desk = useDesk();
  const over = useTemplateRef<HTMLCanvasElement>("over");
  const covered = ref(false);
  /** The volume on the screen, and the one that the next picture shows. */
  const drawnName = ref<string | null>(null);
  let setName: string | null = null;
  /** How much of the full resolution the smoke on the screen has. */
  const resolution = ref(1);
  /** What the view is set to, whether a kept picture lies over it or not. */
  let placed: FrameRow | null = null;
  /** What a picture of that goes by. */
  let placedPage: string | null = null;
  /** The frame whose liquid is seen, where that is not the shot's own. */
  let laid: FrameRow | null = null;
  let painted: ImageBitmap | null = null;

  const moves = computed(
    () =>
      lights.alters.value ||
      sparks.glows.value ||
      strengths.drawn.value.length > 0 ||
      desk.bodies.some((body) => body.poses),
  );
  const seen = computed(() => shown.smoke || shown.fire || shown.heat);

  /** What a picture of a frame goes by: only what is seen of the frame counts. Nothing while its volume is not lit. */
  function page(row: FrameRow | null | undefined): string | null {
    const volume = volumeName(row ?? undefined);
    if (!row || (seen.value && row.key && !volume)) return null;
    // Sparks come of dials that leave the volume as it is.
    return `${moves.value || !row.key ? row.frame : ""} ${row.liquid ?? ""} ${sparks.edition.value} ${strengths.edition.value} ${seen.value ? volume : ""}`;
  }

  watch(stage, (made) => {
    if (!made) return;
    made.props.liquid = (frame) =>
      (laid?.frame === frame ? laid : desk.frames?.rows[frame - desk.first])?.liquid ?? null;
    made.book.changed = () => {
      const rows = desk.frames?.rows ?? [];
      desk.kept = rows.filter((row) => made.book.has(page(row))).map((row) => row.frame);
    };
  });

  /** Whether a frame is still to be drawn and kept, with all the others. */
  function waits(row: FrameRow | undefined): boolean {
    const view = stage.value;
    const name = page(row);
    if (!view || !name || !plain() || view.hasty || view.book.has(name)) return false;
    return view.book.holds(desk.last - desk.first + 1, ...view.pixels);
  }

  /** A picture of what is set is drawn. */
  function drew() {
    drawnName.value = setName;
  }

  /** Keeps what is drawn for the next time round. */
  async function keep(canvas: HTMLCanvasElement, fine: boolean) {
    const name = plain() ? page(placed) : null;
    if (name) await stage.value?.book.take(name, canvas, fine);
  }

  function put(whether: boolean) {
    if (stage.value) stage.value.covered = whether;
    covered.value = whether;
  }

  /** Shows a picture that was kept: any while it plays, else only the finest. @return whether there is one */
  function cover(): boolean {
    const picture = stage.value?.book.get(page(desk.row), !desk.playing);
    const canvas = over.value;
    if (!picture || !canvas) return false;
    laid = null;
    stand();
    placed = null;
    // The same picture again needs no painting.
    if (picture !== painted || !covered.value) {
      if (canvas.width !== picture.width) canvas.width = picture.width;
      if (canvas.height !== picture.height) canvas.height = picture.height;
      canvas.getContext("2d", { alpha: false })!.drawImage(picture, 0, 0);
      painted = picture;
    }
    // What lay there before may not have come as far.
    if (!desk.playing) resolution.value = 1;
    put(true);
    return true;
  }

  /** Puts all to where it is at the frame where the desk stands: what is picked is where it is seen. */
  function stand() {
    stage.value?.props.go(desk.frame);
    lights.dress(desk.frame);
  }

  /** Shows the view again. @return whether a picture lay over it */
  function uncover(): boolean {
    const lay = covered.value;
    put(false);
    return lay;
  }

  /** Sets the view to a frame, with all that belongs to it. @return whether all of it was there, and still wanted */
  async function place(row: FrameRow, wanted: () => boolean): Promise<boolean> {
    const view = stage.value!;
    laid = row;
    const name = volumeName(row);
    let volume = name ? volumes.get(name) : null;
    let rows = sparks.get(row.frame) ?? null;
    let strong = strengths.drawn.value.length ? null : NONE;
    await view.props.ready(row.frame);
    if (volume === undefined || !rows || !strong) {
      const asked = [
        name ? volumes.fetch(name) : null,
        sparks.fetch(row.frame),
        strong ?? strengths.fetch(row.frame),
      ] as const;
      [volume, rows, strong] = await Promise.all(asked);
    }
    if (!wanted()) return false;
    view.props.setStrengths(strong);
    const moved = view.props.go(row.frame);
    lights.dress(row.frame);
    // What is not there yet leaves the volume of before.
    const whole = !!rows && (!!volume || !row.key);
    if (whole) view.setVolume(volume ?? null);
    if (rows) view.sparks.set(rows);
    placed = whole ? row : null;
    placedPage = page(placed);
    if (moved || whole || strong.size) view.next();
    return whole;
  }

  /** Shows a frame that is not the shot's own yet: of it nothing is kept. */
  function lay(volume: Volume) {
    placed = null;
    stage.value?.setVolume(volume);
    uncover();
    setName = volume.name;
  }

  /** Whether the view shows a frame already, as it is now. */
  function stands(row: FrameRow): boolean {
    if (covered.value || !placed || !placedPage || placed.frame !== row.frame) return false;
    const name = volumeName(row);
    return placedPage === page(row) && volumeName(placed) === name && setName === name;
  }

  /** Shows the frame that the desk stands at. */
  async function show() {
    const { row } = desk;
    if (!stage.value || !row || stands(row)) return;
    if (cover()) {
      drawnName.value = setName = volumeName(row);
      return;
    }
    const wanted = () =>
      desk.row?.frame === row.frame &&
      volumeName(desk.row) === volumeName(row) &&
      desk.row?.liquid === row.liquid;
    if (!(await place(row, wanted))) return;
    // Not before all is there: what lies under the picture may be another frame.
    uncover();
    setName = volumeName(row);
    // While it plays, the screen sets the pace; what is made meanwhile is shown as it comes.
    if ((!desk.playing || (desk.live && !desk.live.over)) && setName !== drawnName.value) stage.value.now();
  }

  return {
    over,
    covered,
    drawnName,
    resolution,
    page,
    waits,
    drew,
    keep,
    cover,
    stand,
    uncover,
    place,
    lay,
    show,
  };
}
