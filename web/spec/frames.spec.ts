import { beforeEach, describe, expect, it, vi } from "vitest";
import { ref, shallowRef } from "vue";
import type { FrameRow, FramesAnswer, Job, ShotAnswer } from "../src/api/types";

const asked = { frames: vi.fn(), light: vi.fn(async () => undefined) };
class Refused extends Error {
  constructor(
    message: string,
    public code: string,
  ) {
    super(message);
  }
}
vi.mock("../src/api/client", () => ({ api: asked, Refused }));
const { useFrames } = await import("../src/stores/frames");

const row = (frame: number, more: Partial<FrameRow> = {}): FrameRow => ({
  frame,
  state: "fresh",
  key: `key-${frame}`,
  light: "noon",
  lit: true,
  ...more,
});
const list = (rows: FrameRow[], more: object = {}) =>
  ({ quality: "draft", run: 1, rows, ...more }) as unknown as FramesAnswer;
const later = <T>() => {
  let done: (value: T) => void = () => {};
  return { promise: new Promise<T>((resolve) => (done = resolve)), done: (value: T) => done(value) };
};

describe("the frames of a shot", () => {
  const shot = shallowRef<ShotAnswer | null>(null);
  const jobs = ref(new Map<number, Job>());
  const running = ref<Job | undefined>();
  const complain = vi.fn();
  const film = () => useFrames(shot, { jobs, running }, complain);

  beforeEach(() => {
    shot.value = { id: "one" } as ShotAnswer;
    jobs.value = new Map();
    running.value = undefined;
    asked.frames.mockReset();
    asked.light.mockClear();
    complain.mockReset();
  });

  it("are those of the last list that was asked for, whichever comes first", async () => {
    const { frames, loadFrames } = film();
    const [early, late] = [later<FramesAnswer>(), later<FramesAnswer>()];
    asked.frames.mockReturnValueOnce(early.promise).mockReturnValueOnce(late.promise);
    const both = [loadFrames(), loadFrames()];
    late.done(list([row(1, { key: "new" })]));
    await both[1];
    early.done(list([row(1, { key: "old" })]));
    await both[0];
    expect(frames.value?.rows[0].key).toBe("new");
  });

  it("have what was told of one while a list was under way", async () => {
    const { frames, loadFrames, patch } = film();
    const answer = later<FramesAnswer>();
    asked.frames.mockReturnValueOnce(answer.promise);
    const loaded = loadFrames();
    patch(2, { key: "told", state: "fresh", lit: true }, 1);
    answer.done(list([row(1), row(2, { state: "stale" })]));
    await loaded;
    expect(frames.value?.rows[1]).toMatchObject({ key: "told", state: "fresh", light: "noon" });
  });

  it("take nothing from a run that another one has taken the place of", async () => {
    const { frames, loadFrames, patch } = film();
    asked.frames.mockResolvedValue(list([row(1)], { run: 4 }));
    await loadFrames();
    patch(1, { key: "of before" }, 3);
    expect(frames.value?.rows[0].key).toBe("key-1");
    patch(1, { key: "of now" }, 4);
    expect(frames.value?.rows[0].key).toBe("of now");
    patch(9, { key: "nowhere" }, 4);
    expect(frames.value?.rows).toHaveLength(1);
  });

  it("keep those that stay as they are, so that nothing is drawn anew for them", async () => {
    const { frames, loadFrames } = film();
    asked.frames.mockImplementation(async () => list([row(1), row(2)]));
    await loadFrames();
    const before = frames.value?.rows[1];
    asked.frames.mockImplementation(async () => list([row(1, { key: "other" }), row(2)]));
    await loadFrames();
    expect(frames.value?.rows[1]).toBe(before);
  });

  it("hold the frame that is looked at within the shot", async () => {
    const { frame, loadFrames, go, first, last } = film();
    asked.frames.mockResolvedValue(list([row(5), row(6), row(7)]));
    await loadFrames();
    expect([frame.value, first.value, last.value]).toEqual([5, 5, 7]);
    go(6.6);
    expect(frame.value).toBe(7);
    go(-3);
    expect(frame.value).toBe(5);
  });

  it("are lit again where no lamp has lit them, unless that goes on or a run does it", async () => {
    const { loadFrames } = film();
    asked.frames.mockResolvedValue(list([row(1), row(2, { lit: false })]));
    running.value = { id: 3 } as Job;
    await loadFrames();
    expect(asked.light).not.toHaveBeenCalled();
    running.value = undefined;
    jobs.value = new Map([[4, { id: 4, kind: "light", state: "running" } as Job]]);
    await loadFrames();
    expect(asked.light).not.toHaveBeenCalled();
    jobs.value = new Map();
    await loadFrames();
    expect(asked.light).toHaveBeenCalledWith("one", "draft", 1);
  });

  it("are seen as a draft has them that follows the hand, until its own are there again", async () => {
    const { frames, live, row: seen, loadFrames, patch } = film();
    asked.frames.mockResolvedValue(list([row(1, { state: "stale" })]));
    await loadFrames();
    live.value = { rows: new Map([[1, row(1, { key: "under the hand" })]]), over: false };
    expect(seen.value?.key).toBe("under the hand");
    live.value = { ...live.value, over: true };
    expect(seen.value?.key).toBe("under the hand");
    patch(1, { state: "fresh", key: "its own" });
    expect([seen.value?.key, frames.value?.rows[0].key]).toEqual(["its own", "its own"]);
  });

  it("say what went wrong, but not that nobody answers, which the desk says itself", async () => {
    const { loadFrames } = film();
    asked.frames.mockRejectedValueOnce(new Refused("no answer", "unreachable"));
    await loadFrames();
    expect(complain).not.toHaveBeenCalled();
    asked.frames.mockRejectedValueOnce(new Refused("There is no such shot.", "unknown_shot"));
    await loadFrames();
    expect(complain).toHaveBeenCalledTimes(1);
  });

  it("of another shot are not taken for this one's", async () => {
    const { frames, loadFrames } = film();
    const answer = later<FramesAnswer>();
    asked.frames.mockReturnValueOnce(answer.promise);
    const loaded = loadFrames();
    shot.value = { id: "two" } as ShotAnswer;
    answer.done(list([row(1)]));
    await loaded;
    expect(frames.value).toBeNull();
  });
});
