/** Runs work that is made to be done bit by bit to its end, at once. */
export function finish<T>(work: Generator<unknown, T>): T {
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
  }
}

/** The same of work that waits for others in between. */
export async function finishLater<T>(work: AsyncGenerator<unknown, T>): Promise<T> {
  for (;;) {
    const { done, value } = await work.next();
    if (done) return value;
  }
}
