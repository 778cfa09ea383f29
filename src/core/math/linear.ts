/** A pivot smaller than this is none: what it stands for is not told by the equations, and stays 0. */
const NO_PIVOT = 1e-14;

/**
 * Solves a few linear equations: Gauss–Jordan elimination, largest pivot first. `rows`: n rows of n factors and the right-hand
 * side behind them; they are used up. Unknowns that the equations do not tell are 0.
 */
export function solveLinear(rows: Float64Array[]): Float64Array {
  const n = rows.length;
  for (let p = 0; p < n; p++) {
    let best = p;
    for (let q = p + 1; q < n; q++) if (Math.abs(rows[q]![p]!) > Math.abs(rows[best]![p]!)) best = q;
    [rows[p], rows[best]] = [rows[best]!, rows[p]!];
    const own = rows[p]!;
    if (Math.abs(own[p]!) < NO_PIVOT) continue;
    for (let q = 0; q < n; q++) {
      if (q === p) continue;
      const share = rows[q]![p]! / own[p]!;
      for (let k = p; k <= n; k++) rows[q]![k] = rows[q]![k]! - share * own[k]!;
    }
  }
  return Float64Array.from(rows, (row, p) => (Math.abs(row[p]!) < NO_PIVOT ? 0 : row[n]! / row[p]!));
}
