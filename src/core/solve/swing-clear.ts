import { clamp } from '../math/scalar';
import { FOOT, FOOT_SIZE } from './foot-state';
import { LEG_ANGLE, spanAt, toLegLine } from './leg-angles';
import { HIP_JOINT_SIZE } from './leg-shape';
import { solePoints } from './rocker';
import { soleAxes } from './sole-frame';
import { goOver } from './swing-over';
import { BUMP, BUMP_OF, bumpAt, BUMPS, bumpsNeeded, evenBump, stateAt, type Swing, type SwingPlace } from './swing-state';

/** Places in the swing where the clearance is checked: dense at the ends, where a sole can dip under the ground unseen. */
const CHECKS = Float64Array.from({ length: 32 }, (_, i) => (1 - Math.cos((Math.PI * (i + 0.5)) / 32)) / 2);
/** Ground this far (m) off a plane is none. */
const PLANAR_M = 1e-9;
/** Rounds of raising; the most one of them raises, m. */
const ROUNDS = 24;
/** Rounds after which nothing is lowered again: what has not come to rest by then goes to and fro. */
const SWAYING = 7;
const MOST_RAISE_M = 0.15;
/** What raising hardly helps is not raised without end: legs in the middle, and towards the ends. */
const MOST_LEGS = 0.45;
const MOST_END_LEGS = 0.2;
/** Heights this close (m) are met; outside the middle, where a sole comes and goes with the ground, so much. */
const SHORT_M = 1e-5;
const END_SHORT_M = 4e-5;
/** By this part of it more than allowed ends the search, where no bump moves by more than so much, m. */
const NEARLY = 0.25;
const SETTLED_M = 2e-3;
/** Where in the swing it is looked how each bump raises. */
const RAISED_AT = [0.25, 0.5, 0.88] as const;
/** A leg closer than this (m) to straight up and down lifts by its knee rather than by its thigh. */
const LEVER_M = 0.08;
/** Bend (rad) by which the knee's own lever is told: at a straight one it has none. */
const LEVER_BEND_RAD = 0.3;

/**
 * Raises the swing until every sole point clears the ground by `clearance` m in the middle, and by nothing at the ends: by as
 * little as does it.
 */
export function clearGround(swing: Swing, place: SwingPlace, clearance: number): void {
  if (!raise(swing, place, clearance)) goOver(swing, place, clearance);
}

/** Where the sole of a swing is against the ground, check by check. */
interface SoleWay {
  /** By how much (m) the lowest point of the sole is short of its clearance. */
  readonly shorts: Float64Array;
  /** The leg's three angles. */
  readonly angles: Float64Array;
  /** The ground's slope along x and z at the last check. */
  readonly climb: Float64Array;
  /** Whether all ground looked at so far is one plane. */
  planar: boolean;
  /** Looks anew. */
  look(): void;
}

function createSoleWay(swing: Swing, { leg, ground, joint }: SwingPlace, clearance: number, checks: Float64Array): SoleWay {
  const { sole } = leg;
  const count = checks.length;
  const state = new Float64Array(FOOT_SIZE);
  const points = new Float64Array(6);
  const axes = new Float64Array(6);
  const r = new Float64Array(3);
  const joints = new Float64Array(count * 3);
  const clock = new Float64Array(1);
  const hip = new Float64Array(HIP_JOINT_SIZE);
  for (let i = 0; i < count; i++) {
    clock[0] = swing.from + checks[i]! * swing.duration;
    joint(clock, hip);
    for (let k = 0; k < 3; k++) joints[i * 3 + k] = hip[k]!;
  }
  /** Heights (m) of the sole's points and of the ground under them, check by check. */
  const soles = new Float64Array(3 * count),
    under = new Float64Array(3 * count);
  let plane = NaN;
  function lookAt(i: number): void {
    stateAt(swing, checks[i]!, state, 0);
    toLegLine(leg, state, 0, swing.sin, swing.cos, r, 0);
    solePoints(sole, state[FOOT.pitch]!, state[FOOT.bend]!, points);
    soleAxes(state, FOOT.heading, axes, 0);
    // A rolled sole has its outer edge lower than its middle.
    const edge = (sole.breadth / 2) * Math.abs(Math.sin(state[FOOT.roll]!));
    for (let k = 0; k < 3; k++) {
      const ahead = points[2 * k]!,
        up = points[2 * k + 1]! - edge;
      const x = joints[i * 3]! + r[0]! + axes[0]! * ahead + axes[3]! * up,
        z = joints[i * 3 + 2]! + r[2]! + axes[2]! * ahead + axes[5]! * up;
      soles[3 * i + k] = joints[i * 3 + 1]! + r[1]! + axes[1]! * ahead + axes[4]! * up;
      under[3 * i + k] = ground.height(x, z);
      const level = under[3 * i + k]! - state[FOOT.slopeX]! * x - state[FOOT.slopeZ]! * z;
      if (Number.isNaN(plane)) plane = level;
      way.planar &&= Math.abs(level - plane) <= PLANAR_M;
    }
    for (let k = 0; k < 3; k++) way.angles[3 * i + k] = state[k]!;
  }
  function shortAt(i: number): number {
    let short = -Infinity;
    for (let o = 3 * i; o < 3 * i + 3; o++) {
      short = Math.max(short, under[o]! - soles[o]!);
    }
    return short + clearance * evenBump(checks[i]!);
  }
  const way: SoleWay = {
    shorts: new Float64Array(count),
    angles: new Float64Array(3 * count),
    climb: new Float64Array(2),
    planar: true,
    look() {
      for (let i = 0; i < count; i++) lookAt(i);
      for (let i = 0; i < count; i++) way.shorts[i] = shortAt(i);
      way.climb[0] = state[FOOT.slopeX]!;
      way.climb[1] = state[FOOT.slopeZ]!;
    },
  };
  return way;
}

/** Raises by what is needed at the checks. Tells whether the ground is a plane; where it is none, nothing is done. */
function raise(swing: Swing, place: SwingPlace, clearance: number): boolean {
  const checks = CHECKS;
  const way = createSoleWay(swing, place, clearance, checks);
  const { leg } = place;
  const count = checks.length;
  const gains = new Float64Array(BUMPS * count),
    needs = new Float64Array(count);
  const directions = new Float64Array(3 * BUMPS);
  const raisedAt = Float64Array.from(RAISED_AT);
  const raised = new Float64Array(BUMPS),
    wanted = new Float64Array(BUMPS);
  const lifted = new Float64Array(3);
  const bumps = [swing.early, swing.even, swing.late] as const;
  const before = bumps.map((b) => b.slice());
  let moved = 0;
  for (let round = 0; round < ROUNDS; round++) {
    const lowers = round < SWAYING;
    way.look();
    if (!way.planar) return false;
    if (!missing(way.shorts, checks, needs) && moved < SETTLED_M) break;
    if (!lowers) for (let k = 0; k < BUMPS; k++) raisedAt[k] = worstOf(k, checks, needs) ?? RAISED_AT[k]!;
    if (!lowers || round === 0) toDirections(swing, leg, way.climb, raisedAt, directions);
    for (let i = 0; i < count; i++) {
      liftOf(leg, swing, way.angles, 3 * i, way.climb, lifted);
      gainsAt(lifted, checks[i]!, directions, gains, BUMPS * i);
      if (lowers) for (let k = 0; k < BUMPS; k++) needs[i] = needs[i]! + gains[BUMPS * i + k]! * raised[k]!;
    }
    bumpsNeeded(checks, gains, needs, wanted);
    if (lowers) for (let k = 0; k < BUMPS; k++) wanted[k] = wanted[k]! - raised[k]!;
    moved = 0;
    // What is still to be done in the middle comes first.
    const ends = Math.abs(wanted[BUMP.even]!) <= MOST_RAISE_M;
    for (let k = 0; k < BUMPS; k++) {
      if (k !== BUMP.even && !ends) continue;
      const most = (k === BUMP.even ? MOST_LEGS : MOST_END_LEGS) * (leg.thigh + leg.shank);
      const by = clamp(clamp(wanted[k]!, -MOST_RAISE_M, MOST_RAISE_M), -most - raised[k]!, most - raised[k]!);
      raised[k] = raised[k]! + by;
      moved = Math.max(moved, Math.abs(by));
      for (let j = 0; j < 3; j++) bumps[k]![j] = bumps[k]![j]! + by * directions[3 * k + j]!;
    }
  }
  if (Math.max(...raised) > OVERDONE_M) lessRaised(way, checks, bumps, before);
  return true;
}

/** A search that raised by more (m) has gone to and fro past what is needed: less does, to so much (m); so many halvings tell. */
const OVERDONE_M = 0.25;
const ENOUGH_M = 0.003;
const HALVINGS = 9;

/** Takes back what was raised in vain: the least part of it that clears the ground as well as all of it does, or nearly. */
function lessRaised(way: SoleWay, checks: Float64Array, bumps: readonly Float64Array[], before: readonly Float64Array[]): void {
  const all = bumps.map((b) => b.slice());
  const needs = new Float64Array(checks.length);
  const shortWith = (share: number): number => {
    bumps.forEach((b, k) => b.forEach((_, j) => (b[j] = before[k]![j]! + share * (all[k]![j]! - before[k]![j]!))));
    way.look();
    missing(way.shorts, checks, needs);
    return needs.reduce((most, n) => Math.max(most, n), 0);
  };
  const enough = Math.max(shortWith(1) + SHORT_M, ENOUGH_M);
  let [lo, hi] = [0, 1];
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (lo + hi) / 2;
    if (shortWith(middle) <= enough) hi = middle;
    else lo = middle;
  }
  shortWith(hi);
}

/** What (m) is missing at each check over what is allowed, to out; tells whether it is too much anywhere. */
function missing(shorts: Float64Array, checks: Float64Array, out: Float64Array): boolean {
  let over = false;
  for (let i = 0; i < checks.length; i++) {
    const allowed = bumpAt(checks[i]!) === BUMP.even ? SHORT_M : END_SHORT_M;
    out[i] = shorts[i]! + dip(shorts, i) - allowed;
    over ||= out[i]! > NEARLY * allowed;
  }
  return over;
}

/** Rise (m) by each bump at part u of the swing, from what each angle lifts (m/rad), to out[o..]. */
function gainsAt(lifted: Float64Array, u: number, directions: Float64Array, out: Float64Array, o: number): void {
  for (let k = 0; k < BUMPS; k++) {
    const d = 3 * k;
    out[o + k] = BUMP_OF[k]!(u) * (directions[d]! * lifted[0]! + directions[d + 1]! * lifted[1]! + directions[d + 2]! * lifted[2]!);
  }
}

/** Where in a bump's part of the swing most is missing; null where nothing is. */
function worstOf(bump: number, checks: Float64Array, needs: Float64Array): number | null {
  let most = 0,
    found: number | null = null;
  for (let i = 0; i < checks.length; i++)
    if (needs[i]! > most && bumpAt(checks[i]!) === bump) {
      most = needs[i]!;
      found = checks[i]!;
    }
  return found;
}

/** What lies over a look that is higher than its neighbours: the peak of the parabola through all three. */
function dip(v: Float64Array, i: number): number {
  if (i === 0 || i + 1 === v.length) return 0;
  const a = v[i - 1]!,
    b = v[i]!,
    c = v[i + 1]!;
  if (b < a || b < c) return 0;
  const curved = 2 * b - a - c;
  return curved > 1e-12 ? ((a - c) * (a - c)) / (8 * curved) : 0;
}

/**
 * Rise (m over the ground) of the ankle by each of the three angles (rad) at q[i..], to out[0..2]. `climb`: the ground's slope. A
 * straight knee has no lever, but gets one as it bends.
 */
function liftOf(leg: SwingPlace['leg'], { sin, cos }: Swing, q: Float64Array, i: number, climb: Float64Array, out: Float64Array): void {
  const bend = Math.max(LEVER_BEND_RAD, q[i + LEG_ANGLE.bend]!);
  const span = spanAt(leg, bend);
  const sf = Math.sin(q[i]!),
    cf = Math.cos(q[i]!),
    sl = Math.sin(q[i + 1]!),
    cl = Math.cos(q[i + 1]!);
  const ahead = climb[0]! * sin + climb[1]! * cos,
    aside = climb[0]! * cos - climb[1]! * sin;
  // A bent knee shortens the leg.
  const shorter = (leg.thigh * leg.shank * Math.sin(bend)) / span;
  out[0] = span * cl * (sf - ahead * cf);
  out[1] = span * (cf * sl - aside * cl + ahead * sf * sl);
  out[2] = shorter * (cf * cl + ahead * sf * cl + aside * sl);
}

/**
 * Angles (rad a metre) by which each bump raises at its place: early and in the middle straight up, so that no edge ahead comes closer; late
 * by the thigh as far as that lies ahead.
 */
function toDirections(swing: Swing, leg: SwingPlace['leg'], climb: Float64Array, places: Float64Array, out: Float64Array): void {
  const at = new Float64Array(FOOT_SIZE);
  const gain = new Float64Array(3);
  for (let k = 0; k < BUMPS; k++) {
    stateAt(swing, places[k]!, at, 0);
    const forward = at[LEG_ANGLE.forward]!,
      bend = Math.max(LEVER_BEND_RAD, at[LEG_ANGLE.bend]!);
    out[3 * k + 1] = 0;
    if (k !== BUMP.late) {
      const span = spanAt(leg, bend);
      out[3 * k] = Math.sin(forward) / span;
      out[3 * k + 2] = (Math.cos(forward) * span) / (leg.thigh * leg.shank * Math.sin(bend));
      continue;
    }
    liftOf(leg, swing, at, 0, climb, gain);
    const thigh = Math.max(0, gain[LEG_ANGLE.forward]!),
      knee = gain[LEG_ANGLE.bend]!;
    const byKnee = (LEVER_M * LEVER_M) / (LEVER_M * LEVER_M + thigh * thigh);
    const square = thigh * thigh + byKnee * knee * knee;
    out[3 * k] = thigh / square;
    out[3 * k + 2] = (byKnee * knee) / square;
  }
}
