import { seekIndex } from '../math/seek';

/**
 * One axis of the linear inverted pendulum ẍ = ω² (x − p) over a support point p that is linear in time on every piece:
 *     x(t) = p(t) + A e^{ω(t − t_i)} + D e^{−ω(t − t_i)}
 * exactly. Source: Kajita et al. 2001; divergent component ξ = x + ẋ/ω: Hof et al. 2005, Pratt et al. 2006.
 */
export interface PendulumTrack {
  readonly omega: number;
  /** Start of each piece, s; one number more than pieces (the end). */
  readonly times: Float64Array;
  /** Support point at the start of each piece, m, and its velocity, m/s. */
  readonly support: Float64Array;
  readonly supportRate: Float64Array;
  readonly grow: Float64Array;
  readonly decay: Float64Array;
}

/** Knots of a support path: at `times[i]` the point is `points[i]`, linear between. Times ascend strictly. */
export interface SupportPath {
  readonly times: readonly number[];
  readonly points: readonly number[];
}

/** ξ at each knot, solved backwards from ξ at the last one. */
function divergentBackwards(path: SupportPath, omega: number, last: number): Float64Array {
  const { times, points } = path;
  const xi = new Float64Array(times.length);
  xi[times.length - 1] = last;
  for (let i = times.length - 2; i >= 0; i--) {
    const dt = times[i + 1]! - times[i]!;
    const rate = (points[i + 1]! - points[i]!) / dt;
    // ξ(t) = p(t) + ṗ/ω + C e^{ω(t − t_i)}
    xi[i] = points[i]! + rate / omega + Math.exp(-omega * dt) * (xi[i + 1]! - points[i + 1]! - rate / omega);
  }
  return xi;
}

function assemble(path: SupportPath, omega: number, xi: Float64Array, start: number): PendulumTrack {
  const { times, points } = path;
  const n = times.length - 1;
  const track = {
    omega,
    times: Float64Array.from(times),
    support: new Float64Array(n),
    supportRate: new Float64Array(n),
    grow: new Float64Array(n),
    decay: new Float64Array(n),
  };
  let x = start;
  for (let i = 0; i < n; i++) {
    const dt = times[i + 1]! - times[i]!;
    const rate = (points[i + 1]! - points[i]!) / dt;
    const grow = (xi[i]! - points[i]! - rate / omega) / 2;
    const decay = x - points[i]! - grow;
    track.support[i] = points[i]!;
    track.supportRate[i] = rate;
    track.grow[i] = grow;
    track.decay[i] = decay;
    x = points[i + 1]! + grow * Math.exp(omega * dt) + decay * Math.exp(-omega * dt);
  }
  return track;
}

/** Body position at the end of a track. */
const endPosition = (track: PendulumTrack): number => pendulumPosition(track, track.times[track.times.length - 1]!);

/** The pendulum that starts at `start` (m) with the one velocity that ends with ξ = `lastDivergent`. */
export function pendulumTo(path: SupportPath, omega: number, start: number, lastDivergent: number): PendulumTrack {
  return assemble(path, omega, divergentBackwards(path, omega, lastDivergent), start);
}

/** The one periodic pendulum over a closed support path (last point = first point). */
export function pendulumPeriodic(path: SupportPath, omega: number): PendulumTrack {
  // Both maps over one period are affine and contract (ξ backwards, x forwards), so two evaluations give the fixed point.
  const first = (last: number) => divergentBackwards(path, omega, last)[0]!;
  const xi0 = fixedPoint(first);
  const xi = divergentBackwards(path, omega, xi0);
  return assemble(
    path,
    omega,
    xi,
    fixedPoint((x) => endPosition(assemble(path, omega, xi, x))),
  );
}

/**
 * From rest to rest: the support path is bent at two knots (while standing before the first step and after the last),
 * by just the amounts that let the body start and end without velocity. This is the weight shift before a first step
 * and the settling after a last one; nothing is drawn by hand.
 */
export function pendulumRestToRest(path: SupportPath, omega: number, startKnot: number, endKnot: number): PendulumTrack {
  const start = path.points[0]!,
    end = path.points[path.points.length - 1]!;
  const bent = (a: number, b: number): SupportPath => ({
    times: path.times,
    points: path.points.map((p, i) => p + (i === startKnot ? a : 0) + (i === endKnot ? b : 0)),
  });
  const misses = (a: number, b: number): [number, number] => {
    const p = bent(a, b);
    const xi = divergentBackwards(p, omega, end);
    return [xi[0]! - start, endPosition(assemble(p, omega, xi, start)) - end];
  };
  // Both misses are affine in (a, b): three evaluations and a 2 × 2 solve are exact.
  const [m0, m1] = misses(0, 0);
  const [a0, a1] = misses(1, 0).map((v, i) => v - [m0, m1][i]!) as [number, number];
  const [b0, b1] = misses(0, 1).map((v, i) => v - [m0, m1][i]!) as [number, number];
  const det = a0 * b1 - b0 * a1;
  if (!(Math.abs(det) > 1e-15)) throw new RangeError('pendulumRestToRest: the standing times are too short to start or settle in');
  return pendulumTo(bent((-m0 * b1 + m1 * b0) / det, (-a0 * m1 + a1 * m0) / det), omega, start, end);
}

/** A body moving with constant velocity: the pendulum whose support point runs along under it. */
export function constantMotion(start: number, velocity: number, duration: number): PendulumTrack {
  const one = (v: number) => Float64Array.of(v);
  return { omega: 1, times: Float64Array.of(0, duration), support: one(start), supportRate: one(velocity), grow: one(0), decay: one(0) };
}

function fixedPoint(affine: (x: number) => number): number {
  const a = affine(0),
    b = affine(1) - a;
  return a / (1 - b);
}

/** Body position in metres at time t (s). */
export function pendulumPosition(track: PendulumTrack, t: number): number {
  const i = seekIndex(track.times, track.support.length, t);
  const dt = t - track.times[i]!;
  const e = track.grow[i] === 0 && track.decay[i] === 0 ? 1 : Math.exp(track.omega * dt);
  return track.support[i]! + track.supportRate[i]! * dt + track.grow[i]! * e + track.decay[i]! / e;
}

/** Body velocity in m/s at time t (s). */
export function pendulumVelocity(track: PendulumTrack, t: number): number {
  const i = seekIndex(track.times, track.support.length, t);
  const e = Math.exp(track.omega * (t - track.times[i]!));
  return track.supportRate[i]! + track.omega * (track.grow[i]! * e - track.decay[i]! / e);
}

/** Support point in metres at time t (s). */
export function pendulumSupport(track: PendulumTrack, t: number): number {
  const i = seekIndex(track.times, track.support.length, t);
  return track.support[i]! + track.supportRate[i]! * (t - track.times[i]!);
}
