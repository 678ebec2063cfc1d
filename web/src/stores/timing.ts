import type { Edit, Key, Value } from "../api/types";

/** A key of a dial. */
export interface KeyPlace {
  node: string;
  dial: string;
  frame: number;
}

/** How things are moved in time, as the server takes it. */
export interface Retiming {
  by?: number;
  stretch?: number;
  about?: number;
  from?: number;
  step?: number;
  loose?: number;
  seed?: number;
}

/** What is set over time: formulas, and many times at once. All give the sentence of what was refused.
 * @param put queues edits of the shot on the desk
 * @param complain shows a sentence */
export function useTiming(put: (edits: Edit[]) => Promise<string | null>, complain: (error: Error) => void) {
  /** Carries edits out as one step. */
  async function carry(edits: Edit[]) {
    const wrong = edits.length ? await put(edits) : null;
    if (wrong) complain(new Error(wrong));
    return wrong;
  }

  const place = (node: string, dial: string, part?: string) => ({ node, dial, ...(part ? { part } : {}) });

  /** Lets a number go by a formula. @param text nothing takes it away */
  const formula = (node: string, dial: string, text: string | null, part?: string) =>
    put([{ do: "formula", ...place(node, dial, part), text }]);

  /** A plain number in the place of a formula. @param frame where the dial has keys */
  const instead = (node: string, dial: string, value: Value, frame?: number, part?: string) =>
    put([
      { do: "formula", ...place(node, dial, part), text: null },
      frame === undefined ? { do: "set", node, dial, value } : { do: "key", node, dial, value, frame },
    ]);

  const retimeKeys = (keys: KeyPlace[], how: Retiming) => carry([{ do: "retime", keys, ...how }]);
  const retimeRows = (rows: { node: string; dial?: string }[], how: Retiming) =>
    carry([{ do: "retime", rows, ...how }]);
  /** Changes a key: its value, its frame, how it goes on, how steeply. */
  const rekey = (at: KeyPlace, change: Partial<Key> & { to?: number }) =>
    carry([{ do: "move_key", ...change, ...at }]);
  const dropKeys = (keys: KeyPlace[]) => carry(keys.map((key) => ({ do: "drop_key", ...key })));
  const easeKeys = (keys: KeyPlace[], ease: string) =>
    carry(keys.map((key) => ({ do: "move_key", ...key, ease })));
  const beyond = (node: string, dial: string, side: "before" | "after", way: string) =>
    carry([{ do: "beyond", node, dial, [side]: way }]);
  /** The shot's rate and length. @param stretch whether all that is timed goes along */
  const setPace = (change: Record<string, unknown>, stretch: boolean) =>
    put([{ do: "pace", ...change, stretch }]);

  return { carry, formula, instead, retimeKeys, retimeRows, rekey, dropKeys, easeKeys, beyond, setPace };
}
