import { useTimeoutFn } from "@vueuse/core";
import { computed, watch, type ShallowRef } from "vue";
import { api } from "../api/client";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { usePast } from "../stores/past";
import { useHand, type Held } from "../stores/hand";
import { useLive } from "../stores/live";
import type { Stage } from "../view/stage";
import type { Volume, Volumes } from "../view/volumes";
import { waterShape } from "../view/waters";

/** So long after a hurry pictures are still rather coarse than late, ms. */
const LINGERS = 300;

/** While a dial of a sculpt, of the light or of a liquid's surface is under the hand, the view follows it: one frame at
 * a time, of what the dial stands at by then. What cannot be followed comes when the dial is let go.
 * @param put shows such a frame
 * @param back shows the shot's own frame again */
export function useFollowing(
  stage: ShallowRef<Stage | null>,
  volumes: Volumes,
  put: (volume: Volume) => void,
  back: () => void,
) {
  const desk = useDesk();
  const catalog = useCatalog();
  const hand = useHand();
  const story = usePast();
  let busy = false;
  let deaf = "";
  let shows = false;
  const name = (held: Held) => `${held.node}.${held.dial}`;

  async function work() {
    if (busy || desk.playing || story.pair) return;
    busy = true;
    for (let held = hand.held, last: Held | null = null; held && held !== last; held = hand.held) {
      last = held;
      if (!desk.shot || name(held) === deaf) break;
      if (await follow(held)) shows = true;
      else deaf = name(held);
    }
    busy = false;
  }

  /** Shows what it stands at. @return whether it can be followed */
  async function follow(held: Held): Promise<boolean> {
    const { frame, quality } = desk;
    const asked = { frame, quality, edits: [desk.asks(held)] };
    const wanted = () => hand.held && stage.value && frame === desk.frame;
    if (wets(held)) {
      const liquid = desk.row?.liquid;
      const bytes = liquid ? await api.followWater(desk.shot!.id, { ...asked, liquid }) : null;
      if (bytes && wanted()) stage.value!.setWater(waterShape(bytes));
      return !!bytes;
    }
    const volume = await volumes.follow(desk.shot!.id, { ...asked, key: desk.row?.key ?? null });
    if (volume && wanted()) put(volume);
    return !!volume;
  }

  /** Whether a dial is one of a liquid's surface. */
  function wets(held: Held): boolean {
    const node = desk.byId.get(held.node);
    const dial = node && catalog.kind(node.kind).dials.find((one) => one.name === held.dial);
    return dial?.touches === "surface";
  }
  // Its own takes the place of what was followed as soon as there is one.
  watch(
    () => [desk.frame, desk.row?.liquid],
    () => stage.value?.setWater(null),
  );

  // What is drawn is about to be another frame: none of the machine goes into making it finer.
  const live = useLive();
  const hurried = computed(
    () => !!live.job || !!hand.held || desk.saving > 0 || (!!desk.running && desk.row?.state !== "fresh"),
  );
  watch([() => desk.playing && !live.job, stage], ([plays, made]) => made && (made.plays = plays));
  // The first of what was waited for is drawn hastily as well, however short the wait was.
  const calm = useTimeoutFn(() => stage.value && (stage.value.urgent = false), LINGERS, { immediate: false });
  watch(hurried, (now) => {
    if (!stage.value) return;
    stage.value.hurried = now;
    if (!now) return calm.start();
    calm.stop();
    stage.value.urgent = true;
  });
  watch(
    () => [hand.held, hand.kept] as const,
    ([held, kept]) => {
      if (held) return void work();
      deaf = "";
      if (shows && !kept) {
        stage.value?.setWater(null);
        back();
      }
      shows &&= kept;
    },
  );
}
