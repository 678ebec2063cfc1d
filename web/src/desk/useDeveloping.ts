import * as THREE from "three";
import { computed, onUnmounted, ref, watch, type Ref, type ShallowRef } from "vue";
import { api, Refused } from "../api/client";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import type { Stage } from "../view/stage";

/** Parts of the view's size that a picture comes in, one after the other. */
const STEPS = [0.16, 0.4, 1];
/** So long the hand must rest, milliseconds. */
const REST = 90;
const WIDEST = 1280;

/** The view as the finished picture: made by the renderer of prints through the view's own eye, coarse at first and
 * finer while the hand rests. Anything that changes begins it anew. */
export function useDeveloping(stage: ShallowRef<Stage | null>, width: Ref<number>, height: Ref<number>) {
  const desk = useDesk();
  const catalog = useCatalog();
  const on = ref(false);
  /** Whether there is fog, or a beam that is seen, which the view itself does not draw. */
  const hazy = computed(() =>
    desk.nodes.some(
      (node) =>
        !node.off &&
        (node.kind === "fog" ||
          (node.kind === "lamp" &&
            catalog.read(node, "as") === "spot" &&
            (catalog.read(node, "beam") as number) > 0)),
    ),
  );
  /** The picture so far, as an address; how far it has come, 1 for whole. */
  const picture = ref("");
  const come = ref(0);
  let asked: AbortController | null = null;
  let timer = 0;

  function stop() {
    asked?.abort();
    asked = null;
    clearTimeout(timer);
    come.value = 0;
  }

  function show(blob: Blob | null) {
    if (picture.value) URL.revokeObjectURL(picture.value);
    picture.value = blob ? URL.createObjectURL(blob) : "";
  }

  function eye() {
    const { camera } = stage.value!;
    const ahead = camera.getWorldDirection(new THREE.Vector3());
    const half = Math.tan((camera.fov * Math.PI) / 360) * camera.aspect;
    return {
      position: camera.position.toArray(),
      target: camera.position.clone().addScaledVector(ahead, 10).toArray(),
      focal: 18 / half,
    };
  }

  async function develop() {
    if (!on.value || !stage.value || !desk.shot || !width.value) return;
    const mine = (asked = new AbortController());
    stage.value.resting = true;
    const [id, frame, from] = [desk.shot.id, desk.frame, eye()];
    const whole = Math.min(width.value, WIDEST);
    try {
      for (const part of STEPS) {
        const size = [whole, (whole * height.value) / width.value].map((n) =>
          Math.max(16, Math.round(n * part)),
        );
        const blob = await api.glance(id, frame, size, from, mine.signal);
        if (mine.signal.aborted) return;
        show(blob);
        come.value = part;
      }
    } catch (error) {
      if (mine.signal.aborted || (error instanceof Refused && error.code === "cancelled")) return;
      desk.complain(error);
      on.value = false;
    }
  }

  /** What is seen is no longer so: the picture goes, and a new one comes once the hand rests. */
  function anew() {
    stop();
    show(null);
    if (stage.value) stage.value.resting = false;
    if (on.value && !desk.playing) timer = window.setTimeout(() => void develop(), REST);
  }

  watch(hazy, (now) => now && (on.value = true), { immediate: true });
  watch(
    [on, () => desk.shot, () => desk.frame, () => desk.row?.key, () => desk.playing, width, height],
    anew,
  );
  watch(stage, (now) => now?.orbit.addEventListener("change", () => on.value && anew()));
  onUnmounted(() => {
    stop();
    show(null);
  });

  return { on, picture, come };
}
