import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { effectScope, nextTick, reactive, type EffectScope } from "vue";
import type { Scene } from "../src/api/types";

const first = { film: [1], sky: [2] } as unknown as Scene;
const shot = (head: number, lights_change = true) => ({ id: "kiln", head, scene: first, lights_change });
const desk = reactive({ first: 1, last: 4, frame: 1, shot: shot(1) as ReturnType<typeof shot> | null });
/** Who waits for which frame. */
let asked: { frame: number; come: (found: Partial<Scene>) => void; fail: () => void }[] = [];
const sceneAt = vi.fn(
  (_: string, frame: number) =>
    new Promise<Partial<Scene>>((come, fail) =>
      asked.push({ frame, come, fail: () => fail(new Error("no")) }),
    ),
);
vi.mock("../src/stores/desk", () => ({ useDesk: () => desk }));
vi.mock("../src/api/client", () => ({ api: { sceneAt } }));
const { useLights } = await import("../src/desk/useLights");

describe("the light of a frame", () => {
  let scope: EffectScope;
  let lights: ReturnType<typeof useLights>;
  const come = vi.fn();

  /** The one that is waited for comes, as bright as its frame. @return which frame that was */
  async function answer(): Promise<number> {
    const one = asked.shift()!;
    one.come({ film: [10 * one.frame] } as unknown as Partial<Scene>);
    await new Promise((done) => setTimeout(done));
    return one.frame;
  }

  beforeEach(() => {
    asked = [];
    come.mockClear();
    sceneAt.mockClear();
    Object.assign(desk, { frame: 1, shot: shot(1) });
    scope = effectScope();
    lights = scope.run(() => useLights(come))!;
  });

  afterEach(() => scope.stop());

  it("is the first one's where nothing changes", async () => {
    desk.shot = shot(2, false);
    await nextTick();
    expect(lights.at(3)).toEqual(first);
  });

  it("is asked for one frame after the other, the one that is looked at first", async () => {
    expect(asked.map((one) => one.frame)).toEqual([1]);
    desk.frame = 3;
    const frames = [await answer(), await answer(), await answer(), await answer()];
    expect(frames).toEqual([1, 3, 4, 2]);
    expect(asked).toEqual([]);
    expect(lights.at(3)).toEqual({ film: [30], sky: [2] });
  });

  it("tells when one comes that was looked at without", async () => {
    expect(lights.at(1)).toEqual(first);
    await answer();
    expect(come).toHaveBeenCalledExactlyOnceWith(true);
    lights.at(3);
    await answer();
    expect(come).toHaveBeenCalledTimes(1);
    await answer();
    expect(come).toHaveBeenLastCalledWith(false);
  });

  it("stays as it was until it is known after a step, and lets go of what was asked for before", async () => {
    await answer();
    desk.shot = shot(2);
    await nextTick();
    expect(lights.at(1)?.film).toEqual([10]);
    // Of the step before: it is asked for again.
    expect(await answer()).toBe(2);
    expect(asked.map((one) => one.frame)).toEqual([1]);
  });

  it("asks again with the next step where an answer failed", async () => {
    asked.shift()!.fail();
    await new Promise((done) => setTimeout(done));
    expect(asked).toEqual([]);
    desk.shot = shot(2);
    await nextTick();
    expect(asked.map((one) => one.frame)).toEqual([1]);
  });
});
