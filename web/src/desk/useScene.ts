import { computed, ref, watch, type ShallowRef } from "vue";
import { useCatalog } from "../stores/catalog";
import { useChosen } from "../stores/chosen";
import { useDesk } from "../stores/desk";
import type { Stage } from "../view/stage";
import { useLights } from "./useLights";
import { useMarks } from "./useMarks";

/** Lays the shot's props, lamps, marks and lines and its chambers out in the view, and again where they change.
 * @param follow called when props stand where they should */
export function useScene(stage: ShallowRef<Stage | null>, follow: () => void) {
  const desk = useDesk();
  const catalog = useCatalog();
  const chosen = useChosen();
  const { marks, forces, paints, changing, feeding } = useMarks();
  const picture = (dial: string) => catalog.read(desk.byId.get("picture")!, dial) as number;
  const proportion = () => picture("width") / picture("height");

  const lights = useLights((seen) => {
    if (seen) dress(desk.frame);
    stage.value?.touch();
  });
  /** Whether light, look, film or surfaces are others at other frames. */
  const alters = computed(() => !!desk.shot?.lights_change || changing.value);

  /** Gives everything the light, the look and the surfaces that it has at a frame. */
  function dress(frame: number) {
    if (desk.shot?.lights_change) stage.value?.lightAs(lights.at(frame)!);
    if (changing.value) stage.value?.props.repaint(new Map(paints(frame)));
  }

  /** What the scene was laid out from: the same again needs no new picture. */
  let laid = "";
  /** Whether all of it is there. */
  const whole = ref(false);

  function scene() {
    const answer = desk.shot;
    if (!answer || !stage.value) return;
    const lens = desk.selected === "camera" && answer.scene.camera.aperture > 0 ? answer.scene.camera : null;
    const now = JSON.stringify([
      answer.scene,
      answer.lights_change && answer.head,
      chosen.all,
      desk.bodies,
      marks(),
      forces(),
      lens,
      paints(),
      proportion(),
    ]);
    if (now === laid) return;
    laid = now;
    whole.value = false;
    stage.value.setRig(lights.at(desk.frame) ?? answer.scene);
    stage.value.props.marks.set(marks(), chosen.all);
    stage.value.guides.set(forces(), desk.selected);
    stage.value.guides.setFocus(lens, proportion());
    const picked = marks().find((mark) => mark.id === desk.selected)?.position;
    const rows = answer.scene.rig.lamps;
    stage.value.guides.setLamps(
      rows,
      picked ? rows.findIndex((row) => [1, 2, 3].every((c) => Math.abs(row[c] - picked[c - 1]) < 1e-4)) : -1,
    );
    stage.value.props.go(desk.frame);
    void stage.value.props.set(desk.bodies, new Map(paints()), chosen.all).then(() => {
      whole.value ||= now === laid;
      follow();
      stage.value?.props.setFeeding(feeding());
      stage.value?.touch();
    });
  }

  function chamber() {
    const frames = desk.frames;
    if (frames && stage.value) stage.value.setChambers(frames.boxes, frames.voxel);
  }

  watch(() => [desk.shot, chosen.all, desk.bodies], scene);
  // What goes with something that moves is elsewhere at every frame.
  watch(
    () => desk.frame,
    () => Object.keys(desk.shot?.led ?? {}).length && !desk.playing && scene(),
  );
  watch(
    () => desk.frame,
    () => dress(desk.frame),
  );
  watch(() => desk.frames && JSON.stringify([desk.frames.boxes, desk.frames.voxel]), chamber);
  // What feeds lights up as long as nothing else shows it.
  watch(
    () => [...feeding()].join(),
    () => stage.value?.props.setFeeding(feeding()) && stage.value.touch(),
  );

  return {
    scene,
    alters,
    dress,
    chamber,
    /** Whether all props stand in the view. */
    stands: computed(() => whole.value && desk.bodied === desk.shot?.bodies),
    /** The picture's width beside its height. */
    proportion,
    /** What was moved by hand is laid out anew, whatever the shot says. */
    forget: () => (laid = ""),
  };
}
