import { solveLinear } from './linear';

/** Step of the numeric derivatives, and the damping the rounds begin with. */
const STEP = 1e-5;
const DAMPING = 1e-4;

/**
 * Few parameters that make many misses least in the sum of their squares: Gauss–Newton with damping (Levenberg 1944, Marquardt
 * 1963), derivatives by differences, from nothing. `misses` writes `count` numbers for parameters of about unit size.
 */
export function leastSquares(parameters: number, count: number, misses: (at: Float64Array, out: Float64Array) => void, rounds: number): Float64Array {
  const n = parameters;
  const now = new Float64Array(n),
    next = new Float64Array(n);
  const base = new Float64Array(count),
    moved = new Float64Array(count);
  const jacobian = Array.from({ length: n }, () => new Float64Array(count));
  const size = (values: Float64Array) => values.reduce((sum, v) => sum + v * v, 0);
  misses(now, base);
  let least = size(base),
    damping = DAMPING;
  for (let round = 0; round < rounds; round++) {
    for (let p = 0; p < n; p++) {
      next.set(now);
      next[p] = now[p]! + STEP;
      misses(next, moved);
      for (let i = 0; i < count; i++) jacobian[p]![i] = (moved[i]! - base[i]!) / STEP;
    }
    const step = solved(jacobian, base, damping);
    for (let p = 0; p < n; p++) next[p] = now[p]! - step[p]!;
    misses(next, moved);
    const sum = size(moved);
    if (!(sum < least)) {
      damping *= 10;
      continue;
    }
    now.set(next);
    base.set(moved);
    least = sum;
    damping /= 10;
  }
  return now;
}

/** The step of the normal equations, damped. */
function solved(jacobian: readonly Float64Array[], misses: Float64Array, damping: number): Float64Array {
  const dot = (a: Float64Array, b: Float64Array) => a.reduce((sum, v, i) => sum + v * b[i]!, 0);
  return solveLinear(jacobian.map((a, p) => Float64Array.from([...jacobian.map((b, q) => dot(a, b) * (p === q ? 1 + damping : 1)), dot(a, misses)])));
}
