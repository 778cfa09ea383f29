import type { LegMeasures } from '../body/legs';
import { addProduct, createBand, solveBand } from '../math/band';
import type { SplineBasis } from '../math/spline-basis';
import { BAND, look, movingRows, prepare, steadyRows } from './hips-costs';
import type { HipsSamples } from './hips-samples';

/** How long a search goes on: rounds, and the move (m) of a coefficient below which it ends. */
interface Search {
  readonly rounds: number;
  readonly settledM: number;
}
export const CLOSE: Search = { rounds: 24, settledM: 1.5e-5 };
export const QUICK: Search = { rounds: 6, settledM: 1e-3 };
/** So much lower than the wish the search sets out, m. */
const START_LOWER_M = 0.02;
/** A step that makes things worse is shortened by this, down to that. */
const SHORTEN = 2.5;
const SHORTEST = 0.01;
/** Fits the height: coefficients of the basis. Source of the method: Gauss and Newton, with halved steps. */
export function fitHips(basis: SplineBasis, samples: HipsSamples, legs: readonly [LegMeasures, LegMeasures], search = CLOSE): Float64Array {
  const fit = prepare(basis, samples, legs);
  const n = basis.unknowns;
  const steady = createBand(n, BAND, basis.ring),
    band = createBand(n, BAND, basis.ring);
  steadyRows(fit, steady);
  // The wish alone to begin with.
  const found = Float64Array.from(steady.right);
  solveBand(steady, found);
  // From below: a search that comes from bent knees does not end with a leg that stays locked.
  for (let k = 0; k < n; k++) found[k] = found[k]! - START_LOWER_M;
  let cost = look(fit, found);
  const tried = new Float64Array(n),
    moves = new Float64Array(n);
  for (let round = 0; round < search.rounds; round++) {
    band.data.set(steady.data);
    band.right.set(steady.right);
    // Steady rows hold for coefficients from zero: their right-hand side less what the present ones make.
    addProduct(steady, found, -1, band.right);
    movingRows(fit, band);
    moves.set(band.right);
    solveBand(band, moves);
    let moved: number;
    for (let share = 1; ; share /= SHORTEN) {
      moved = 0;
      for (let k = 0; k < n; k++) {
        tried[k] = found[k]! + share * moves[k]!;
        moved = Math.max(moved, Math.abs(share * moves[k]!));
      }
      const now = look(fit, tried);
      if (now <= cost || share < SHORTEST) {
        cost = now;
        break;
      }
    }
    found.set(tried);
    if (moved < search.settledM) break;
  }
  return found;
}
