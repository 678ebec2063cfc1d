import { beforeEach, describe, expect, it, vi } from "vitest";
import { createPinia, setActivePinia } from "pinia";
import { nextTick, reactive } from "vue";
import type { TimelineRow } from "../src/api/types";

const row = (node: string, dial: string, frames: number[], more: object = {}) =>
  ({
    node,
    dial,
    kind: node.replace(/-.*/, ""),
    name: `${dial} of ${node}`,
    keys: frames.map((frame) => ({ frame, value: frame / 10 })),
    ...more,
  }) as unknown as TimelineRow;

const desk = reactive({
  shot: { id: "one", timeline: [] as TimelineRow[] } as { id: string; timeline: TimelineRow[] },
  first: 1,
  last: 40,
  frame: 1,
  selected: null as string | null,
  timing: {
    retimeKeys: vi.fn(async () => null as string | null),
    retimeRows: vi.fn(async () => null as string | null),
    carry: vi.fn(async () => null as string | null),
  },
});
vi.mock("../src/stores/desk", () => ({ useDesk: () => desk }));

const { useTimes } = await import("../src/stores/times");

const smoke = row("source-1", "smoke", [5, 10, 20]);
const heat = row("source-1", "heat", [8, 30]);

beforeEach(() => {
  setActivePinia(createPinia());
  desk.shot = { id: "one", timeline: [smoke, heat] };
  Object.assign(desk, { frame: 1, selected: null });
  for (const call of Object.values(desk.timing)) call.mockClear().mockResolvedValue(null);
});

describe("keys that are picked", () => {
  it("are one alone, or more with Shift, and out again", () => {
    const times = useTimes();
    times.pick(smoke, 10, false);
    times.pick(heat, 8, true);
    expect(times.places.map((key) => [key.dial, key.frame])).toEqual([
      ["smoke", 10],
      ["heat", 8],
    ]);
    times.pick(heat, 8, true);
    expect(times.places).toHaveLength(1);
    times.pick(heat, 30, false);
    expect(times.places).toEqual([{ node: "source-1", dial: "heat", frame: 30 }]);
  });

  it("move together, stay in the shot and pass no other key of their row", () => {
    const times = useTimes();
    times.pick(smoke, 10, false);
    times.pick(heat, 30, true);
    times.moveTo(50);
    // The next key of smoke stands at 20, the shot ends at 40.
    expect([times.away, times.shownAt(smoke, 10), times.shownAt(smoke, 20)]).toEqual([9, 19, 20]);
    times.moveTo(-50);
    expect(times.away).toBe(-4);
    times.moveTo(2.4);
    expect(times.away).toBe(2);
  });

  it("may be copied past others, and are seen where they were meanwhile", () => {
    const times = useTimes();
    times.pick(smoke, 10, false);
    times.copying = true;
    times.moveTo(15);
    expect([times.away, times.shownAt(smoke, 10)]).toEqual([15, 10]);
  });

  it("stay picked where they were let go", async () => {
    const times = useTimes();
    times.pick(smoke, 10, false);
    times.moveTo(3);
    await times.settle();
    expect(desk.timing.retimeKeys).toHaveBeenCalledWith([{ node: "source-1", dial: "smoke", frame: 10 }], {
      by: 3,
    });
    expect([times.away, times.has(smoke, 13), times.has(smoke, 10)]).toEqual([0, true, false]);
  });

  it("go back if that was refused", async () => {
    const times = useTimes();
    desk.timing.retimeKeys.mockResolvedValue("not there");
    times.pick(smoke, 10, false);
    times.moveTo(3);
    await times.settle();
    expect([times.away, times.has(smoke, 10)]).toEqual([0, true]);
  });

  it("are moved on by what was moved while the server was asked", async () => {
    const times = useTimes();
    let answer: (wrong: string | null) => void = () => {};
    desk.timing.retimeKeys.mockImplementationOnce(() => new Promise((done) => (answer = done)));
    times.pick(smoke, 10, false);
    times.moveTo(2);
    const settled = times.settle();
    times.moveTo(5);
    void times.settle();
    desk.shot = { id: "one", timeline: [row("source-1", "smoke", [5, 12, 20]), heat] };
    answer(null);
    await settled;
    const calls = desk.timing.retimeKeys.mock.calls as unknown as [object[], { by: number }][];
    expect(calls.map(([keys, how]) => [keys, how.by])).toEqual([
      [[{ node: "source-1", dial: "smoke", frame: 10 }], 2],
      [[{ node: "source-1", dial: "smoke", frame: 12 }], 3],
    ]);
    expect(times.away).toBe(0);
  });

  it("are copied so that the first of them comes to the frame that is seen", async () => {
    const times = useTimes();
    desk.frame = 15;
    times.pick(smoke, 10, false);
    times.pick(smoke, 20, true);
    await times.copyHere();
    expect(desk.timing.carry).toHaveBeenCalledWith([
      { do: "key", node: "source-1", dial: "smoke", frame: 15, value: 1 },
      { do: "key", node: "source-1", dial: "smoke", frame: 25, value: 2 },
    ]);
  });

  it("are none in another shot", async () => {
    const times = useTimes();
    times.pick(smoke, 10, false);
    times.setLoop(3, 9);
    desk.shot = { id: "two", timeline: [smoke] };
    await nextTick();
    expect([times.places, times.loop]).toEqual([[], null]);
  });
});

describe("what is moved in time", () => {
  it("is what is picked of keys, else of rows, else all there is", () => {
    const times = useTimes();
    void times.retime({ by: 2 });
    expect(desk.timing.retimeRows).toHaveBeenLastCalledWith(
      [
        { node: "source-1", dial: "smoke" },
        { node: "source-1", dial: "heat" },
      ],
      { by: 2 },
    );
    times.picked.add("source-1.heat");
    void times.retime({ by: 2 });
    expect(desk.timing.retimeRows).toHaveBeenLastCalledWith([{ node: "source-1", dial: "heat" }], { by: 2 });
    times.pick(smoke, 5, true);
    void times.retime({ by: 2 });
    expect(desk.timing.retimeKeys).toHaveBeenCalledTimes(1);
  });

  it("is all of a thing where a row says when it acts", () => {
    desk.shot = { id: "one", timeline: [row("front-1", "acts", [], { spans: [[3, 9]] }), smoke] };
    const times = useTimes();
    expect(times.targets[0]).toEqual({ node: "front-1" });
    void times.retimeRow(desk.shot.timeline[0], 4);
    expect(desk.timing.retimeRows).toHaveBeenCalledWith([{ node: "front-1" }], { by: 4 });
  });
});

describe("what is played over and over", () => {
  it("lies within the shot, either end first, and is nothing where it is all of it", () => {
    const times = useTimes();
    times.setLoop(30, 12);
    expect(times.loop).toEqual({ from: 12, to: 30 });
    times.setLoop(-4, 20);
    expect(times.loop).toEqual({ from: 1, to: 20 });
    times.setLoop(-4, 99);
    expect(times.loop).toBeNull();
  });
});
