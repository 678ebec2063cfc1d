type Part = Record<string, unknown>;

const isPart = (value: unknown): value is Part => typeof value === "object" && value !== null;

/** Things with ids are known again wherever they stand. */
function place(list: unknown[]): (value: unknown, n: number) => unknown {
  if (!isPart(list[0]) || typeof list[0].id !== "string") return (_, n) => list[n];
  const byId = new Map(list.map((one) => [(one as Part).id, one]));
  return (value) => (isPart(value) ? byId.get(value.id) : undefined);
}

/** What is new, but with all of the old that is still the same, so that nothing that goes by such a part is worked out or
 * shown anew. What is new is changed. */
export function shared<T>(before: unknown, after: T): T {
  if (!isPart(before) || !isPart(after) || Array.isArray(before) !== Array.isArray(after)) return after;
  if (Array.isArray(before) && Array.isArray(after)) {
    const find = place(before);
    let same = before.length === after.length;
    for (let n = 0; n < after.length; n++) {
      after[n] = shared(find(after[n], n), after[n]);
      same &&= after[n] === before[n];
    }
    return same ? (before as T) : after;
  }
  const names = Object.keys(after);
  let same = names.length === Object.keys(before).length;
  for (const name of names) {
    (after as Part)[name] = shared((before as Part)[name], (after as Part)[name]);
    same &&= (after as Part)[name] === (before as Part)[name];
  }
  return same ? (before as T) : after;
}
