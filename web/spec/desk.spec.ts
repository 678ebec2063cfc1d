import { beforeEach, describe, expect, it, vi } from "vitest";
import { createPinia, setActivePinia } from "pinia";
import { computed, reactive, ref } from "vue";
import type { ShotNode } from "../src/api/types";

const node = (id: string, kind: string, name = id, dials: object = {}, more: object = {}) =>
  ({ id, kind, name, dials, ...more }) as unknown as ShotNode;

const desk = reactive({
  nodes: [] as ShotNode[],
  byId: new Map<string, ShotNode>(),
  selected: null as string | null,
  prints: [] as object[],
  chapter: "",
  first: 1,
  frame: 1,
  shot: null as unknown,
  family: {
    owner: (one: ShotNode) => desk.byId.get(String(one.dials.to ?? "")),
    marksOver: () => [] as ShotNode[],
  },
  edit: vi.fn(),
});
const dials = [
  { name: "size", label: "Size", help: "How large it is." },
  { name: "smoke", label: "Smoke" },
  { name: "hidden", label: "Hidden" },
];
const catalog = {
  kind: (name: string) => ({ name, label: name, help: "", single: name === "camera", dials }),
  applies: (_: unknown, dial: { name: string }) => dial.name !== "hidden",
  read: (one: ShotNode, dial: string) => (one.dials as Record<string, unknown>)[dial] ?? null,
};
vi.mock("../src/stores/desk", () => ({ useDesk: () => desk }));
vi.mock("../src/stores/catalog", () => ({ useCatalog: () => catalog }));
vi.mock("../src/stores/past", () => ({
  usePast: () => ({ runs: [{ number: 3, quality: "draft", changed: "Size" }], kept: new Map() }),
}));
vi.mock("../src/desk/useOpening", () => ({ useOpening: () => opened }));
const opened = vi.fn();

const { useFinds } = await import("../src/desk/useFinds");
const { driftOf } = await import("../src/desk/spotOf");
const { useChosen } = await import("../src/stores/chosen");

function put(...nodes: ShotNode[]) {
  desk.nodes = nodes;
  desk.byId = new Map(nodes.map((one) => [one.id, one]));
}

beforeEach(() => {
  setActivePinia(createPinia());
  Object.assign(desk, { selected: null, prints: [], frame: 1, shot: null });
  desk.edit.mockReset();
  opened.mockReset();
});

describe("finding by name", () => {
  const words = ref("");
  const commands = [{ label: "Smoke the whole house", key: "S", act: vi.fn() }];
  const find = () => useFinds(words, { commands, print: vi.fn(), run: vi.fn() });
  const names = () => computed(() => find().value.map(({ id }) => id)).value;

  beforeEach(() => {
    put(node("source-1", "source", "Ember"), node("source-2", "source", "Smoke of the kiln"));
    words.value = "";
  });

  it("puts what is called just so first, then what begins so, then what has it anywhere", () => {
    words.value = "smoke";
    expect(names()).toEqual([
      "source-1.smoke",
      "source-2.smoke",
      "do Smoke the whole house",
      "source-2",
      "source-2.size",
    ]);
  });

  it("prefers what belongs to the card that is open", () => {
    words.value = "size";
    expect(names()[0]).toBe("source-1.size");
    desk.selected = "source-2";
    expect(names()[0]).toBe("source-2.size");
  });

  it("asks for every word, of the thing as well, and finds no dial that is not there to be seen", () => {
    words.value = "size kiln";
    expect(names()).toEqual(["source-2.size"]);
    words.value = "hidden";
    expect(names()).toEqual([]);
  });

  it("finds prints, runs and chapters, and goes there", () => {
    desk.prints = [{ number: 4, name: "", note: "", frame: 12, changed: "Smoke" }];
    words.value = "p4";
    expect(names()).toContain("print 4");
    words.value = "r3";
    expect(names()).toContain("run 3");
    words.value = "smoke ember";
    find().value[0].go();
    expect(opened).toHaveBeenCalledWith("source-1", "smoke");
  });
});

describe("what a mask goes with", () => {
  const shot = (timeline: object[] = []) => ({
    timeline,
    eye: [],
    scene: { camera: { position: [0, 0, 4], target: [0, 0, 0], focal: 36 } },
  });

  it("goes as a tracked spot does, in parts of the picture", () => {
    put(node("mask", "mask", "mask", { follows: "spot" }), node("spot", "track"));
    desk.shot = shot([
      { node: "spot", dial: "x", values: [20, 50] },
      { node: "spot", dial: "y", values: [10, 5] },
    ]);
    desk.frame = 2;
    const drift = driftOf(desk as never, catalog as never, desk.nodes[0], 16 / 9);
    expect(drift[0]).toBeCloseTo(0.3, 10);
    expect(drift[1]).toBeCloseTo(-0.05, 10);
  });

  it("goes as a prop is seen by the camera, up being up whatever the picture's shape", () => {
    put(node("mask", "mask", "mask", { follows: "ball" }), node("ball", "prop"));
    desk.shot = shot([
      {
        node: "ball",
        dial: "position",
        values: [
          [0, 0, 0],
          [1, 1, 0],
        ],
      },
    ]);
    desk.frame = 2;
    // A lens of 36 mm sees as wide as far: 4 m wide at 4 m.
    const drift = driftOf(desk as never, catalog as never, desk.nodes[0], 2);
    expect(drift[0]).toBeCloseTo(0.25, 10);
    expect(drift[1]).toBeCloseTo(-0.5, 10);
  });

  it("stays where there is nothing to go with, or that goes with something else, or is behind the camera", () => {
    put(node("mask", "mask", "mask", { follows: "ball" }));
    desk.shot = shot();
    expect(driftOf(desk as never, catalog as never, desk.nodes[0], 1)).toEqual([0, 0]);
    put(desk.nodes[0], node("ball", "prop", "ball", { leader: "cart" }));
    expect(driftOf(desk as never, catalog as never, desk.nodes[0], 1)).toEqual([0, 0]);
    put(desk.nodes[0], node("ball", "prop"));
    desk.shot = shot([
      {
        node: "ball",
        dial: "position",
        values: [
          [0, 0, 9],
          [1, 1, 9],
        ],
      },
    ]);
    expect(driftOf(desk as never, catalog as never, desk.nodes[0], 1)).toEqual([0, 0]);
  });
});

describe("several things that are chosen", () => {
  beforeEach(() =>
    put(
      node("a", "prop"),
      node("b", "prop"),
      node("c", "prop"),
      node("step", "operation", "step", { to: "a" }),
      node("camera", "camera"),
    ),
  );

  it("are taken in and out, the pick moving on to another of them", () => {
    const chosen = useChosen();
    chosen.toggle("a");
    chosen.toggle("b");
    chosen.toggle("c");
    expect([chosen.all, chosen.several]).toEqual([["a", "b", "c"], true]);
    chosen.toggle("b");
    expect(chosen.all).toEqual(["a", "c"]);
    chosen.toggle("a");
    expect([desk.selected, chosen.all]).toEqual(["c", ["c"]]);
    chosen.toggle("c");
    expect([desk.selected, chosen.all]).toEqual([null, []]);
  });

  it("are no things of which there is one, and none that are gone", () => {
    const chosen = useChosen();
    chosen.toggle("camera");
    chosen.toggle("gone");
    expect(chosen.all).toEqual([]);
  });

  it("are alone again when one is picked", () => {
    const chosen = useChosen();
    chosen.toggle("a");
    chosen.toggle("b");
    desk.selected = "c";
    expect(chosen.all).toEqual(["c"]);
  });

  it("go away at once, but not what goes with another of them", () => {
    const chosen = useChosen();
    for (const id of ["a", "b", "step"]) chosen.toggle(id);
    void chosen.takeAway();
    expect(desk.edit).toHaveBeenCalledWith([
      { do: "remove", node: "a" },
      { do: "remove", node: "b" },
    ]);
  });

  it("move by so much in the world, to a hundredth of a millimetre", () => {
    const chosen = useChosen();
    chosen.toggle("a");
    chosen.toggle("b");
    void chosen.shift([0.1234567, 0, -1]);
    expect(desk.edit).toHaveBeenCalledWith([
      { do: "shift", nodes: ["a", "b"], frame: 1, by: [0.12346, 0, -1] },
    ]);
  });

  it("are left where they are if they are locked", () => {
    const chosen = useChosen();
    expect([
      chosen.held(node("x", "prop", "x", {}, { locked: true })),
      chosen.held(desk.nodes[0]),
      chosen.held(undefined),
    ]).toEqual([true, false, false]);
  });
});
