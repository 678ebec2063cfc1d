import { beforeEach, describe, expect, it, vi } from "vitest";
import { createPinia, setActivePinia } from "pinia";
import { nextTick, reactive } from "vue";

const dial = { name: "smoke", label: "Smoke", type: "number", range: [0, 100] };
const node = { id: "source-1", kind: "source", name: "Plume" };
const desk = reactive({
  shot: { id: "one" } as { id: string } | null,
  byId: new Map([[node.id, node]]),
  playing: true,
  attempt: <T>(what: () => Promise<T>) => what().catch(() => null),
  announce: vi.fn(),
  edit: vi.fn(async () => null),
  run: vi.fn(async () => null),
  row: null,
});
vi.mock("../src/stores/desk", () => ({ useDesk: () => desk }));
vi.mock("../src/stores/catalog", () => ({
  useCatalog: () => ({ kind: () => ({ dials: [dial] }), value: () => 4 }),
}));
const forecast = { runs: 3, frames: 8, new: 24, seconds: 5, disk: 100, cells: 10, many: false };
const cell = (n: number) => ({
  values: [(n % 3) + 1],
  shown: [`${n}`],
  edits: [],
  rows: [],
  done: 0,
  figures: {},
});
const api = {
  strips: vi.fn(async () => [{ number: 1, dials: ["Smoke of Plume"], runs: 3, there: 0, of: 24, marked: 0 }]),
  strip: vi.fn(async (_: string, number: number, from = 0) => ({
    number,
    from,
    size: 100,
    there: 30,
    of: 24,
    axes: [{ node: "source-1", dial: "smoke", values: [1, 2, 3], shown: ["1", "2", "3"] }],
    cells: Array.from({ length: 100 }, (__, n) => (n >= from && n < from + 64 ? cell(n) : null)),
    marked: [],
    dropped: [],
    job: 7,
  })),
  foreseeStrip: vi.fn(async () => forecast),
  startStrip: vi.fn(async () => ({ strip: 2, job: 8 })),
};
vi.mock("../src/api/client", () => ({ api, Refused: class extends Error {} }));
vi.mock("../src/api/past", () => ({ past: {} }));

const { useStrip } = await import("../src/stores/strip");

beforeEach(() => {
  setActivePinia(createPinia());
  for (const call of Object.values(api)) call.mockClear();
  forecast.many = false;
});

/** Smoke is varied, and what it would cost is known. */
async function asked() {
  const strips = useStrip();
  strips.vary(node as never, dial as never);
  await strips.foresee();
  return strips;
}

describe("the strip's store", () => {
  it("runs a few at once", async () => {
    const strips = await asked();
    await strips.run();
    expect(api.startStrip).toHaveBeenCalledExactlyOnceWith("one", expect.anything(), false);
    expect(strips.strip?.number).toBe(2);
    expect(strips.asking).toBe(false);
  });

  it("asks first whether very many are meant", async () => {
    forecast.many = true;
    const strips = await asked();
    await strips.run();
    expect(strips.asking).toBe(true);
    expect(api.startStrip).not.toHaveBeenCalled();
    await strips.run();
    expect(api.startStrip).toHaveBeenCalledExactlyOnceWith("one", expect.anything(), true);
    expect(strips.asking).toBe(false);
  });

  it("asks anew after what is varied has changed", async () => {
    forecast.many = true;
    const strips = await asked();
    await strips.run();
    strips.axes = [{ ...strips.axes[0], text: "1, 2" }];
    await strips.foresee();
    expect(strips.asking).toBe(false);
    await strips.run();
    expect(api.startStrip).not.toHaveBeenCalled();
  });

  it("is set up once, however often it is asked for", async () => {
    const strips = await asked();
    let done: (made: { strip: number; job: number }) => void = () => undefined;
    api.startStrip.mockImplementationOnce(() => new Promise((ready) => (done = ready)));
    const first = strips.run();
    expect(strips.beginning).toBe(true);
    await strips.run();
    done({ strip: 2, job: 8 });
    await first;
    expect(api.startStrip).toHaveBeenCalledTimes(1);
    expect(strips.beginning).toBe(false);
  });

  it("stays at the variations that are looked at while more come", async () => {
    const strips = await asked();
    await strips.look(1, 64);
    expect(strips.strip?.from).toBe(64);
    strips.picked = 70;
    await strips.look(1);
    expect(api.strip).toHaveBeenLastCalledWith("one", 1, 64);
    expect(strips.picked).toBe(70);
    await strips.look(1, 0);
    expect(strips.picked).toBe(null);
    await strips.look(3);
    expect(api.strip).toHaveBeenLastCalledWith("one", 3, 0);
  });

  it("never tells of more frames than there will be", async () => {
    const strips = await asked();
    strips.show();
    await nextTick();
    strips.strips = [{ number: 1, of: 24, there: 0 } as never];
    await strips.look(1);
    expect(strips.strips[0].there).toBe(24);
  });

  it("refines around what is told of alone", async () => {
    const strips = await asked();
    await strips.look(1, 64);
    const before = strips.axes[0].text;
    strips.refine(3);
    expect(strips.axes[0].text).toBe(before);
    strips.refine(65);
    expect(strips.axes[0].node).toBe("source-1");
    expect(strips.axes[0].text).not.toBe(before);
  });
});
