/** Median seconds of one call over several rounds; the first rounds warm the machine and do not count. */
export function medianSeconds(run: () => void, rounds = 9, warm = 3): number {
  const times: number[] = [];
  for (let i = 0; i < rounds + warm; i++) {
    const start = performance.now();
    run();
    if (i >= warm) times.push((performance.now() - start) / 1000);
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!;
}
