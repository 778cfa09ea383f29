/** Frames of the swing that the time of lift-off or landing is read from. */
export const SAMPLES = 3;
/** Trial times per frame. */
const TRIALS = 200;
const COARSE = 10;

/**
 * When, as a part of a frame after the last one on the ground, a point set off, from its way along each axis 1, 2, 3 … frames on:
 * the start that a τ² + b τ³ (a point that leaves without a kick) fits best, axes weighed alike.
 */
export function eventAfter(way: readonly Float64Array[]): number {
  let best = 0,
    least = Infinity;
  const look = (trial: number) => {
    if (trial < 0 || trial >= TRIALS) return;
    let miss = 0;
    for (const d of way) {
      let size = 0;
      for (let i = 0; i < SAMPLES; i++) size += d[i]! * d[i]!;
      if (size > 1e-8) miss += quadraticCubicMiss(d, trial / TRIALS) / size;
    }
    if (miss < least) {
      least = miss;
      best = trial;
    }
  };
  // Every COARSE-th trial first, then all around the best of them.
  for (let trial = 0; trial < TRIALS; trial += COARSE) look(trial);
  const near = best;
  for (let trial = near - COARSE + 1; trial < near + COARSE; trial++) look(trial);
  return best / TRIALS;
}

/** Squared distance of the values d_i at times i + 1 − start from their best a τ² + b τ³. */
function quadraticCubicMiss(d: Float64Array, start: number): number {
  let s44 = 0,
    s55 = 0,
    s66 = 0,
    r2 = 0,
    r3 = 0;
  for (let i = 0; i < SAMPLES; i++) {
    const t = i + 1 - start,
      t2 = t * t,
      t3 = t2 * t;
    s44 += t2 * t2;
    s55 += t2 * t3;
    s66 += t3 * t3;
    r2 += d[i]! * t2;
    r3 += d[i]! * t3;
  }
  const det = s44 * s66 - s55 * s55;
  const a = (r2 * s66 - r3 * s55) / det,
    b = (s44 * r3 - s55 * r2) / det;
  let sum = 0;
  for (let i = 0; i < SAMPLES; i++) {
    const t = i + 1 - start;
    sum += (d[i]! - t * t * (a + b * t)) ** 2;
  }
  return sum;
}
