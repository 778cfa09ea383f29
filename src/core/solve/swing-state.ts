import type { LegMeasures } from '../body/legs';
import type { LegThickness } from '../body/limbs';
import type { Side } from '../body/roles';
import type { Ground } from '../ground/ground';
import { clamp, softRamp, wrapAngle } from '../math/scalar';
import type { SwingStyle } from '../schedule/foothold';
import { FOOT, FOOT_SIZE } from './foot-state';
import { LEG_ANGLE } from './leg-angles';
import type { LegShaper } from './leg-shape';

/**
 * A leg's way from one foothold to the next, in the leg's own terms: a quintic for each angle and each number of the foot,
 * and bumps on top. The ankle follows from the hips, so the leg is never asked for more than it has. A swing's state has
 * LEG_ANGLE's three numbers in the place of the ankle's, then the foot's own as FOOT has them.
 */
export interface Swing {
  readonly from: number;
  readonly duration: number;
  /** Heading the angles are seen along: sine and cosine. */
  readonly sin: number;
  readonly cos: number;
  /** Per number of the state: value and rate at the start, then the quintic's four further coefficients in u. */
  readonly curves: Float64Array;
  /** Styled lift: its angles at the peak, and the exponents of its bump. */
  readonly lift: Float64Array;
  readonly rising: number;
  readonly falling: number;
  /** Angles of a bump that is even over the swing: what clears the ground and goes round the other leg. */
  readonly even: Float64Array;
  /** Angles of a bump late in the swing, and early in it. */
  readonly late: Float64Array;
  readonly early: Float64Array;
  /** Angles at which the foot waits before it drops, and the part of the swing in which it drops. */
  readonly wait: Float64Array;
  readonly drop: number;
  /** What takes the foot over ground that is no plane: thigh and bend at OVER_KNOTS even places, then the moments of both; null over a plane. */
  over: Float64Array | null;
  /** Time warps of the leg's swing forward and of the foot's pitch, −1 late … 1 early. */
  readonly bias: number;
  readonly pitchBias: number;
  /** Roll onto the outer edge in mid-swing, rad. */
  readonly roll: number;
  /** Bend (rad) below which the knee is rounded off, and over how much. */
  readonly least: number;
  readonly rounding: number;
  /** Bend above which it is, and over how much; neither touches the ends. */
  readonly most: number;
  readonly folding: number;
  /** What the style wants of it, and by how much it is scaled. */
  readonly style: SwingStyle;
  readonly share: number;
  /** Ends, the ground under the way and the other leg in the middle: what a swing is known by. */
  known: () => Float64Array;
}

/** Numbers of one curve. */
export const COEFFICIENTS = 6;

export interface SwingEnds {
  readonly from: number;
  readonly to: number;
  /** States at both ends and their rates. */
  readonly start: Float64Array;
  readonly startRate: Float64Array;
  readonly end: Float64Array;
  readonly endRate: Float64Array;
  readonly heading: number;
  /** How much (−1 … 1) it goes a step down or up. */
  readonly stepsUp: number;
}

/** Where a swing goes over. */
export interface SwingPlace {
  readonly leg: LegMeasures;
  readonly side: Side;
  readonly ground: Ground;
  /** Writes where the hip joint is (HIP_JOINT) at clock[0] seconds to out. */
  readonly joint: (clock: Float64Array, out: Float64Array) => void;
  /** Lays the swinging leg out, and writes the points of the other one at clock[0] seconds if it stands then. */
  readonly shape: LegShaper;
  readonly other: (clock: Float64Array, out: Float64Array) => boolean;
  readonly thickness: LegThickness;
  /** Farthest (rad) to the side the leg is taken to go round the other one. */
  readonly aside: number;
  /** Hardest (rad/s²) that going over the ground turns it. */
  readonly hardest: number;
}

/** The knee of a swinging leg folds to this (rad), over that much of rounding at most. */
export const MOST_BEND_RAD = 2.58;
export const MOST_ROUNDING_RAD = 0.2;

/** 0 at both ends, growing with the square of the time from them (as a sole's dip there does), 1 in the middle. */
export const evenBump = (u: number): number => 16 * u * u * (1 - u) * (1 - u);
/** What more acceleration at one end alone does to a quintic, with a peak of 1 at ⅗ and at ⅖. */
const END_BUMP = 3125 / 108;
const lateBump = (u: number): number => END_BUMP * u * u * u * (1 - u) * (1 - u);
const earlyBump = (u: number): number => lateBump(1 - u);

/** Parts of a swing: what is needed in the middle is done by the even bump, before and after it by the early and the late one. */
const MIDDLE = [0.3, 0.7] as const;
export const BUMPS = 3;
export const BUMP = { early: 0, even: 1, late: 2 } as const;
export const bumpAt = (u: number): number => (u < MIDDLE[0] ? BUMP.early : u > MIDDLE[1] ? BUMP.late : BUMP.even);
export const BUMP_OF = [earlyBump, evenBump, lateBump] as const;

/**
 * By how much each bump is needed so that gains · amounts reach needs at all places: the even one by what the middle needs, the
 * others by what is still missing at their ends. Continuous in gains and needs, as the largest of quotients is.
 * @param gains BUMPS numbers a place
 */
export function bumpsNeeded(places: Float64Array, gains: Float64Array, needs: Float64Array, out: Float64Array): void {
  out.fill(0);
  for (const bump of [BUMP.even, BUMP.early, BUMP.late])
    for (let i = 0; i < places.length; i++) {
      if (bumpAt(places[i]!) !== bump) continue;
      const gain = gains[BUMPS * i + bump]!;
      const missing = needs[i]! - (bump === BUMP.even ? 0 : gains[BUMPS * i + BUMP.even]! * out[BUMP.even]!);
      if (gain > LEAST_GAIN) out[bump] = Math.max(out[bump]!, missing / gain);
    }
}
/** A bump that gains less at a place is of no use there. */
const LEAST_GAIN = 1e-9;

/** A knee that straightens as it leaves is stopped over so much of its bend, but not by more than this, rad/s². */
const STOP_SHARE = 0.7;
const MOST_STOP = 700;

/**
 * Quintics from (start, rate) to (end, rate), as p0 + a u + u² (c2 + u (c3 + u (c4 + u c5))), with zero acceleration at both ends;
 * only a knee that straightens as it leaves is stopped before it is straight.
 */
export function quintics({ start, startRate, end, endRate }: SwingEnds, duration: number): Float64Array {
  const curves = new Float64Array(FOOT_SIZE * COEFFICIENTS);
  for (let k = 0; k < FOOT_SIZE; k++) {
    // The shorter way round, so a heading of 179° meets −179° over 2°.
    const d = k === FOOT.heading ? wrapAngle(end[k]! - start[k]!) : end[k]! - start[k]!,
      a = startRate[k]! * duration,
      b = endRate[k]! * duration;
    const straightens = k === LEG_ANGLE.bend ? Math.min(0, startRate[k]!) : 0;
    const stop = Math.min(MOST_STOP, (straightens * straightens) / (2 * STOP_SHARE * Math.max(1e-3, start[k]!)));
    const c = (stop * duration * duration) / 2;
    curves.set([start[k]!, a, c, 10 * d - 6 * a - 4 * b - 3 * c, -15 * d + 8 * a + 7 * b + 3 * c, 6 * d - 3 * a - 3 * b - c], k * COEFFICIENTS);
  }
  return curves;
}

/** Even places of what goes over uneven ground. */
export const OVER_KNOTS = 49;

/** Adds what goes over uneven ground at u. */
function addOver(over: Float64Array, u: number, out: Float64Array, o: number): void {
  const s = u * (OVER_KNOTS - 1);
  const i = Math.min(OVER_KNOTS - 2, Math.floor(s));
  const b = s - i,
    a = 1 - b;
  const ca = (a * a * a - a) / 6,
    cb = (b * b * b - b) / 6;
  for (let k = 0; k < 2; k++) {
    const v = k * OVER_KNOTS + i,
      m = v + 2 * OVER_KNOTS;
    const j = o + (k === 0 ? LEG_ANGLE.forward : LEG_ANGLE.bend);
    out[j] = out[j]! + a * over[v]! + b * over[v + 1]! + ca * over[m]! + cb * over[m + 1]!;
  }
}

/** State at part u of the swing, to out[o..]: it joins the stances with equal value and velocity. */
export function stateAt(swing: Swing, u: number, out: Float64Array, o: number): void {
  const { curves, even, late, early } = swing;
  const v = 16 * u * u * (1 - u) * (1 - u);
  // Early or late swing: a time warp with slope 1 at both ends keeps the joining velocities.
  const moved = u + 0.25 * swing.bias * v;
  const pitched = u + 0.25 * swing.pitchBias * v;
  for (let k = 0, i = 0; k < FOOT.roll; k++, i += COEFFICIENTS) {
    const w = k === LEG_ANGLE.forward || k === LEG_ANGLE.left ? moved : k === FOOT.pitch || k === FOOT.bend ? pitched : u;
    out[o + k] = curves[i]! + w * (curves[i + 1]! + w * (curves[i + 2]! + w * (curves[i + 3]! + w * (curves[i + 4]! + w * curves[i + 5]!))));
  }
  const u2 = u * u,
    w2 = (1 - u) * (1 - u);
  const later = END_BUMP * u2 * u * w2,
    earlier = END_BUMP * u2 * w2 * (1 - u);
  // 0 and flat at both ends, 1 at the peak; one of the two exponents always is 2.
  const { rising: a, falling: b } = swing;
  const peak = a / (a + b);
  const up = u / peak,
    down = (1 - u) / (1 - peak);
  const lifted = (a === 2 ? up * up : Math.pow(up, a)) * (b === 2 ? down * down : Math.pow(down, b));
  // The waiting foot rises gently through the swing and peaks `drop` before its end.
  const x = (1 - u) / swing.drop;
  const open = Math.min(1, u * 4);
  const waits = swing.wait[0] === 0 && swing.wait[2] === 0 ? 0 : x * x * Math.exp(2 - 2 * x) * open * open * (3 - 2 * open);
  for (let k = 0; k < 3; k++)
    out[o + k] = out[o + k]! + v * even[k]! + later * late[k]! + earlier * early[k]! + lifted * swing.lift[k]! + waits * swing.wait[k]!;
  if (swing.over !== null) addOver(swing.over, u, out, o);
  const folded = swing.most - softRamp(swing.most - out[o + 2]!, swing.folding);
  out[o + 2] = swing.least + softRamp(folded - swing.least, swing.rounding);
  out[o + FOOT.roll] = swing.roll * v;
}

/** The same at clock[c] seconds. */
export function evaluateSwing(swing: Swing, clock: Float64Array, c: number, out: Float64Array, o: number): void {
  stateAt(swing, clamp((clock[c]! - swing.from) / swing.duration, 0, 1), out, o);
}
