import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { ref } from "vue";
import type { Catalog, Dial, ShotNode } from "../src/api/types";
import { useBelonging } from "../src/stores/belonging";
import { useCatalog } from "../src/stores/catalog";

vi.mock("../src/api/client", () => ({ api: {} }));

const dial = (name: string, more: object = {}) =>
  ({ name, label: name, type: "number", default: 0, ...more }) as unknown as Dial;
const node = (id: string, kind: string, dials: object = {}) =>
  ({ id, kind, name: id, dials }) as unknown as ShotNode;

const kinds = [
  {
    name: "prop",
    dials: [
      dial("shape", { type: "choice", default: "box" }),
      dial("size", { only: { shape: ["box"] } }),
      dial("mesh", { default: null }),
      dial("edge", { only: { mesh: "set" } }),
      dial("rests", { type: "switch", default: false, only: { shape: ["box"] } }),
      dial("height", { except: { rests: [true] } }),
      dial("leader", { default: null }),
    ],
  },
  {
    name: "texture",
    owner: "to",
    dials: [
      dial("to", { default: null }),
      dial("order"),
      dial("formula", { type: "text", default: "a * sin(x) + b", named: ["first", "second", "third"] }),
      dial("first"),
      dial("second"),
      dial("third"),
    ],
  },
  { name: "operation", owner: "to", dials: [dial("to", { default: null }), dial("order")] },
];

describe("the catalogue of kinds", () => {
  beforeEach(() => {
    setActivePinia(createPinia());
    useCatalog().catalog = { kinds, formula: ["x", "y", "z", "frame", "sin"] } as unknown as Catalog;
  });

  const shown = (one: ShotNode) => {
    const catalog = useCatalog();
    return catalog
      .kind(one.kind)
      .dials.filter((each) => catalog.applies(one, each))
      .map(({ name }) => name);
  };

  it("reads a node's own value, and what is declared where it has none", () => {
    const catalog = useCatalog();
    expect(catalog.read(node("p", "prop"), "shape")).toBe("box");
    expect(catalog.read(node("p", "prop", { shape: "mesh" }), "shape")).toBe("mesh");
    expect(catalog.read(node("p", "prop"), "unheard")).toBeNull();
  });

  it("shows the dials that count, by what the others say", () => {
    expect(shown(node("p", "prop"))).toEqual(["shape", "size", "mesh", "rests", "height", "leader"]);
    expect(shown(node("p", "prop", { shape: "mesh", mesh: "digest" }))).toEqual([
      "shape",
      "mesh",
      "edge",
      "height",
      "leader",
    ]);
    expect(shown(node("p", "prop", { rests: true }))).not.toContain("height");
  });

  it("is not told by a dial that is not there itself", () => {
    // It rests by a switch that this shape does not have.
    expect(shown(node("p", "prop", { shape: "mesh", rests: true }))).toContain("height");
  });

  it("calls dials after the names of a formula's own, and hides those that it has none for", () => {
    const catalog = useCatalog();
    const texture = node("t", "texture");
    const [, , , first, second, third] = catalog.kind("texture").dials;
    expect([first, second, third].map((each) => catalog.called(texture, each))).toEqual([
      "a",
      "b",
      undefined,
    ]);
    expect(shown(texture)).not.toContain("third");
    expect(catalog.called(node("t", "texture", { formula: "sin(frame) * wide" }), first)).toBe("wide");
  });

  it("tells what stands under a thing, in order, and which groups a thing is in", () => {
    const nodes = ref([
      node("p", "prop"),
      node("late", "operation", { to: "p", order: 1 }),
      node("soon", "operation", { to: "p", order: 0 }),
      node("look", "texture", { to: "p" }),
      node("on", "texture", { to: "late" }),
      node("lost", "operation", { to: "gone" }),
      node("mark", "prop", { shape: "mark" }),
      node("outer", "prop", { shape: "mark" }),
      node("member", "prop", { leader: "mark" }),
    ]);
    nodes.value[6].dials.leader = "outer";
    // A circle, as it could be for a moment, ends.
    nodes.value[7].dials.leader = "mark";
    const byId = ref(new Map(nodes.value.map((one) => [one.id, one])));
    const family = useBelonging(nodes, byId, useCatalog());
    expect(family.of("p", "operation").map(({ id }) => id)).toEqual(["soon", "late"]);
    expect(family.belonging("p").map(({ id }) => id)).toEqual(["look", "soon", "late", "on"]);
    expect([family.owner(nodes.value[4])?.id, family.owner(nodes.value[5])]).toEqual(["late", undefined]);
    expect(family.next(family.of("p", "operation"))).toBe(2);
    expect(family.next([])).toBe(0);
    expect(family.marksOver(nodes.value[8]).map(({ id }) => id)).toEqual(["mark", "outer"]);
  });
});
