/**
 * Work one after the other, in the order it was asked for: the next begins when the one before has ended,
 * well or not. What fails fails for whoever asked for it, and for nobody after.
 */
export function serially(): <T>(work: () => Promise<T>) => Promise<T> {
  let last: Promise<unknown> = Promise.resolve();
  return (work) => {
    const turn = last.then(work);
    last = turn.catch(() => undefined);
    return turn;
  };
}
