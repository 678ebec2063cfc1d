import { computed, onUnmounted, ref, watch, type Ref } from "vue";
import { api, Refused } from "../api/client";
import type { Edit } from "../api/types";
import { useCatalog } from "../stores/catalog";
import { useDesk } from "../stores/desk";
import { useHand } from "../stores/hand";

/** Pixels across at which frames are made: under the hand, and at rest. */
const QUICK = 480;
export const MOST = 1920;
/** So many frames are kept to be played. */
const KEPT = 400;

/** The finished frame, which follows dials under the hand: one picture is asked for at a time, of what counts by then.
 * Frames that were made are kept as long as the shot stays as it is, so that they play. */
export function useFinished(
  width: Ref<number>,
  full: Ref<number[]>,
  coarse: Ref<boolean>,
  part: Ref<number[] | null>,
) {
  const desk = useDesk();
  const catalog = useCatalog();
  const hand = useHand();
  const kept = new Map<string, string>();
  /** What is shown, as an address, and the frame that it is of. */
  const picture = ref("");
  const shown = ref(0);
  const busy = ref(false);
  const wrong = ref("");
  let asked: AbortController | null = null;
  let going = false;

  const size = (across: number) => {
    const wide = Math.min(across, full.value[0], MOST);
    return [wide, (wide * full.value[1]) / full.value[0]].map((n) => Math.max(16, 2 * Math.round(n / 2)));
  };
  /** At rest as many as are seen, in steps, so that a small change of the window makes none anew. */
  const rest = computed(() =>
    size(Math.max(QUICK, 160 * Math.ceil(width.value / 160)) / (coarse.value ? 2 : 1)),
  );

  const any = computed(() => desk.family.layers.some((layer) => desk.counts(layer)));

  /** What is under the hand, if the picture goes by it. */
  function held(): Edit[] {
    const now = hand.held;
    const node = now && desk.byId.get(now.node);
    const dial = node && catalog.kind(node.kind).dials.find((one) => one.name === now!.dial);
    if (!now || !node || dial?.touches !== "finish") return [];
    return [desk.asks(now)];
  }

  /** What there is of each frame's gas and liquid, by which a frame that was made is known again. */
  const made = computed(
    () => new Map(desk.frames?.rows.map((row) => [row.frame, `${row.key ?? ""}-${row.liquid ?? ""}`])),
  );
  const place = (frame: number, across: number[]) =>
    `${desk.shot?.head}/${frame}/${made.value.get(frame) ?? ""}/${across.join("x")}/${part.value?.join(" ") ?? ""}`;

  function keep(name: string, blob: Blob) {
    const url = URL.createObjectURL(blob);
    kept.set(name, url);
    for (const [old, gone] of kept) {
      if (kept.size <= KEPT) break;
      if (gone !== picture.value) URL.revokeObjectURL(gone);
      kept.delete(old);
    }
    return url;
  }

  /** The next thing to be made: what is looked at first, then frames to come. */
  function next(): { frame: number; size: number[]; edits: Edit[]; name: string } | null {
    const edits = held();
    const frame = desk.frame;
    if (edits.length) {
      const across = size(QUICK);
      return { frame, size: across, edits, name: `${place(frame, across)}/${JSON.stringify(edits)}` };
    }
    const name = place(frame, rest.value);
    if (!kept.has(name)) return { frame, size: rest.value, edits, name };
    if (!desk.playing) return null;
    const count = desk.last - desk.first + 1;
    for (let ahead = 1; ahead < count; ahead++) {
      const other = desk.first + ((frame - desk.first + ahead) % count);
      const far = place(other, rest.value);
      if (!kept.has(far)) return { frame: other, size: rest.value, edits, name: far };
    }
    return null;
  }

  async function work() {
    if (going || !any.value) return;
    going = true;
    for (let wanted = next(), last = ""; wanted && wanted.name !== last && desk.shot; wanted = next()) {
      last = wanted.name;
      const mine = (asked = new AbortController());
      busy.value = true;
      try {
        const blob = await api.finished(
          desk.shot.id,
          wanted.frame,
          wanted.size,
          wanted.edits,
          part.value,
          mine.signal,
        );
        if (mine.signal.aborted) break;
        wrong.value = "";
        const url = keep(wanted.name, blob);
        const here = wanted.frame === desk.frame && (!wanted.edits.length || held().length);
        if (here) show(url, wanted.frame);
      } catch (error) {
        if (mine.signal.aborted) break;
        wrong.value = error instanceof Refused && error.code === "cancelled" ? "" : (error as Error).message;
        break;
      }
    }
    busy.value = false;
    going = false;
  }

  function show(url: string, frame: number) {
    picture.value = url;
    shown.value = frame;
  }

  /** What is there is shown at once; the rest is made. */
  function look() {
    const there = held().length ? undefined : kept.get(place(desk.frame, rest.value));
    if (there) show(there, desk.frame);
    void work();
  }

  function forget() {
    for (const url of kept.values()) if (url !== picture.value) URL.revokeObjectURL(url);
    kept.clear();
  }

  watch(
    () => desk.shot?.head,
    () => {
      forget();
      look();
    },
  );
  const here = () => made.value.get(desk.frame);
  watch([() => desk.frame, here, () => desk.playing, rest, part, any, () => hand.held], look, {
    immediate: true,
  });
  onUnmounted(() => {
    asked?.abort();
    forget();
    if (picture.value) URL.revokeObjectURL(picture.value);
  });

  return { picture, shown, busy, wrong, any, rest };
}
