/** Does what takes the server a while one after the other, so that what is clicked meanwhile finds a connection. */
export function oneByOne() {
  let last: Promise<unknown> = Promise.resolve();
  return <T>(work: () => Promise<T>): Promise<T> => {
    const next = last.then(work, work);
    last = next.catch(() => {});
    return next;
  };
}
