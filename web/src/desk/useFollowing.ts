import { refDebounced } from "@vueuse/core";
import { computed, watch, type ShallowRef } from "vue";
import { useDesk } from "../stores/desk";
import { usePast } from "../stores/past";
import { useHand, type Held } from "../stores/hand";
import { useLive } from "../stores/live";
import type { Stage } from "../view/stage";
import type { Volume, Volumes } from "../view/volumes";

/** So long after a hurry pictures are still rather coarse than late, ms. */
const LINGERS = 300;

/** While a dial of a sculpt or of the light is under the hand, the view follows it: one frame at a time, of what the
 * dial stands at by then. What cannot be followed comes when the dial is let go.
 * @param put shows such a frame
 * @param back shows the shot's own frame again */
export function useFollowing(
  stage: ShallowRef<Stage | null>,
  volumes: Volumes,
  put: (volume: Volume) => void,
  back: () => void,
) {
  const desk = useDesk();
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
      const volume = await volumes.follow(desk.shot.id, {
        frame: desk.frame,
        quality: desk.quality,
        key: desk.row?.key ?? null,
        edits: [desk.asks(held)],
      });
      if (!volume) deaf = name(held);
      else if (hand.held && stage.value) {
        put(volume);
        shows = true;
      }
    }
    busy = false;
  }

  // What is drawn is about to be another frame: none of the machine goes into making it finer.
  const live = useLive();
  const hurried = computed(
    () => !!live.job || !!hand.held || desk.saving > 0 || (!!desk.running && desk.row?.state !== "fresh"),
  );
  watch(hurried, (now) => stage.value && (stage.value.hurried = now));
  // The first of what was waited for is drawn hastily as well.
  watch([hurried, refDebounced(hurried, LINGERS)], ([now, before]) => {
    if (stage.value) stage.value.urgent = now || before;
  });
  watch(
    () => [hand.held, hand.kept] as const,
    ([held, kept]) => {
      if (held) return void work();
      deaf = "";
      if (shows && !kept) back();
      shows &&= kept;
    },
  );
}
