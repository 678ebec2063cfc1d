import { onUnmounted, watch } from "vue";
import { api } from "../api/client";
import type { Scene } from "../api/types";
import { useDesk } from "../stores/desk";

/** What lights the shot at the frame where the desk stands, as the server tells it frame by frame where that changes.
 * @param come called when it has come for a frame that was looked at without */
export function useLights(come: (seen: boolean) => void) {
  const desk = useDesk();
  /** What is another than at the first frame, by the frame; of which shot, after which step. */
  let known = new Map<number, Partial<Scene>>();
  /** The same before the last step, as long as that of now has not come. */
  let before = known;
  let edition = "";
  let asking = false;
  let gone = false;
  const missed = new Set<number>();

  const now = () => `${desk.shot?.id} ${desk.shot?.head}`;

  /** Light, look and film of a frame; as far as that is known, or else as they were last. */
  function at(frame: number): Scene | null {
    if (!desk.shot) return null;
    const { scene, lights_change } = desk.shot;
    if (!lights_change) return scene;
    if (edition === now() && !known.has(frame)) missed.add(frame);
    return { ...scene, ...(known.get(frame) ?? before.get(frame)) };
  }

  /** The next frame that is not known: the one that is looked at, then those after it, round and round. */
  function next(): number | null {
    const count = desk.last - desk.first + 1;
    for (let n = 0; n < count; n++) {
      const frame = desk.first + ((desk.frame - desk.first + n) % count);
      if (!known.has(frame)) return frame;
    }
    return null;
  }

  async function ask() {
    if (asking || gone || !desk.shot?.lights_change) return;
    asking = true;
    try {
      for (let frame = next(); frame !== null && !gone && desk.shot; frame = next()) {
        const of = now();
        const found = await api.sceneAt(desk.shot.id, frame);
        if (of !== now() || of !== edition) continue;
        known.set(frame, found);
        if (missed.delete(frame)) come(frame === desk.frame);
      }
    } catch {
      // The view stays as it is lit on the first frame; the next change asks again.
    } finally {
      asking = false;
    }
  }

  watch(
    () => desk.shot,
    () => {
      if (edition === now()) return;
      edition = now();
      before = known;
      known = new Map();
      missed.clear();
      void ask();
    },
    { immediate: true },
  );
  onUnmounted(() => (gone = true));

  return { at };
}
