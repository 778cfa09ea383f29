/** Sweeps over all conditions, and the change (of the amounts) that ends them. */
const SWEEPS = 200;
const SETTLED = 1e-7;

/**
 * The least amounts x (Σ cost x² smallest) with gains · x ≥ needs, row by row. Continuous in gains and needs. Where not all can
 * be met, amounts of the last sweep.
 * Source: Hildreth 1957, a quadratic program by its dual, one multiplier after the other.
 * @param gains `count` rows of x.length numbers each
 * @param multipliers one a row; where the search begins (0 to begin with) and what it ends with
 */
export function leastAmounts(gains: Float64Array, needs: Float64Array, count: number, costs: Float64Array, multipliers: Float64Array, x: Float64Array): void {
  const n = x.length;
  x.fill(0);
  for (let i = 0, o = 0; i < count; i++, o += n)
    if (multipliers[i] !== 0) for (let k = 0; k < n; k++) x[k] = x[k]! + (multipliers[i]! * gains[o + k]!) / costs[k]!;
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    let moved = 0;
    for (let i = 0, o = 0; i < count; i++, o += n) {
      const had = multipliers[i]!;
      let gained = 0,
        square = 0;
      for (let k = 0; k < n; k++) {
        const g = gains[o + k]!;
        gained += g * x[k]!;
        square += (g * g) / costs[k]!;
      }
      const missing = needs[i]! - gained;
      if ((missing <= 0 && had === 0) || square < 1e-18) continue;
      const step = Math.max(-had, missing / square);
      multipliers[i] = had + step;
      for (let k = 0; k < n; k++) {
        const by = (step * gains[o + k]!) / costs[k]!;
        x[k] = x[k]! + by;
        if (by > moved) moved = by;
        else if (-by > moved) moved = -by;
      }
    }
    if (moved < SETTLED) return;
  }
}
