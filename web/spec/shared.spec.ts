import { describe, expect, it } from "vitest";
import { counts, jobWord } from "../src/lib/jobWords";
import { oneByOne } from "../src/lib/oneByOne";
import { shared } from "../src/lib/shared";
import type { Job } from "../src/api/types";

describe("what is new, with all of the old that is the same", () => {
  it("is the old itself where nothing differs", () => {
    const before = { nodes: [{ id: "a", dials: { size: [1, 2] } }], name: "Shot" };
    expect(shared(before, structuredClone(before))).toBe(before);
  });

  it("keeps every part that did not change", () => {
    const before = { a: { deep: [1, 2, 3] }, b: { deep: [4] }, gone: 1 };
    const after = shared(before, { a: { deep: [1, 2, 3] }, b: { deep: [5] } }) as typeof before;
    expect(after).not.toBe(before);
    expect(after.a).toBe(before.a);
    expect(after.b).not.toBe(before.b);
    expect(after).toEqual({ a: { deep: [1, 2, 3] }, b: { deep: [5] } });
  });

  it("knows things with ids again wherever they stand", () => {
    const before = [
      { id: "a", size: 1 },
      { id: "b", size: 2 },
    ];
    const after = shared(before, [
      { id: "new", size: 3 },
      { id: "b", size: 2 },
      { id: "a", size: 9 },
    ]) as typeof before;
    expect(after[1]).toBe(before[1]);
    expect(after[2]).not.toBe(before[0]);
    expect(after.map(({ id }) => id)).toEqual(["new", "b", "a"]);
  });

  it("takes no list for a thing, and nothing for something", () => {
    expect(shared([1], { 0: 1 })).toEqual({ 0: 1 });
    expect(shared(null, { a: 1 })).toEqual({ a: 1 });
    expect(shared({ a: 1 }, null)).toBeNull();
  });
});

describe("what is done one by one", () => {
  it("waits for what came before, also where that fails", async () => {
    const inTurn = oneByOne();
    const told: string[] = [];
    let release = () => {};
    const first = inTurn(() =>
      new Promise<void>((done) => (release = done)).then(() => void told.push("first")),
    );
    const second = inTurn(async () => {
      told.push("second");
      throw new Error("refused");
    });
    const third = inTurn(async () => told.push("third"));
    await Promise.resolve();
    expect(told).toEqual([]);
    release();
    await first;
    await expect(second).rejects.toThrow("refused");
    await third;
    expect(told).toEqual(["first", "second", "third"]);
  });
});

describe("jobs", () => {
  it("have words, and small steps of looking do not count", () => {
    expect([jobWord({ kind: "run" }), jobWord({ kind: "unheard" })]).toEqual(["Run", "unheard"]);
    expect(["run", "print", "glance", "live"].map((kind) => counts({ kind } as Job))).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });
});
