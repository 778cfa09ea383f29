/** Runs work that is made to be done bit by bit to its end, at once. */
export function finish<T>(work: Generator<unknown, T>): T {
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
  }
}
