import { beforeEach, describe, expect, it, vi } from "vitest";
import { reactive, ref } from "vue";
import type { TimelineRow } from "../src/api/types";

const desk = reactive({ first: 1, last: 101, frame: 51, selected: null as string | null });
const times = reactive({
  view: null as { from: number; to: number } | null,
  words: "",
  only: [] as string[],
  rows: [] as unknown as TimelineRow[],
  folded: new Set<string>(),
  open: new Set<string>(),
});
vi.mock("../src/stores/desk", () => ({ useDesk: () => desk }));
vi.mock("../src/stores/times", () => ({
  useTimes: () => times,
  nameOf: (row: { node: string; dial: string }) => `${row.node}.${row.dial}`,
}));
vi.mock("../src/stores/catalog", () => ({
  useCatalog: () => ({ kind: (name: string) => ({ plural: `${name}s` }) }),
}));

const { useTimeAxis } = await import("../src/timeline/useTimeAxis");
const { useTimeLines, LANE, OPEN } = await import("../src/timeline/useTimeLines");

const wheel = (more: object) =>
  ({ deltaX: 0, deltaY: 0, preventDefault: vi.fn(), ...more }) as unknown as WheelEvent;
const key = (name: string) =>
  ({ key: name, preventDefault: vi.fn(), stopPropagation: vi.fn() }) as unknown as KeyboardEvent;

describe("the axis of time", () => {
  // Six pixels are free at both ends.
  const axis = useTimeAxis(ref(212));

  beforeEach(() => {
    Object.assign(desk, { first: 1, last: 101, frame: 51 });
    times.view = null;
  });

  it("shows all frames at first, and finds places and frames both ways", () => {
    expect([axis.from.value, axis.to.value, axis.x(1), axis.x(101)]).toEqual([1, 101, 6, 206]);
    expect([axis.frameAt(106), axis.frames(20)]).toEqual([51, 10]);
    for (const frame of [1, 33.5, 101]) expect(axis.frameAt(axis.x(frame))).toBeCloseTo(frame, 10);
  });

  it("comes nearer about a frame that stays where it is", () => {
    const place = axis.x(30);
    axis.zoom(0.5, 30);
    expect(axis.x(30)).toBeCloseTo(place, 8);
    expect(axis.to.value - axis.from.value).toBeCloseTo(50, 8);
    axis.zoom(100);
    expect(times.view).toBeNull();
  });

  it("never shows fewer than four frames, nor any outside of the shot", () => {
    for (let n = 0; n < 40; n++) axis.zoom(0.5, 101);
    expect([axis.from.value, axis.to.value]).toEqual([97, 101]);
    axis.pan(-500);
    expect([axis.from.value, axis.to.value]).toEqual([1, 5]);
  });

  it("goes by the wheel: with Ctrl nearer, sideways along, otherwise not at all", () => {
    const near = wheel({ ctrlKey: true, deltaY: -300 });
    axis.wheel(near, 106);
    expect(axis.to.value - axis.from.value).toBeLessThan(60);
    expect(near.preventDefault).toHaveBeenCalled();
    const { from } = times.view!;
    axis.wheel(wheel({ shiftKey: true, deltaY: 20 }), 106);
    expect(times.view!.from).toBeGreaterThan(from);
    const up = wheel({ deltaY: 40 });
    axis.wheel(up, 106);
    expect(up.preventDefault).not.toHaveBeenCalled();
  });

  it("goes by keys, and leaves those that it does not know", () => {
    expect(axis.keys(key("+"))).toBe(true);
    expect(axis.to.value - axis.from.value).toBeCloseTo(70, 8);
    axis.keys(key("PageUp"));
    expect(axis.from.value).toBe(1);
    axis.keys(key("*"));
    expect(times.view).toBeNull();
    expect(axis.keys(key("a"))).toBe(false);
  });
});

describe("the rows of the timeline", () => {
  const row = (kind: string, n: number, more: object = {}) =>
    ({
      kind,
      node: `${kind}-${n}`,
      dial: "size",
      name: `${kind} ${n}, size`,
      keys: [],
      ...more,
    }) as unknown as TimelineRow;
  const lines = useTimeLines(ref(0), ref(100));

  beforeEach(() =>
    Object.assign(times, { words: "", only: [], rows: [], folded: new Set(), open: new Set() }),
  );

  it("stand without headings as long as they are few", () => {
    times.rows = [row("prop", 1), row("lamp", 1)];
    expect(lines.lines.value.map(({ kind, top }) => [kind, top])).toEqual([
      ["row", 0],
      ["row", LANE],
    ]);
    expect(lines.total.value).toBe(2 * LANE);
  });

  it("stand in groups that fold, and open to curves where they have any", () => {
    times.rows = [1, 2, 3, 4].flatMap((n) => [row("prop", n, { slopes: [] }), row("lamp", n)]);
    expect(
      lines.lines.value.filter(({ kind }) => kind === "group").map((line) => "label" in line && line.label),
    ).toEqual(["props", "lamps"]);
    times.folded = new Set(["prop"]);
    expect(lines.lines.value).toHaveLength(6);
    times.folded = new Set();
    times.open = new Set(["prop-1.size", "lamp-1.size"]);
    const heights = lines.lines.value.filter(({ kind }) => kind === "row").map(({ height }) => height);
    expect(heights.filter((height) => height === OPEN)).toHaveLength(1);
  });

  it("are found by words, by what is keyed, and by what is picked", () => {
    times.rows = [
      row("prop", 1),
      row("prop", 2, { keys: [{ frame: 1 }] }),
      row("lamp", 1, { formula: "frame" }),
    ];
    times.words = "LAMP";
    expect(lines.shown.value.map(({ node }) => node)).toEqual(["lamp-1"]);
    Object.assign(times, { words: "", only: ["keys"] });
    expect(lines.shown.value.map(({ node }) => node)).toEqual(["prop-2", "lamp-1"]);
    times.only = ["picked"];
    desk.selected = "prop-1";
    expect(lines.shown.value.map(({ node }) => node)).toEqual(["prop-1"]);
  });

  it("are drawn only where they are seen", () => {
    times.rows = Array.from({ length: 60 }, (_, n) => row("prop", n));
    expect(lines.lines.value).toHaveLength(60);
    expect(lines.seen.value.length).toBeLessThan(10);
  });
});
