/** Sweeps over all conditions, and the change (of the amounts) that ends them. */
const SWEEPS = 200;
const SETTLED = 1e-7;
/** Every step goes on a little further than its own condition asks: rows much alike are met sooner. */
const BEYOND = 1.4;

/**
 * The least amounts x (Σ cost x² smallest) with gains · x ≥ needs, row by row. Continuous in gains and needs. Where not all can
 * be met, amounts of the last sweep.
 * Source: Hildreth 1957, a quadratic program by its dual, one multiplier after the other.
 * @param gains `count` rows of x.length numbers each
 * @param multipliers one a row; where the search begins (0 to begin with) and what it ends with
 */
export function leastAmounts(gains: Float64Array, needs: Float64Array, count: number, costs: Float64Array, multipliers: Float64Array, x: Float64Array): void {
  const n = x.length;
  const squares = new Float64Array(count);
  x.fill(0);
  for (let i = 0, o = 0; i < count; i++, o += n)
    for (let k = 0; k < n; k++) {
      const g = gains[o + k]!;
      squares[i] = squares[i]! + (g * g) / costs[k]!;
      x[k] = x[k]! + (multipliers[i]! * g) / costs[k]!;
    }
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    let moved = 0;
    for (let i = 0, o = 0; i < count; i++, o += n) {
      const had = multipliers[i]!;
      let missing = needs[i]!;
      for (let k = 0; k < n; k++) missing -= gains[o + k]! * x[k]!;
      if ((missing <= 0 && had === 0) || squares[i]! < 1e-18) continue;
      const step = Math.max(-had, (BEYOND * missing) / squares[i]!);
      multipliers[i] = had + step;
      for (let k = 0; k < n; k++) {
        const by = (step * gains[o + k]!) / costs[k]!;
        x[k] = x[k]! + by;
        moved = Math.max(moved, Math.abs(by));
      }
    }
    if (moved < SETTLED) return;
  }
}
