import { seekIndex } from '../math/seek';
import { solveCyclicTridiagonal, solveTridiagonal } from '../math/tridiagonal';

/**
 * Knots of a support path in the plane: at times[i] (s, ascending strictly) the point is (x[i], z[i]) m, linear between.
 * `omegas[i]` (1/s) belongs to the piece from knot i to i + 1; 0 there means flight, in which nothing pushes.
 */
export interface SupportPath {
  readonly times: Float64Array;
  readonly x: Float64Array;
  readonly z: Float64Array;
  readonly omegas: Float64Array;
}

/**
 * The linear inverted pendulum ẍ = ω² (x − p) in the plane over a support point p that is linear in time on every piece:
 *     x(t) = p(t) + G e^{ω(t − t_{i+1})} + D e^{−ω(t − t_i)},   in flight x(t) = p(t) + D + G (t − t_i)
 * exactly. Source: Kajita et al. 2001; extrapolated centre of mass: Hof et al. 2005.
 */
export interface PendulumTrack {
  /** Start of each piece, s; one number more than pieces (the end). */
  readonly times: Float64Array;
  /** Per piece: ω, then for x and for z: support, its rate, G and D. */
  readonly pieces: Float64Array;
}
const FIELDS = 9;

/** How one end of a piece answers to the offsets h = x − p at both of its ends: rate = rate of p − own · h + other · h there. */
function couplings(path: SupportPath): { own: Float64Array; other: Float64Array } {
  const n = path.omegas.length;
  const own = new Float64Array(n),
    other = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    const dt = path.times[i + 1]! - path.times[i]!;
    if (!(dt > 0)) throw new RangeError(`pendulum: times must ascend, got ${path.times[i]} and ${path.times[i + 1]} s`);
    const w = path.omegas[i]!;
    own[i] = w > 0 ? w / Math.tanh(w * dt) : 1 / dt;
    other[i] = w > 0 ? w / Math.sinh(w * dt) : 1 / dt;
  }
  return { own, other };
}

const rate = (points: Float64Array, times: Float64Array, i: number): number => (points[i + 1]! - points[i]!) / (times[i + 1]! - times[i]!);

/** Kinks of the support path at inner knots: what the offsets have to smooth. Ends stay 0. */
function kinks(points: Float64Array, times: Float64Array): Float64Array {
  const out = new Float64Array(points.length);
  for (let i = 1; i < points.length - 1; i++) out[i] = rate(points, times, i) - rate(points, times, i - 1);
  return out;
}

/** The three diagonals for the offsets at the inner knots; rows 0 and n say h = right. */
function diagonals(own: Float64Array, other: Float64Array): [Float64Array, Float64Array, Float64Array] {
  const n = own.length;
  const lower = new Float64Array(n + 1),
    diagonal = new Float64Array(n + 1).fill(1),
    upper = new Float64Array(n + 1);
  for (let i = 1; i < n; i++) {
    lower[i] = -other[i - 1]!;
    diagonal[i] = own[i - 1]! + own[i]!;
    upper[i] = -other[i]!;
  }
  return [lower, diagonal, upper];
}

function assemble(path: SupportPath, hx: Float64Array, hz: Float64Array): PendulumTrack {
  const { times, omegas } = path;
  const n = omegas.length;
  const pieces = new Float64Array(n * FIELDS);
  for (let i = 0; i < n; i++) {
    const o = i * FIELDS;
    const dt = times[i + 1]! - times[i]!;
    const w = omegas[i]!;
    pieces[o] = w;
    const fade = w > 0 ? Math.exp(-w * dt) : 0;
    for (let axis = 0; axis < 2; axis++) {
      const k = o + 1 + axis * 4;
      const points = axis === 0 ? path.x : path.z,
        h = axis === 0 ? hx : hz;
      pieces[k] = points[i]!;
      pieces[k + 1] = rate(points, times, i);
      pieces[k + 2] = w > 0 ? (h[i + 1]! - h[i]! * fade) / (1 - fade * fade) : (h[i + 1]! - h[i]!) / dt;
      pieces[k + 3] = w > 0 ? (h[i]! - h[i + 1]! * fade) / (1 - fade * fade) : h[i]!;
    }
  }
  return { times, pieces };
}

/** The one periodic pendulum over a support path that closes (its last point is its first, moved on by what it travels). */
export function pendulumPeriodic(path: SupportPath): PendulumTrack {
  const n = path.omegas.length;
  if (n < 3) return pendulumPeriodic(splitPieces(path));
  const { own, other } = couplings(path);
  const lower = new Float64Array(n),
    diagonal = new Float64Array(n),
    upper = new Float64Array(n);
  const sides = [path.x, path.z].map((points) => {
    const right = kinks(points, path.times).slice(0, n);
    right[0] = rate(points, path.times, 0) - rate(points, path.times, n - 1);
    return right;
  });
  for (let i = 0; i < n; i++) {
    const before = (i + n - 1) % n;
    lower[i] = -other[before]!;
    diagonal[i] = own[before]! + own[i]!;
    upper[i] = -other[i]!;
  }
  solveCyclicTridiagonal(lower, diagonal, upper, sides);
  const closed = sides.map((h) => Float64Array.of(...h, h[0]!));
  return assemble(path, closed[0]!, closed[1]!);
}

/** The same path with every piece in three, so that a ring has rows enough. */
function splitPieces({ times, x, z, omegas }: SupportPath): SupportPath {
  const cut = (v: Float64Array) =>
    Float64Array.of(...[...omegas].flatMap((_, i) => [0, 1, 2].map((k) => v[i]! + ((v[i + 1]! - v[i]!) * k) / 3)), v[v.length - 1]!);
  return { times: cut(times), x: cut(x), z: cut(z), omegas: Float64Array.from([...omegas].flatMap((w) => [w, w, w])) };
}

/** The pendulum that begins at `start` and ends at `end` ([x, z], m), whatever velocity that takes. */
export function pendulumBetween(path: SupportPath, start: readonly [number, number], end: readonly [number, number]): PendulumTrack {
  const n = path.omegas.length;
  const { own, other } = couplings(path);
  const offsets = [path.x, path.z].map((points, k) => {
    const right = kinks(points, path.times);
    right[0] = start[k]! - points[0]!;
    right[n] = end[k]! - points[n]!;
    return right;
  });
  solveTridiagonal(...diagonals(own, other), offsets);
  return assemble(path, offsets[0]!, offsets[1]!);
}

/**
 * From rest to rest over the path's own ends: the support is bent at two knots (while standing before the first step and
 * after the last) by just the amounts that let the body start and end without velocity. This is the weight shift before a
 * first step and the settling after a last one: two more right-hand sides, nothing searched or drawn by hand.
 */
export function pendulumRestToRest(path: SupportPath, startKnot: number, endKnot: number): PendulumTrack {
  const { times, omegas } = path;
  const n = omegas.length;
  const { own, other } = couplings(path);
  const tent = (knot: number) => {
    const points = new Float64Array(times.length);
    points[knot] = 1;
    return points;
  };
  const bends = [tent(startKnot), tent(endKnot)];
  const rights = [path.x, path.z, ...bends].map((points) => kinks(points, times));
  solveTridiagonal(...diagonals(own, other), rights);
  // Rates at both ends, where h = 0: of the support and of what the nearest offset pulls.
  const ends = [path.x, path.z, ...bends].map((points, k) => [
    rate(points, times, 0) + other[0]! * rights[k]![1]!,
    rate(points, times, n - 1) - other[n - 1]! * rights[k]![n - 1]!,
  ]);
  const [a, b] = [ends[2]!, ends[3]!];
  const det = a[0]! * b[1]! - b[0]! * a[1]!;
  if (!(Math.abs(det) > 1e-12)) throw new RangeError('pendulumRestToRest: the standing times are too short to start or settle in');
  const bent: Float64Array[] = [],
    offsets: Float64Array[] = [];
  for (const k of [0, 1]) {
    const [m0, m1] = ends[k]! as [number, number];
    const first = (-m0 * b[1]! + m1 * b[0]!) / det,
      last = (-a[0]! * m1 + a[1]! * m0) / det;
    const points = [path.x, path.z][k]!.slice(),
      h = rights[k]!;
    points[startKnot] = points[startKnot]! + first;
    points[endKnot] = points[endKnot]! + last;
    for (let i = 0; i <= n; i++) h[i] = h[i]! + first * rights[2]![i]! + last * rights[3]![i]!;
    bent.push(points);
    offsets.push(h);
  }
  return assemble({ times, omegas, x: bent[0]!, z: bent[1]! }, offsets[0]!, offsets[1]!);
}

/** A body moving with constant velocity (m/s) from the origin: the pendulum whose support point runs along under it. */
export function constantMotion(velocityX: number, velocityZ: number, duration: number): PendulumTrack {
  return { times: Float64Array.of(0, duration), pieces: Float64Array.of(0, 0, velocityX, 0, 0, 0, velocityZ, 0, 0) };
}

/** Writes x, z (m) and their rates (m/s) at time clock[c] (s) into out[o..o+3]. Allocates nothing. */
export function readPendulum({ times, pieces }: PendulumTrack, clock: Float64Array, c: number, out: Float64Array, o: number): void {
  const t = clock[c]!;
  const i = seekIndex(times, times.length - 1, t);
  const k = i * FIELDS;
  const dt = t - times[i]!;
  const w = pieces[k]!;
  const fade = w > 0 ? Math.exp(-w * dt) : 1,
    grow = w > 0 ? Math.exp(w * (t - times[i + 1]!)) : dt;
  for (let axis = 0; axis < 2; axis++) {
    const p = k + 1 + axis * 4;
    const g = pieces[p + 2]! * grow,
      d = pieces[p + 3]! * fade;
    out[o + axis] = pieces[p]! + pieces[p + 1]! * dt + g + d;
    out[o + 2 + axis] = pieces[p + 1]! + (w > 0 ? w * (g - d) : pieces[p + 2]!);
  }
}

/** Support point x, z (m) at time t (s) into out[o..o+1]. */
export function readSupport({ times, pieces }: PendulumTrack, t: number, out: Float64Array, o: number): void {
  const i = seekIndex(times, times.length - 1, t);
  const k = i * FIELDS;
  const dt = t - times[i]!;
  out[o] = pieces[k + 1]! + pieces[k + 2]! * dt;
  out[o + 1] = pieces[k + 5]! + pieces[k + 6]! * dt;
}
