import { beforeEach, describe, expect, it, vi } from "vitest";
import { Levels } from "../src/view/levels";
import type { Pace } from "../src/view/pace";
import { Turns } from "../src/view/turns";

let turn: ((now: number) => void) | null;
let now: number;

/** Tells what is drawn, each fine picture in two parts. */
class Told extends Turns {
  readonly told: string[] = [];
  readonly canvas = { is: "the canvas" } as unknown as HTMLCanvasElement;
  readonly levels = new Levels();
  waiting = false;
  /** So many parts may be handed over before the one that is being drawn is done. */
  ahead: number[] = [];

  constructor() {
    super();
    const pace = {
      busy: (ahead = 0) => this.waiting && (this.ahead.push(ahead), !ahead),
      await: () => {},
      wait: () => void this.told.push("wait"),
    };
    Object.defineProperty(pace, "waits", { get: () => this.waiting });
    this.pace = pace as unknown as Pace;
    this.wake();
  }

  protected sketched(corner: boolean) {
    this.told.push(corner ? "sketch" : "sketch whole");
  }

  protected *parts() {
    this.told.push("part");
    yield;
    this.told.push("last part");
  }

  protected drawOverlay() {
    this.told.push("lines");
  }
}

/** The screen's next turn, so many milliseconds later; nothing where none is asked for. */
function pass(later = 16) {
  now += later;
  vi.setSystemTime(now);
  const due = turn;
  turn = null;
  due?.(now);
  return !!due;
}

beforeEach(() => {
  vi.useFakeTimers();
  now = 1000;
  vi.setSystemTime(now);
  vi.spyOn(performance, "now").mockImplementation(() => now);
  turn = null;
  vi.stubGlobal("requestAnimationFrame", (due: (at: number) => void) => ((turn = due), 1));
});

describe("turns of the screen", () => {
  it("draws what has changed, then finely once nothing moves, and asks for no more", () => {
    const stage = new Told();
    pass();
    expect(stage.told).toEqual(["sketch", "lines"]);
    expect(stage.resolution).toBe(stage.levels.smoke);
    pass();
    expect(stage.told).toHaveLength(2);
    pass(1000);
    expect(stage.told.slice(2)).toEqual(["part"]);
    pass();
    expect(stage.told.slice(3)).toEqual(["last part", "lines"]);
    expect(stage.resolution).toBe(1);
    expect(turn).toBe(null);
  });

  it("wakes for a change, and for what lies over it no longer", () => {
    const stage = new Told();
    while (turn) pass(1000);
    const before = stage.told.length;
    stage.covered = true;
    pass();
    stage.next();
    pass();
    expect([stage.told.length, turn]).toEqual([before, null]);
    stage.covered = false;
    pass();
    expect(stage.told.slice(before)).toEqual(["sketch", "lines"]);
  });

  it("draws aside under what lies over it, and gives that up for anything else", () => {
    const stage = new Told();
    while (turn) pass(1000);
    stage.covered = true;
    const done = vi.fn();
    stage.drawAside(done);
    while (turn) pass();
    expect(done).toHaveBeenCalledWith(stage.canvas);
    expect(stage.giveUpAside()).toBe(false);
    stage.drawAside(done);
    expect(stage.giveUpAside()).toBe(true);
    while (turn) pass();
    expect(done).toHaveBeenCalledTimes(1);
  });

  it("leaves a picture coarse while the next one is on its way, or something finer lies over it", () => {
    const stage = new Told();
    stage.hurried = true;
    while (turn) pass(1000);
    expect(stage.told).toEqual(["sketch", "lines"]);
    stage.resting = true;
    stage.hurried = false;
    while (turn) pass(1000);
    expect(stage.told).toEqual(["sketch", "lines"]);
    stage.resting = false;
    while (turn) pass(1000);
    expect(stage.told.slice(2)).toEqual(["part", "last part", "lines"]);
  });

  it("waits for a picture while frames play, and draws once more what was drawn in a hurry", () => {
    const stage = new Told();
    stage.plays = true;
    stage.urgent = true;
    pass();
    expect([stage.told, stage.hasty]).toEqual([["sketch", "lines", "wait"], true]);
    stage.urgent = false;
    pass();
    expect(stage.told.slice(3)).toEqual(["sketch", "lines", "wait"]);
  });

  it("draws finely at once where playing is stopped, and waits again for what moves after that", () => {
    const stage = new Told();
    stage.plays = true;
    pass();
    pass();
    expect(stage.told).toEqual(["sketch", "lines", "wait"]);
    stage.plays = false;
    pass();
    pass();
    expect(stage.told.slice(3)).toEqual(["part", "last part", "lines"]);
    stage.next();
    pass();
    pass(100);
    expect(stage.told.slice(6)).toEqual(["sketch", "lines"]);
  });

  it("waits where something is turned right after playing was stopped", () => {
    const stage = new Told();
    stage.covered = true;
    stage.plays = true;
    pass();
    stage.plays = false;
    stage.covered = false;
    stage.next(true);
    pass();
    pass(100);
    expect(stage.told).toEqual(["sketch", "lines"]);
    pass(1000);
    expect(stage.told.slice(2)).toEqual(["part"]);
  });

  it("hands nothing over before what was is drawn", () => {
    const stage = new Told();
    stage.waiting = true;
    expect([pass(), pass(), pass()]).toEqual([true, true, true]);
    expect(stage.told).toEqual([]);
    stage.waiting = false;
    pass();
    expect(stage.told).toEqual(["sketch", "lines"]);
  });

  it("hands over one part of a fine picture ahead, and nothing ahead of a change", () => {
    const stage = new Told();
    pass();
    pass(1000);
    expect(stage.told.slice(2)).toEqual(["part"]);
    stage.waiting = true;
    pass();
    expect(stage.told.slice(3)).toEqual(["last part", "lines"]);
    stage.waiting = false;
    stage.next();
    pass();
    pass(1000);
    stage.waiting = true;
    stage.next();
    pass();
    expect(stage.ahead).toEqual([1, 0]);
    expect(stage.told.slice(-1)).toEqual(["part"]);
  });

  it("draws at once for who asks, whole or as things are while they move", () => {
    const stage = new Told();
    expect(stage.sketch()).toBe(stage.canvas);
    expect(stage.snap()).toBe(stage.canvas);
    expect(stage.told).toEqual(["sketch whole", "lines", "wait", "part", "last part"]);
  });
});
