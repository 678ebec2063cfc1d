import { describe, expect, it } from "vitest";
import type { Edit } from "../src/api/types";
import { useQueue } from "../src/stores/queue";

const set = (value: number, dial = "smoke") =>
  [{ do: "set", node: "source-1", dial, value }] as unknown as Edit[];

/** A server that answers when it is told to. */
function server() {
  const sent: { shot: string; edits: Edit[]; answer: (wrong: string | null) => void }[] = [];
  const queue = useQueue((shot, edits) => new Promise((answer) => sent.push({ shot, edits, answer })));
  return { sent, queue };
}

const rest = () => new Promise((done) => setTimeout(done));

describe("the queue of edits", () => {
  it("shows at once what a dial was set to, until the server has answered", async () => {
    const { sent, queue } = server();
    const told = queue.put("shot", set(3), { id: "source-1.smoke", value: 3 });
    expect(queue.wanted.value.get("source-1.smoke")).toBe(3);
    expect(queue.left.value).toBe(1);
    sent[0].answer(null);
    expect(await told).toBeNull();
    expect([queue.wanted.value.size, queue.left.value]).toEqual([0, 0]);
  });

  it("sends in the order in which they were made, one at a time, each to its own shot", async () => {
    const { sent, queue } = server();
    void queue.put("one", set(1));
    void queue.put("two", set(2, "heat"));
    expect(sent.map(({ shot }) => shot)).toEqual(["one"]);
    sent[0].answer(null);
    await rest();
    expect(sent.map(({ shot }) => shot)).toEqual(["one", "two"]);
  });

  it("sends of several steps of one dial that wait the newest alone, and tells all of them", async () => {
    const { sent, queue } = server();
    const all = [1, 2, 3].map((value) => queue.put("shot", set(value), { id: "source-1.smoke", value }));
    sent[0].answer(null);
    await rest();
    expect(sent.map(({ edits }) => (edits[0] as unknown as { value: number }).value)).toEqual([1, 3]);
    expect(queue.wanted.value.get("source-1.smoke")).toBe(3);
    sent[1].answer("Smoke can be 10 at most.");
    expect(await Promise.all(all)).toEqual([null, "Smoke can be 10 at most.", "Smoke can be 10 at most."]);
    // What was refused is taken back.
    expect(queue.wanted.value.has("source-1.smoke")).toBe(false);
  });

  it("does not run steps of different dials, or of different shots, into one", async () => {
    const { sent, queue } = server();
    void queue.put("shot", set(1), { id: "source-1.smoke", value: 1 });
    void queue.put("shot", set(2), { id: "source-1.smoke", value: 2 });
    void queue.put("shot", set(3, "heat"), { id: "source-1.heat", value: 3 });
    void queue.put("other", set(4, "heat"), { id: "source-1.heat", value: 4 });
    for (let n = 0; n < 4; n++) {
      sent[n].answer(null);
      await rest();
    }
    expect(sent.map(({ shot, edits }) => [shot, (edits[0] as unknown as { value: number }).value])).toEqual([
      ["shot", 1],
      ["shot", 2],
      ["shot", 3],
      ["other", 4],
    ]);
  });

  it("does other things in their turn: after what was sent before, and before what comes after", async () => {
    const { sent, queue } = server();
    const told: number[] = [];
    void queue.put("shot", set(1));
    const done = queue.inTurn(async () => void told.push(sent.length));
    void queue.put("shot", set(2));
    await rest();
    expect([told, sent.length]).toEqual([[], 1]);
    sent[0].answer(null);
    await done;
    await rest();
    expect([told, sent.length, queue.left.value]).toEqual([[1], 2, 1]);
  });
});
