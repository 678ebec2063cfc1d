import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { effectScope, nextTick, reactive, type EffectScope } from "vue";
import type { FrameRow } from "../src/api/types";

const rows = Array.from({ length: 6 }, (_, n) => ({
  frame: n + 1,
  key: `k${n + 1}`,
  light: "noon",
  lit: true,
}));
const desk = reactive({
  first: 1,
  last: 6,
  frame: 1,
  rate: 10,
  playing: false,
  frames: { rows: rows as unknown as FrameRow[] },
});
const live = reactive({ job: null as number | null, upto: 1 });
const times = reactive({ pace: 1, loop: null as { from: number; to: number } | null });
vi.mock("../src/view/volumes", () => ({ volumeName: (row?: FrameRow) => row?.key ?? null }));
vi.mock("../src/stores/desk", () => ({ useDesk: () => desk }));
vi.mock("../src/stores/live", () => ({ useLive: () => live }));
vi.mock("../src/stores/times", () => ({ useTimes: () => times }));
const { usePlayback } = await import("../src/desk/usePlayback");

describe("playing", () => {
  /** Frames whose pictures are kept. */
  let kept = new Set<number>();
  let scope: EffectScope;
  let now = 0;
  let turn: ((now: number) => void) | null = null;
  /** Volumes that are not there yet. */
  const missing = new Set<string>();
  const volumes = {
    busy: 0,
    has: (name: string) => !missing.has(name),
    fetch: vi.fn(async (): Promise<object | null> => ({})),
  };
  const waits = (row: FrameRow | undefined) => !!row && !kept.has(row.frame);

  /** The screen turns every 50 ms. @return the frames that are seen */
  function turns(count: number): number[] {
    return Array.from({ length: count }, () => {
      now += 50;
      const due = turn;
      turn = null;
      due?.(now);
      return desk.frame;
    });
  }

  async function play() {
    desk.playing = true;
    await nextTick();
  }

  beforeEach(async () => {
    now = 1000;
    kept = new Set([1, 2, 3, 4, 5, 6]);
    missing.clear();
    volumes.fetch.mockClear();
    vi.stubGlobal("requestAnimationFrame", (act: (now: number) => void) => ((turn = act), 1));
    vi.stubGlobal("cancelAnimationFrame", () => (turn = null));
    vi.spyOn(performance, "now").mockImplementation(() => now);
    Object.assign(desk, { frame: 1, rate: 10, playing: false });
    Object.assign(live, { job: null, upto: 1 });
    Object.assign(times, { pace: 1, loop: null });
    scope = effectScope();
    scope.run(() => usePlayback(volumes as never, waits));
    await nextTick();
  });

  afterEach(() => {
    scope.stop();
    vi.unstubAllGlobals();
    vi.restoreAllMocks();
  });

  it("goes at the shot's rate, round and round", async () => {
    await play();
    expect(turns(14)).toEqual([1, 2, 2, 3, 3, 4, 4, 5, 5, 6, 6, 1, 1, 2]);
  });

  it("leaves frames out where the screen turns late, so that it stays in time", async () => {
    desk.rate = 40;
    await play();
    expect(turns(4)).toEqual([3, 5, 1, 3]);
  });

  it("goes faster or slower, from where it is", async () => {
    await play();
    turns(3);
    times.pace = 2;
    await nextTick();
    expect(turns(3)).toEqual([3, 4, 5]);
  });

  it("plays a part over and over", async () => {
    times.loop = { from: 3, to: 4 };
    await play();
    expect(turns(6)).toEqual([3, 4, 4, 3, 3, 4]);
  });

  it("waits for every frame that is to be kept, and is in time the next time round", async () => {
    kept.clear();
    desk.rate = 40;
    await play();
    expect(turns(4)).toEqual([1, 1, 1, 1]);
    kept.add(1);
    expect(turns(3)).toEqual([2, 2, 2]);
    for (const frame of [2, 3, 4, 5, 6]) {
      kept.add(frame);
      turns(2);
    }
    expect(kept.has(desk.frame)).toBe(true);
    const [one, two] = turns(2);
    expect((two - one + 6) % 6).toBe(2);
  });

  it("stops at the first one that is missing, not at the one that is due", async () => {
    kept.delete(2);
    desk.rate = 100;
    await play();
    expect(turns(1)).toEqual([2]);
  });

  it("gives one up that does not come", async () => {
    kept.delete(1);
    await play();
    expect(turns(30).every((frame) => frame === 1)).toBe(true);
    const after = turns(60).slice(15);
    expect(after.filter((frame) => frame === 1).length).toBeLessThan(10);
  });

  it("does not run ahead of a draft that is being made", async () => {
    kept.clear();
    live.upto = 3;
    await play();
    live.job = 7;
    await nextTick();
    expect(Math.max(...turns(20))).toBeLessThanOrEqual(3);
    live.upto = 6;
    await nextTick();
    turns(1);
    expect(Math.max(...turns(10))).toBe(6);
  });

  it("shows each frame of such a draft once it is here, no faster than the rate", async () => {
    live.upto = 1;
    desk.rate = 20;
    await play();
    live.job = 7;
    await nextTick();
    live.upto = 4;
    await nextTick();
    expect(turns(3)).toEqual([2, 3, 4]);
    // Made, but still on its way: what comes after it waits as well.
    missing.add("k5");
    let arrive = () => {};
    volumes.fetch.mockReturnValueOnce(new Promise((done) => (arrive = () => done({}))));
    live.upto = 6;
    await nextTick();
    expect(volumes.fetch).toHaveBeenCalledWith("k5");
    expect(turns(3)).toEqual([4, 4, 4]);
    // Nothing is asked of the screen until it comes.
    expect(turn).toBe(null);
    missing.clear();
    arrive();
    await nextTick();
    await nextTick();
    expect(turns(2)).toEqual([5, 6]);
    // All are there: from the beginning again, and on.
    expect(turns(3)).toEqual([1, 2, 3]);
  });

  it("fetches nothing that such a draft is about to make anew", async () => {
    [2, 3, 4, 5, 6].forEach((frame) => missing.add(`k${frame}`));
    live.upto = 2;
    live.job = 8;
    await nextTick();
    expect(volumes.fetch.mock.calls.flat()).toEqual(["k2"]);
  });

  it("goes on without one that cannot be fetched", async () => {
    await play();
    live.job = 7;
    missing.add("k2");
    volumes.fetch.mockResolvedValueOnce(null);
    live.upto = 3;
    await nextTick();
    await nextTick();
    expect(Math.max(...turns(8))).toBe(3);
  });
});
