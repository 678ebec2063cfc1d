import { computed, onUnmounted, ref, watch, type Ref, type ShallowRef } from "vue";
import { api } from "../api/client";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import type { Stage } from "../view/stage";

/** Pixels across, and how many are kept. */
const WIDE = 960;
const KEPT = 160;

/** Through the shot's camera, the view shows the plate behind the shot.
 * @param through whether one looks through the camera; @param view pixels of the view */
export function usePlateBehind(stage: ShallowRef<Stage | null>, through: Ref<boolean>, view: Ref<number>[]) {
  const desk = useDesk();
  const catalog = useCatalog();
  const wanted = ref(true);
  const kept = new Map<string, ImageBitmap>();
  let asked: AbortController | null = null;

  const below = computed(() => {
    const layers = desk.family.layers;
    const first = layers.findIndex((one) => ["shot", "other"].includes(String(catalog.read(one, "what"))));
    return layers.slice(0, first < 0 ? undefined : first).filter((layer) => desk.counts(layer));
  });
  /** Whether there is a plate that could be shown. */
  const any = computed(() =>
    below.value.some((layer) => catalog.read(layer, "what") === "plate" && !!catalog.read(layer, "plate")),
  );
  const on = computed(() => any.value && wanted.value && through.value);
  const shape = computed(() => {
    const node = desk.byId.get("picture");
    return node ? (catalog.read(node, "width") as number) / (catalog.read(node, "height") as number) : 16 / 9;
  });
  const share = computed(() => view[0].value / shape.value / Math.max(view[1].value, 1));
  const name = () => `${desk.shot?.head}/${desk.frame}`;

  /** What the view shows; each change lets the pictures go that it keeps. */
  let shown: ImageBitmap | null = null;
  function put(picture: ImageBitmap | null) {
    if (!picture && !shown) return;
    shown = picture;
    stage.value?.setPlate(picture, share.value);
  }

  async function show() {
    if (!stage.value) return;
    if (!on.value) return put(null);
    const mine = name();
    const there = kept.get(mine);
    if (there) return put(there);
    asked?.abort();
    const { signal } = (asked = new AbortController());
    const blob = await api
      .behind(desk.shot!.id, desk.frame, [WIDE, 2 * Math.round(WIDE / shape.value / 2)], signal)
      .catch(() => null);
    if (!blob || signal.aborted) return;
    const picture = await createImageBitmap(blob, { imageOrientation: "flipY" });
    kept.set(mine, picture);
    for (const [old, gone] of kept) {
      if (kept.size <= KEPT) break;
      if (gone === shown) continue;
      gone.close();
      kept.delete(old);
    }
    if (mine === name() && on.value) put(picture);
  }

  watch([stage, on, share, () => desk.frame, () => desk.shot?.head], show);
  onUnmounted(() => {
    asked?.abort();
    for (const picture of kept.values()) picture.close();
  });

  return { any, on, wanted };
}
