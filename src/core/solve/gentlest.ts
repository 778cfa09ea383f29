import { splineMomentsClamped } from '../math/tridiagonal';

/** A need closer to the curve than this part of the largest one is met. */
const MET_SHARE = 1e-4;
const ROUNDS = 60;

/**
 * The gentlest curve (least ∫ c″²) that is 0 and level at both ends of [0, 1] and nowhere below `needs` at the inner places
 * `at` (ascending): the clamped cubic spline through those needs that carry it. Writes its values there. Source: the obstacle
 * problem of the bending beam, by its active set.
 */
export function gentlestOver(at: Float64Array, needs: Float64Array, out: Float64Array): void {
  out.fill(0);
  const n = at.length;
  let largest = 0;
  for (let i = 0; i < n; i++) largest = Math.max(largest, needs[i]!);
  if (!(largest > 0)) return;
  let carrying: number[] = [];
  const dropped = new Set<number>();
  for (let round = 0; round < ROUNDS; round++) {
    let worst = -1,
      most = MET_SHARE * largest;
    for (let i = 0; i < n; i++)
      if (needs[i]! - out[i]! > most) {
        most = needs[i]! - out[i]!;
        worst = i;
      }
    if (worst < 0) return;
    carrying = [...carrying, worst].sort((a, b) => a - b);
    let moments = spline(at, needs, carrying);
    // A place that would have to be pulled down to carries nothing; one that comes and goes stays in the end.
    for (let again = true; again && carrying.length > 1;) {
      again = false;
      const pulls = carrying.map((_, k) => pull(moments, k));
      const least = Math.min(...pulls);
      const k = pulls.indexOf(least);
      const i = carrying[k]!;
      if (least < 0 && i !== worst && !dropped.has(i)) {
        dropped.add(i);
        carrying = carrying.filter((c) => c !== i);
        moments = spline(at, needs, carrying);
        again = true;
      }
    }
    evaluate(at, moments, out);
  }
}

/** Knots of a clamped spline, ends included, with their moments. */
interface Beam {
  readonly u: Float64Array;
  readonly v: Float64Array;
  readonly m: Float64Array;
}

function spline(at: Float64Array, needs: Float64Array, carrying: readonly number[]): Beam {
  const u = Float64Array.of(0, ...carrying.map((i) => at[i]!), 1),
    v = Float64Array.of(0, ...carrying.map((i) => needs[i]!), 0);
  return { u, v, m: splineMomentsClamped(u, v, 0, 0) };
}

/** How hard inner knot k + 1 holds the beam up: the jump of its third derivative. */
function pull({ u, m }: Beam, k: number): number {
  const i = k + 1;
  return (m[i + 1]! - m[i]!) / (u[i + 1]! - u[i]!) - (m[i]! - m[i - 1]!) / (u[i]! - u[i - 1]!);
}

function evaluate(at: Float64Array, { u, v, m }: Beam, out: Float64Array): void {
  let i = 0;
  for (let k = 0; k < at.length; k++) {
    while (i < u.length - 2 && at[k]! > u[i + 1]!) i++;
    const h = u[i + 1]! - u[i]!;
    const b = (at[k]! - u[i]!) / h,
      a = 1 - b;
    out[k] = Math.max(0, a * v[i]! + b * v[i + 1]! + ((a * a * a - a) * m[i]! + (b * b * b - b) * m[i + 1]!) * ((h * h) / 6));
  }
}
