import { beforeEach, expect, it, vi } from "vitest";
import { Pace } from "../src/view/pace";
import type { Levels } from "../src/view/levels";
import { drawsInSoftware } from "../src/view/software";

/** A graphics card that is done when it is told so. */
class Card {
  SYNC_GPU_COMMANDS_COMPLETE = 1;
  SYNC_STATUS = 2;
  UNSIGNALED = 3;
  done = false;
  fenceSync = () => ({});
  flush = () => undefined;
  deleteSync = () => undefined;
  getSyncParameter = () => (this.done ? 4 : this.UNSIGNALED);
}

let card: Card, level: number, pace: Pace, now: number;

beforeEach(() => {
  card = new Card();
  level = now = 0;
  vi.spyOn(performance, "now").mockImplementation(() => now);
  const levels = { coarser: () => (level += 1), finer: () => (level -= 1) };
  pace = new Pace(card as unknown as WebGL2RenderingContext, levels as unknown as Levels);
});

/** Draws a picture that is there after some turns of the screen. @param seconds of a turn */
function draw(turns: number, seconds = 1 / 60) {
  card.done = false;
  now += 1;
  pace.await(now);
  for (let turn = 1; turn <= turns; turn += 1) {
    now += 1000 * seconds;
    card.done = turn === turns;
    expect(pace.busy()).toBe(!card.done);
  }
}

it("has nothing to wait for before anything is drawn", () => {
  expect(pace.busy()).toBe(false);
});

it("waits for a picture, and is done with it once", () => {
  draw(3);
  expect(pace.busy()).toBe(false);
});

it("goes coarser after two slow pictures, and at once after a very slow one", () => {
  draw(6);
  expect(level).toBe(0);
  draw(6);
  expect(level).toBe(1);
  draw(2, 0.3);
  expect(level).toBe(2);
});

it("goes finer only after many pictures that were there by the next turn", () => {
  for (let n = 0; n < 24; n += 1) draw(1);
  expect(level).toBe(0);
  draw(1);
  expect(level).toBe(-1);
});

it("forgets slow pictures when one is neither slow nor quick", () => {
  draw(6);
  draw(2);
  draw(6);
  expect(level).toBe(0);
});

it("takes no time from what is drawn while nothing moves", () => {
  for (let n = 0; n < 4; n += 1) {
    card.done = false;
    pace.await();
    now += 1000;
    pace.busy();
    card.done = true;
    pace.busy();
  }
  expect(level).toBe(0);
});

it("is not busy while no more are being drawn than may be ahead", () => {
  pace.await();
  expect([pace.busy(), pace.busy(1)]).toEqual([true, false]);
  pace.await();
  expect([pace.busy(1), pace.busy(2)]).toEqual([true, false]);
  card.done = true;
  expect([pace.busy(), pace.waits]).toEqual([false, false]);
});

it("knows a processor that draws by the names of its drivers", () => {
  const called = (name: string) => ({
    RENDERER: 1,
    getExtension: () => ({ UNMASKED_RENDERER_WEBGL: 2 }),
    getParameter: (what: number) => (what === 2 ? name : "WebGL"),
  });
  const software = (name: string) => drawsInSoftware(called(name) as unknown as WebGL2RenderingContext);
  expect(software("ANGLE (Vendor, Vulkan 1.3.0 (SwiftShader Device (Subzero)), driver)")).toBe(true);
  expect(software("llvmpipe (LLVM 15.0.6, 256 bits)")).toBe(true);
  expect(software("ANGLE (Vendor, Graphics 770, OpenGL 4.6)")).toBe(false);
});
