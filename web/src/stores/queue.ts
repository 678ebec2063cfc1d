import { ref, shallowRef } from "vue";
import type { Edit, Value } from "../api/types";

/** What is to be shown before the server has answered: a dial (at a frame, where it changes over time). */
export interface Shown {
  id: string;
  value: Value;
}

interface Wish {
  /** The shot it was made on, whichever is open when its turn comes. */
  shot: string;
  edits: Edit[];
  shown?: Shown;
  /** What is done in its place, where it is no edit. */
  act?: () => Promise<void>;
  sent: boolean;
  tell: ((wrong: string | null) => void)[];
}

const alike = (a: Edit[], b: Edit[]) =>
  a.length === 1 && b.length === 1 && a[0].do === b[0].do && (a[0].do === "set" || a[0].do === "key");

/** All edits go through one queue, in the order in which they were made. What a dial was set to is shown at
 * once, and taken back if it is refused.
 * @param send carries edits out; gives the sentence of what was refused */
export function useQueue(send: (shot: string, edits: Edit[]) => Promise<string | null>) {
  const wishes: Wish[] = [];
  const wanted = shallowRef(new Map<string, Value>());
  /** How many edits have not been answered yet. */
  const left = ref(0);
  let busy = false;

  function want(id: string, value: Value | undefined) {
    const next = new Map(wanted.value);
    if (value === undefined) next.delete(id);
    else next.set(id, value);
    wanted.value = next;
  }

  function put(shot: string, edits: Edit[], shown?: Shown): Promise<string | null> {
    if (shown) want(shown.id, shown.value);
    return new Promise((tell) => {
      const last = wishes.at(-1);
      // Of several steps of one dial that wait, the newest counts.
      if (
        shown &&
        last &&
        !last.sent &&
        last.shot === shot &&
        last.shown?.id === shown.id &&
        alike(last.edits, edits)
      ) {
        last.edits = edits;
        last.shown = shown;
        last.tell.push(tell);
      } else left.value = wishes.push({ shot, edits, shown, sent: false, tell: [tell] });
      void work();
    });
  }

  /** Does something when all that was wished for before is done, and before all that comes after. */
  function inTurn(act: () => Promise<void>): Promise<void> {
    return new Promise((done) => {
      left.value = wishes.push({ shot: "", edits: [], act, sent: false, tell: [() => done()] });
      void work();
    });
  }

  async function work() {
    if (busy) return;
    busy = true;
    for (let wish = wishes[0]; wish; wish = wishes[0]) {
      wish.sent = true;
      const wrong = await (wish.act ? wish.act().then(() => null) : send(wish.shot, wish.edits));
      wishes.shift();
      left.value = wishes.length;
      const { shown } = wish;
      if (shown && !wishes.some((other) => other.shown?.id === shown.id)) want(shown.id, undefined);
      for (const tell of wish.tell) tell(wrong);
    }
    busy = false;
  }

  return { wanted, left, put, inTurn };
}
