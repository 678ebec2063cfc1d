import { beforeEach, describe, expect, it } from "vitest";
import { computed, reactive, ref } from "vue";
import type { ShotNode } from "../src/api/types";
import { inFinish, needed } from "../src/desk/inFinish";
import { onTop } from "../src/desk/onTop";
import { useBelonging } from "../src/stores/belonging";

const node = (id: string, kind: string, dials: object = {}) =>
  ({ id, kind, name: id, dials, keys: {} }) as unknown as ShotNode;

const owners: Record<string, string> = { step: "sculpt", effect: "layer", mask: "to", operation: "prop" };
const catalog = {
  catalog: {
    kinds: ["prop", "operation", "sculpt", "step", "layer", "effect", "mask"].map((name) => ({ name })),
  },
  kind: (name: string) => ({ name, owner: owners[name] }),
  read: (one: ShotNode, dial: string) =>
    (one.dials as Record<string, unknown>)[dial] ?? (dial === "what" ? "shot" : dial === "order" ? 0 : null),
};
const nodes = ref<ShotNode[]>([]);
const byId = computed(() => new Map(nodes.value.map((one) => [one.id, one])));
// A store hands out what its refs hold.
const family = reactive(useBelonging(nodes, byId, catalog as never));
const desk = {
  selected: null as string | null,
  family,
  steps: (id: string) => family.of(id, "step"),
  get byId() {
    return byId.value;
  },
};
const finish = (kind: string, dials = {}) => inFinish(desk as never, catalog as never, kind, dials);
const first = (kind: string, dials = {}) =>
  needed(desk as never, catalog as never, kind, dials).map((edit) => (edit as unknown as { id: string }).id);

beforeEach(() => {
  nodes.value = [];
  desk.selected = null;
});

describe("what belongs to a thing", () => {
  it("is told by kinds, and by their order within", () => {
    nodes.value = [
      node("cloud", "sculpt"),
      node("late", "step", { sculpt: "cloud", order: 2 }),
      node("early", "step", { sculpt: "cloud", order: 1 }),
      node("lost", "step", { sculpt: "gone" }),
    ];
    expect(family.of("cloud", "step").map((one) => one.id)).toEqual(["early", "late"]);
    expect(family.of("cloud", "effect")).toEqual([]);
    expect(family.owner(byId.value.get("lost")!)).toBeUndefined();
  });

  it("has with it what belongs to that", () => {
    nodes.value = [
      node("all", "layer", { what: "change" }),
      node("glow", "effect", { layer: "all" }),
      node("oval", "mask", { to: "glow" }),
    ];
    expect(family.belonging("all").map((one) => one.id)).toEqual(["glow", "oval"]);
  });
});

describe("where a new step goes", () => {
  it("is behind all others of the sculpt that is picked, or whose step is", () => {
    nodes.value = [node("cloud", "sculpt"), node("a", "step", { sculpt: "cloud", order: 4 })];
    desk.selected = "cloud";
    expect(onTop(desk as never, catalog as never)).toEqual({ sculpt: "cloud", order: 5 });
    desk.selected = "a";
    expect(onTop(desk as never, catalog as never)).toEqual({ sculpt: "cloud", order: 5 });
  });

  it("is another one's where none is picked, and nowhere where there is none", () => {
    nodes.value = [node("cloud", "sculpt"), node("lamp", "prop")];
    desk.selected = "lamp";
    expect(onTop(desk as never, catalog as never, "cloud")).toEqual({ sculpt: "cloud", order: 0 });
    expect(onTop(desk as never, catalog as never)).toEqual({});
  });
});

describe("where something new of the finish goes", () => {
  const layers = [
    node("shot-layer", "layer", { what: "shot", order: 0 }),
    node("all", "layer", { what: "change", order: 3 }),
  ];

  it("is on top for a layer, and below all for a plate", () => {
    nodes.value = [...layers];
    expect(finish("layer", { what: "shot" })).toEqual({ order: 4 });
    expect(finish("layer", { what: "plate" })).toEqual({ order: -1 });
  });

  it("is the layer that is picked for an effect, whatever of it is, else the uppermost", () => {
    nodes.value = [...layers, node("glow", "effect", { layer: "shot-layer", order: 0 })];
    desk.selected = "glow";
    expect(finish("effect")).toEqual({ layer: "shot-layer", order: 1 });
    desk.selected = null;
    expect(finish("effect")).toEqual({ layer: "all", order: 0 });
  });

  it("is the effect that is picked for a mask, for it holds that alone", () => {
    nodes.value = [...layers, node("glow", "effect", { layer: "all" })];
    desk.selected = "glow";
    expect(finish("mask")).toEqual({ to: "glow", order: 0 });
    nodes.value = [];
    expect(finish("mask")).toEqual({});
  });

  it("is something that moves for a spot that is followed: the plate before the shot", () => {
    nodes.value = [...layers, node("behind", "layer", { what: "plate", order: -1 })];
    desk.selected = "all";
    expect(finish("track")).toEqual({ layer: "behind" });
    desk.selected = "shot-layer";
    expect(finish("track")).toEqual({ layer: "shot-layer" });
  });

  it("is nowhere for what is no part of it", () => {
    expect(finish("source")).toBeUndefined();
  });

  it("needs the shot's own picture first, and an effect a layer that it changes", () => {
    expect(first("layer", { what: "plate" })).toEqual(["shot-layer"]);
    expect(first("layer", { what: "shot" })).toEqual([]);
    expect(first("effect")).toEqual(["shot-layer", "change-layer"]);
    nodes.value = [...layers];
    expect(first("effect")).toEqual([]);
  });
});
