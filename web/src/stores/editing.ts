import type { Ref, ShallowRef } from "vue";
import { api, Refused } from "../api/client";
import type { Edit, ShotAnswer, ShotNode, Value } from "../api/types";
import { useQueue, type Shown } from "./queue";
import type { useQuestion } from "./question";

/** What of the desk editing needs. */
interface Desk {
  shot: ShallowRef<ShotAnswer | null>;
  byId: Ref<Map<string, ShotNode>>;
  frame: Ref<number>;
  /** Counts what is on its way. */
  saving: Ref<number>;
  take: (answer: ShotAnswer | null) => void;
  reload: () => Promise<void>;
  complain: (error: unknown) => void;
  announce: (text: string) => void;
  ask: ReturnType<typeof useQuestion>["put"];
}

/** Changes to the shot on the desk, one after the other, and steps back and on. */
export function useEditing({ shot, byId, frame, saving, take, reload, complain, announce, ask }: Desk) {
  const queue = useQueue(async (id, edits) => {
    const head = shot.value?.id === id ? shot.value.head : undefined;
    saving.value += 1;
    try {
      take(await api.edit(id, edits, head));
      return null;
    } catch (error) {
      if (error instanceof Refused && error.code === "conflict") {
        void clash(error, edits);
        return null;
      }
      return (error as Error).message;
    } finally {
      saving.value -= 1;
    }
  });

  /** Changes the shot. What is refused becomes a sentence on the screen. */
  async function edit(edits: Edit[]) {
    if (!shot.value) return;
    const wrong = await queue.put(shot.value.id, edits);
    if (wrong) complain(new Error(wrong));
  }

  /** Somebody else changed the same dials: both values are shown, and one is chosen. */
  async function clash(error: Refused, edits: Edit[]) {
    await reload();
    ask({ text: error.message, yes: "Set mine", no: "Keep theirs", act: () => edit(edits) });
  }

  /** Sets a dial. @return what was refused, which it is for the caller to show */
  function wish(node: string, dial: string, value: Value, key?: number): Promise<string | null> {
    const here = shot.value?.id;
    if (!here) return Promise.resolve(null);
    const place = { node, dial, value };
    const shown: Shown = { id: `${here}/${node}.${dial}${key === undefined ? "" : `@${key}`}`, value };
    return queue.put(
      here,
      [key === undefined ? { do: "set", ...place } : { do: "key", ...place, frame: key }],
      shown,
    );
  }

  const put = (edits: Edit[]) => (shot.value ? queue.put(shot.value.id, edits) : Promise.resolve(null));

  async function set(node: string, dial: string, value: unknown) {
    const wrong = await wish(node, dial, value as Value);
    if (wrong) complain(new Error(wrong));
  }

  /** Puts something where the hand has let it go, in the world, whatever it goes with. */
  async function place(id: string, dial: string, value: number[]) {
    const node = byId.value.get(id);
    // What goes with another, stands on something or shakes is not where its dials say.
    const away = ["leader", "rests", "shake", "shake_turn"].some(
      (name) => name in (node?.dials ?? {}) || node?.keys[name],
    );
    if (away) return edit([{ do: "place", node: id, frame: frame.value, [dial]: value }]);
    const wrong = await turn(id, dial, value);
    if (wrong) complain(new Error(wrong));
  }

  /** Sets a dial here and now: one that changes over time gets a key at this frame.
   * @return what was refused */
  function turn(node: string, dial: string, value: unknown) {
    const over = byId.value.get(node)?.keys[dial]?.length;
    return wish(node, dial, value as Value, over ? frame.value : undefined);
  }

  /** What a dial under the hand is asked to be here and now: one that changes over time has a key at this frame. */
  function asks({ node, dial, value }: { node: string; dial: string; value: Value }): Edit {
    const keyed = byId.value.get(node)?.keys[dial]?.length;
    return keyed ? { do: "key", node, dial, value, frame: frame.value } : { do: "set", node, dial, value };
  }

  /** What a dial was set to and the server has not answered yet. */
  function wanted(id: string): Value | undefined {
    // Where nothing waits, no dial has to look again with each frame that passes.
    if (!queue.wanted.value.size) return undefined;
    const name = `${shot.value?.id}/${id}`;
    return queue.wanted.value.get(name) ?? queue.wanted.value.get(`${name}@${frame.value}`);
  }

  /** Steps are taken one after the other, and in turn with edits: answers that pass each other would show what was
   * before. */
  const step = (way: "undo" | "redo", others = false) => queue.inTurn(() => walk(way, others));

  async function walk(way: "undo" | "redo", others: boolean) {
    const here = shot.value;
    if (!here) return;
    try {
      const answer = await (way === "undo" ? api.undo(here.id, others) : api.redo(here.id));
      announce(answer.label);
      take(answer);
    } catch (error) {
      if (error instanceof Refused && error.code === "others_step")
        ask({
          text: error.message.replace(/; undo once more.*/, "."),
          yes: "Take it back",
          no: "Leave it",
          act: () => void step("undo", true),
        });
      else complain(error);
    }
  }

  return { edit, put, set, place, turn, wish, asks, wanted, step, left: queue.left };
}
