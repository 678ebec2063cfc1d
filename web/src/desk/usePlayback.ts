import { onUnmounted, watch } from "vue";
import { useDesk } from "../stores/desk";
import type { FrameRow } from "../api/types";
import { useLive } from "../stores/live";
import { useTimes } from "../stores/times";
import { volumeName, type Volumes } from "../view/volumes";

const AHEAD = 12;
/** Screens turn a little before a frame is due as well as after it. */
const EARLY = 0.2;
/** So long a frame is waited for, ms: one that does not come must not stop all others. */
const PATIENCE = 2000;

/** Plays at the shot's rate, and has the coming frames fetched before they are due. Frames that are to be kept as
 * pictures are all drawn the first time round, however long that takes: from then on they play in time on any machine.
 * @param waits whether a frame of a row is still to be drawn and kept */
export function usePlayback(volumes: Volumes, waits: (row: FrameRow | undefined) => boolean) {
  const desk = useDesk();
  const times = useTimes();
  const live = useLive();
  /** What is played, from frame to frame. */
  const part = () => times.loop ?? { from: desk.first, to: desk.last };
  let began = 0;
  let from = 0;
  let handle = 0;
  /** Since when the frame is seen, and whether it is because the next one has not come. */
  let since = 0;
  let waited = false;

  /** Frames that did not come, and volumes that could not be fetched. */
  const given = new Set<number>();
  const failed = new Set<string>();

  const awaited = (frame: number) => !given.has(frame) && waits(desk.frames?.rows[frame - desk.first]);

  const rowOf = (frame: number) => desk.live?.rows.get(frame) ?? desk.frames?.rows[frame - desk.first];

  function ahead() {
    const count = desk.frames?.rows.length ?? 0;
    // What a live draft has not made yet is not worth fetching as it was.
    const most = live.job ? live.upto - desk.frame + 1 : AHEAD;
    for (let n = 0; n < Math.min(most, AHEAD) && volumes.busy < 4; n++) {
      const name = volumeName(rowOf(desk.first + ((desk.frame - desk.first + n) % count)));
      if (name && !volumes.has(name) && !failed.has(name)) void fetched(name);
    }
  }

  async function fetched(name: string) {
    if (!(await volumes.fetch(name))) failed.add(name);
    if (!live.job) return;
    if (volumes.has(name)) ahead();
    wake();
  }

  const step = () => 1000 / (desk.rate * times.pace);

  function there(frame: number): boolean {
    const name = volumeName(rowOf(frame));
    return !name || volumes.has(name) || failed.has(name);
  }

  /** Frame by frame as they come, no faster than the rate, and once all have, from the beginning again. */
  function asItComes(now: number): number {
    const due = Math.floor((now - since) / step() + EARLY);
    if (due < 1) return desk.frame;
    let next = desk.frame;
    if (next >= live.upto && live.upto >= desk.last) next = desk.first;
    // A wait is not made up for: nothing of what comes is left out for it.
    else for (let n = 0; n < (waited ? 1 : due) && next < live.upto && there(next + 1); n++) next += 1;
    const stays = next === desk.frame;
    if (!stays)
      since = waited ? now : Math.max(since + Math.max(next - desk.frame, 1) * step(), now - step());
    waited = stays;
    return next;
  }

  /** The frame that is due, or the one before it that is not kept yet. */
  function inTime(due: number, now: number): number {
    const { from: start, to: end } = part();
    const round = (frame: number) => start + ((frame - start) % (end - start + 1));
    const goOn = (frame: number) => ((began = now), (from = frame));
    if (awaited(desk.frame)) {
      if (now - since < PATIENCE) return goOn(desk.frame);
      given.add(desk.frame);
    }
    for (let next = from; next <= due; next++) {
      const frame = round(next);
      if (frame !== desk.frame && awaited(frame)) return goOn(frame);
    }
    return round(due);
  }

  function tick(now: number) {
    handle = 0;
    if (!desk.playing) return;
    const frame = live.job ? asItComes(now) : inTime(from + Math.floor((now - began) / step()), now);
    // What is waited for wakes it when it comes.
    if (!(live.job && waited)) wake();
    if (frame === desk.frame) return;
    if (!live.job) since = now;
    desk.frame = frame;
    ahead();
  }

  function wake() {
    if (desk.playing && !handle) handle = requestAnimationFrame(tick);
  }

  watch(
    () => desk.playing,
    (playing) => {
      cancelAnimationFrame(handle);
      handle = 0;
      if (!playing) return;
      given.clear();
      failed.clear();
      const { from: start, to: end } = part();
      if (desk.frame >= end || desk.frame < start) desk.frame = start;
      began = since = performance.now();
      from = desk.frame;
      wake();
    },
    { immediate: true },
  );

  // From where it is, on.
  watch([() => times.pace, () => times.loop], () => {
    began = performance.now();
    from = desk.frame;
    const { from: start, to: end } = part();
    if (desk.playing && (from < start || from > end)) from = desk.frame = start;
  });

  watch(
    () => live.job,
    (job) => {
      wake();
      if (!job) return;
      began = since = performance.now();
      from = desk.frame = Math.min(desk.frame, live.upto);
    },
  );
  // Fetched as soon as it is made: it is drawn at once when its turn comes.
  watch(
    () => live.job && live.upto,
    (upto) => {
      if (!upto) return;
      ahead();
      wake();
    },
  );
  watch(() => desk.frame, ahead);
  onUnmounted(() => cancelAnimationFrame(handle));
  return { ahead };
}
