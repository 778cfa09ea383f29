import type { LegMeasures } from '../body/legs';
import type { Side } from '../body/roles';
import type { Ground } from '../ground/ground';
import { clamp, softRamp, wrapAngle } from '../math/scalar';
import type { SwingStyle } from '../schedule/foothold';
import { FOOT, FOOT_SIZE } from './foot-state';
import type { LegThickness } from '../body/limbs';
import { LEG_ANGLE, toLegAngles, toLegLine, spanAt } from './leg-angles';
import { APART, APART_SIZE, HIP_JOINT_SIZE, LEG_POINTS_SIZE, legsApart, type LegShaper } from './leg-shape';
import { solePoints } from './rocker';
import { soleAxes } from './sole-frame';

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
  /** Per number of the state: value and rate at the start, then the quintic's three further coefficients in u. */
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
  /** Ends, the ground under the way and the other leg in the middle: what a swing is known by. */
  known: () => Float64Array;
}

const COEFFICIENTS = 5;

export interface SwingEnds {
  readonly from: number;
  readonly to: number;
  /** States at both ends and their rates. */
  readonly start: Float64Array;
  readonly startRate: Float64Array;
  readonly end: Float64Array;
  readonly endRate: Float64Array;
  readonly heading: number;
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
}

/** Places in the swing where the clearance is checked: dense at the ends, where a sole can dip under the ground unseen. */
const CHECKS = Float64Array.from({ length: 32 }, (_, i) => (1 - Math.cos((Math.PI * (i + 0.5)) / 32)) / 2);
/** Places looked at besides where the ground is no plane: close enough together that no edge slips between two of them. */
const CLOSE_CHECKS = Float64Array.from({ length: 240 }, (_, i) => (i + 0.5) / 240);
/** Ground this far (m) off a plane is none. */
const PLANAR_M = 1e-9;
/** Rounds of raising, and where (parts of the swing) the two ends are taken on their own. */
const RAISES = 28;
const EARLY_TO = 0.3;
const LATE_FROM = 0.7;
/** The knee of a swinging leg folds to this (rad), over that much of rounding at most. */
const MOST_BEND_RAD = 2.58;
const MOST_ROUNDING_RAD = 0.2;

/** 0 at both ends, growing with the square of the time from them (as a sole's dip there does), 1 in the middle. */
const evenBump = (u: number): number => 16 * u * u * (1 - u) * (1 - u);
/** What more acceleration at one end alone does to a quintic, with a peak of 1 at ⅗ and at ⅖. */
const END_BUMP = 3125 / 108;
const lateBump = (u: number): number => END_BUMP * u * u * u * (1 - u) * (1 - u);
const earlyBump = (u: number): number => lateBump(1 - u);

/** Prepares a swing whose whole sole clears the ground by the style's clearance (less near its ends). `share` scales its lift. */
export function createSwing(place: SwingPlace, style: SwingStyle, ends: SwingEnds, share: number, straightest: number, twin: Swing | null = null): Swing {
  // A peak close to an end would kick: the range of the style is drawn in.
  const p = 0.5 + LIFT_PEAK_SHARE * (style.liftPeak - 0.5);
  const duration = ends.to - ends.from;
  const ended = Math.min(ends.start[LEG_ANGLE.bend]!, ends.end[LEG_ANGLE.bend]!);
  const least = Math.min(0.6 * straightest, 0.5 * ended);
  const folded = Math.max(ends.start[LEG_ANGLE.bend]!, ends.end[LEG_ANGLE.bend]!),
    most = Math.max(MOST_BEND_RAD, folded + 1e-3);
  const swing: Swing = {
    from: ends.from,
    duration,
    sin: Math.sin(ends.heading),
    cos: Math.cos(ends.heading),
    curves: quintics(ends, duration),
    lift: new Float64Array(3),
    even: new Float64Array(3),
    late: new Float64Array(3),
    early: new Float64Array(3),
    wait: new Float64Array(3),
    rising: p <= 0.5 ? 2 : (2 * p) / (1 - p),
    falling: p <= 0.5 ? (2 * (1 - p)) / p : 2,
    drop: Math.min(LONGEST_DROP, DROP_S / duration),
    roll: style.roll * share,
    bias: style.swingBias,
    pitchBias: style.pitchBias,
    least,
    rounding: Math.min(0.06, ended - least),
    most,
    folding: Math.min(MOST_ROUNDING_RAD, most - folded),
    known: () => NOTHING,
  };
  swing.known = () => knownBy(swing, place);
  if (twin && alike(swing, twin)) {
    for (const key of ['lift', 'even', 'late', 'early', 'wait'] as const) swing[key].set(twin[key]);
    return swing;
  }
  lift(swing, place.leg, p, style.lift * share);
  // Sideways by an angle that makes the arc wanted at mid-swing.
  const at = new Float64Array(FOOT_SIZE);
  stateAt(swing, 0.5, at, 0);
  swing.even[LEG_ANGLE.left] = ((place.side === 0 ? 1 : -1) * style.swingOut * share) / spanAt(place.leg, at[LEG_ANGLE.bend]!);
  waitFor(swing, place.leg, ends, style.landing * share);
  goRound(swing, place);
  clear(swing, place, CLEAR_MORE * style.clearance * share);
  return swing;
}

/** Quintics from (start, rate) to (end, rate) with zero acceleration at both ends, as p0 + a u + u³ (c3 + u (c4 + u c5)). */
function quintics({ start, startRate, end, endRate }: SwingEnds, duration: number): Float64Array {
  const curves = new Float64Array(FOOT_SIZE * COEFFICIENTS);
  for (let k = 0; k < FOOT_SIZE; k++) {
    // The shorter way round, so a heading of 179° meets −179° over 2°.
    const d = k === FOOT.heading ? wrapAngle(end[k]! - start[k]!) : end[k]! - start[k]!,
      a = startRate[k]! * duration,
      b = endRate[k]! * duration;
    curves.set([start[k]!, a, 10 * d - 6 * a - 4 * b, -15 * d + 8 * a + 7 * b, 6 * d - 3 * a - 3 * b], k * COEFFICIENTS);
  }
  return curves;
}

/** How far the peak of a lift leaves the middle, as a part of what the style says. */
const LIFT_PEAK_SHARE = 0.6;

const NOTHING = new Float64Array(0);
/** Places of the way at which the ground tells one swing from another; and how close (m, rad) known numbers are alike. */
const GROUND_PLACES = 8;
const ALIKE = 1e-5;

/** Numbers that tell whether what was found for one swing holds for another: all against where and when it begins. */
function knownBy(swing: Swing, { joint, other, ground }: SwingPlace): Float64Array {
  const clock = new Float64Array(1);
  const hip = new Float64Array(HIP_JOINT_SIZE),
    points = new Float64Array(LEG_POINTS_SIZE);
  const out = new Float64Array(FOOT_SIZE * COEFFICIENTS + 3 * GROUND_PLACES + LEG_POINTS_SIZE + 1);
  out.set(swing.curves);
  out[FOOT.heading * COEFFICIENTS] = 0;
  let o = swing.curves.length;
  let x0 = 0,
    y0 = 0,
    z0 = 0;
  for (let i = 0; i < GROUND_PLACES; i++) {
    clock[0] = swing.from + ((i + 0.5) / GROUND_PLACES) * swing.duration;
    joint(clock, hip);
    if (i === 0) [x0, y0, z0] = [hip[0]!, hip[1]!, hip[2]!];
    const dx = hip[0]! - x0,
      dz = hip[2]! - z0;
    out[o++] = dx * swing.sin + dz * swing.cos;
    out[o++] = hip[1]! - y0;
    out[o++] = hip[1]! - ground.height(hip[0]!, hip[2]!);
  }
  clock[0] = swing.from + 0.5 * swing.duration;
  const stands = other(clock, points);
  out[o++] = stands ? 1 : 0;
  if (!stands) return out;
  for (let k = 0; k < LEG_POINTS_SIZE; k += 3) {
    const dx = points[k]! - x0,
      dz = points[k + 2]! - z0;
    out[o++] = dx * swing.sin + dz * swing.cos;
    out[o++] = points[k + 1]! - y0;
    out[o++] = dx * swing.cos - dz * swing.sin;
  }
  return out;
}

function alike(a: Swing, b: Swing): boolean {
  if (Math.abs(a.duration - b.duration) > 1e-7 || a.bias !== b.bias || a.pitchBias !== b.pitchBias || a.roll !== b.roll) return false;
  const [own, other] = [a.known(), b.known()];
  for (let i = 0; i < own.length; i++) if (!(Math.abs(own[i]! - other[i]!) <= ALIKE)) return false;
  return true;
}

/** Scratch for lines of a leg. */
const line = () => new Float64Array(3);

/** Angles that take the ankle straight up by `by` m from where the swing has it at u, to out. */
function upward(swing: Swing, leg: LegMeasures, u: number, by: number, out: Float64Array): void {
  const at = new Float64Array(FOOT_SIZE);
  const r = line(),
    q = line();
  stateAt(swing, u, at, 0);
  toLegLine(leg, at, 0, swing.sin, swing.cos, r, 0);
  r[1] = r[1]! + by;
  toLegAngles(leg, r, 0, swing.sin, swing.cos, q, 0);
  for (let k = 0; k < 3; k++) out[k] = q[k]! - at[k]!;
}

/** The styled lift: what takes the ankle up by `height` m where it peaks. */
function lift(swing: Swing, leg: LegMeasures, peak: number, height: number): void {
  if (height > 0) upward(swing, leg, peak, height, swing.lift);
}

/** Time (s) over which a hard landing drops, and the largest part of the swing it may take. */
const DROP_S = 0.05;
const LONGEST_DROP = 0.2;
/** Steepest slope of x² e^(2 − 2x) between 0 and its peak at 1: at x = 1 − √½. */
const STEEPEST = 1.7036;
/** A leg closer than this (m) to straight up and down lifts by its knee rather than by its thigh. */
const LEVER_M = 0.08;
/** Bend (rad) by which the knee's own lever is told: at a straight one it has none. */
const LEVER_BEND_RAD = 0.3;

/** How high the foot waits so that it drops with `speed` (m/s) and still comes to stand without a kick. */
function waitFor(swing: Swing, leg: LegMeasures, ends: SwingEnds, speed: number): void {
  if (!(speed > 0)) return;
  const height = (speed * swing.drop * swing.duration) / STEEPEST;
  const q = ends.end;
  const thigh = spanAt(leg, q[2]!) * Math.sin(q[0]!) * Math.cos(q[1]!);
  const bend = Math.max(LEVER_BEND_RAD, q[2]!);
  const knee = (leg.thigh * leg.shank * Math.sin(bend) * Math.cos(q[0]!)) / spanAt(leg, bend);
  const square = thigh * thigh + knee * knee + LEVER_M * LEVER_M;
  swing.wait[LEG_ANGLE.forward] = (height * thigh) / square;
  swing.wait[LEG_ANGLE.bend] = (height * knee) / square;
}

/** Where a swing is looked at for the other leg, and rounds of going out of its way. */
const PASSING = Float64Array.from({ length: 9 }, (_, i) => 0.03 + (0.94 * (i + 0.5)) / 9);
const ROUNDS_ROUND = 7;
/** Room (m) kept between the legs, the most one round goes out (rad), and the least part of its way that helps. */
const ROOM_M = 0.004;
const WIDEST_RAD = 0.3;
const LEAST_HELP = 0.35;

/** Takes the leg round the other one where that one stands in its way. */
function goRound(swing: Swing, { leg, side, joint, shape, other, thickness }: SwingPlace): void {
  const clock = new Float64Array(1);
  const hip = new Float64Array(HIP_JOINT_SIZE);
  const state = new Float64Array(FOOT_SIZE);
  const own = new Float64Array(LEG_POINTS_SIZE);
  const apart = new Float64Array(APART_SIZE);
  const r = line();
  const outward = side === 0 ? 1 : -1;
  const more = new Float64Array(3);
  const others: (Float64Array | null)[] = [];
  for (let round = 0; round < ROUNDS_ROUND; round++) {
    more.fill(0);
    for (let i = 0; i < PASSING.length; i++) {
      const u = PASSING[i]!;
      clock[0] = swing.from + u * swing.duration;
      if (round === 0) {
        const points = new Float64Array(LEG_POINTS_SIZE);
        others.push(other(clock, points) ? points : null);
      }
      const standing = others[i];
      if (!standing) continue;
      joint(clock, hip);
      stateAt(swing, u, state, 0);
      toLegLine(leg, state, 0, swing.sin, swing.cos, r, 0);
      for (let k = 0; k < 3; k++) state[k] = hip[k]! + r[k]!;
      shape(hip, state, own);
      legsApart(own, standing, thickness, apart);
      const short = apart[APART.short]! + ROOM_M;
      if (short <= 0) continue;
      const helps = outward * (apart[APART.across]! * swing.cos - apart[APART.across + 2]! * swing.sin);
      const lever = Math.max(0.2 * leg.thigh, apart[APART.lever]!) * Math.max(LEAST_HELP, helps);
      // Near its ends the swing goes round by what comes early or late in it.
      const which = u < EARLY_TO ? 0 : u > LATE_FROM ? 2 : 1;
      const bump = which === 0 ? earlyBump(u) : which === 2 ? lateBump(u) : evenBump(u);
      more[which] = Math.max(more[which]!, short / (lever * bump));
    }
    if (more[0] === 0 && more[1] === 0 && more[2] === 0) return;
    // What is needed in the middle comes first: it helps at the ends as well.
    const bumps = [swing.early, swing.even, swing.late];
    for (let k = 0; k < 3; k++) if (k === 1 || more[1] === 0) bumps[k]![LEG_ANGLE.left] = bumps[k]![LEG_ANGLE.left]! + outward * Math.min(WIDEST_RAD, more[k]!);
  }
}

/** Raises the swing until every sole point clears the ground by `clearance` m in the middle, and by nothing at the ends. */
function clear(swing: Swing, { leg, ground, joint }: SwingPlace, clearance: number): void {
  const { sole } = leg;
  const state = new Float64Array(FOOT_SIZE);
  const points = new Float64Array(6);
  const axes = new Float64Array(6);
  const r = line(),
    by = line();
  const clock = new Float64Array(1);
  const hip = new Float64Array(HIP_JOINT_SIZE);
  const jointsOf = (checks: Float64Array) => {
    const joints = new Float64Array(checks.length * 3);
    checks.forEach((u, i) => {
      clock[0] = swing.from + u * swing.duration;
      joint(clock, hip);
      for (let k = 0; k < 3; k++) joints[i * 3 + k] = hip[k]!;
    });
    return joints;
  };
  let planar = true;
  let plane: { x: number; y: number; z: number; gx: number; gz: number } | null = null;
  /** How much (m) the lowest sole point is short of its clearance. */
  const shortAt = (u: number, at: Float64Array, i: number): number => {
    stateAt(swing, u, state, 0);
    toLegLine(leg, state, 0, swing.sin, swing.cos, r, 0);
    solePoints(sole, state[FOOT.pitch]!, state[FOOT.bend]!, points);
    soleAxes(state, FOOT.heading, axes, 0);
    // A rolled sole has its outer edge lower than its middle.
    const edge = (sole.breadth / 2) * Math.abs(Math.sin(state[FOOT.roll]!));
    let short = -Infinity;
    for (let k = 0; k < 6; k += 2) {
      const ahead = points[k]!,
        up = points[k + 1]! - edge;
      const x = at[i * 3]! + r[0]! + axes[0]! * ahead + axes[3]! * up,
        y = at[i * 3 + 1]! + r[1]! + axes[1]! * ahead + axes[4]! * up,
        z = at[i * 3 + 2]! + r[2]! + axes[2]! * ahead + axes[5]! * up;
      const under = ground.height(x, z);
      plane ??= { x, y: under, z, gx: state[FOOT.slopeX]!, gz: state[FOOT.slopeZ]! };
      planar &&= Math.abs(under - plane.y - plane.gx * (x - plane.x) - plane.gz * (z - plane.z)) <= PLANAR_M;
      short = Math.max(short, clearance * evenBump(u) - (y - under));
    }
    return short;
  };
  let checks = CHECKS,
    joints = jointsOf(CHECKS);
  for (let round = 0; round < RAISES; round++) {
    // The middle first: what lifts it lifts the ends as well.
    let worst = -1,
      most = SHORT_M,
      middle = false,
      lowest = -Infinity,
      least = 0;
    for (let i = 0; i < checks.length; i++) {
      const u = checks[i]!;
      const own = u > EARLY_TO && u < LATE_FROM;
      const short = shortAt(u, joints, i);
      if (short - clearance > lowest && u > 0.1 && u < 0.9) {
        lowest = short - clearance;
        least = i;
      }
      if (short < (own ? SHORT_M : END_SHORT_M) || (middle && !own)) continue;
      const weighed = own ? short : short / evenBump(u);
      if (weighed > most || (own && !middle)) {
        worst = i;
        most = weighed;
        middle = own;
      }
    }
    if (worst < 0 && !planar && checks !== CLOSE_CHECKS) {
      checks = CLOSE_CHECKS;
      joints = jointsOf(CLOSE_CHECKS);
      continue;
    }
    let u = worst < 0 ? 0 : checks[worst]!,
      short = worst < 0 ? 0 : shortAt(u, joints, worst);
    // The sole is lowest between two looks: around the lowest one it is looked at closer.
    if (worst < 0)
      for (const part of BETWEEN) {
        const other = checks[least + Math.sign(part)];
        if (other === undefined) continue;
        const place = checks[least]! + Math.abs(part) * (other - checks[least]!);
        clock[0] = swing.from + place * swing.duration;
        joint(clock, hip);
        const found = shortAt(place, hip, 0);
        if (found > short) {
          u = place;
          short = found;
        }
      }
    if (short < SHORT_M) return;
    short += SHORT_M;
    // What a thigh that swings further forward gains over the ground under the foot.
    const climb = state[FOOT.slopeX]! * swing.sin + state[FOOT.slopeZ]! * swing.cos;
    const lever = r[0]! * swing.sin + r[2]! * swing.cos + climb * r[1]!;
    if (u >= LATE_FROM && lever > LEVER_M) {
      swing.late[LEG_ANGLE.forward] = swing.late[LEG_ANGLE.forward]! + Math.min(MOST_RAISE_RAD, short / (lateBump(u) * lever));
      continue;
    }
    upward(swing, leg, u, Math.min(MOST_RAISE_M, short), by);
    const bump = u <= EARLY_TO ? swing.early : u >= LATE_FROM ? swing.late : swing.even;
    const size = u <= EARLY_TO ? earlyBump(u) : u >= LATE_FROM ? lateBump(u) : evenBump(u);
    for (let k = 0; k < 3; k++) bump[k] = bump[k]! + clamp(by[k]! / size, -MOST_RAISE_RAD, MOST_RAISE_RAD);
  }
}
/** Cleared by a little more than asked, for what lies between two looks. */
const CLEAR_MORE = 1.03;
/** Places around a look, in parts of the way to the one before and after. */
const BETWEEN = [-0.67, -0.33, 0.33, 0.67];
/** Heights this close (m) are met; at the ends, where a sole comes and goes with the ground, so much. */
const END_SHORT_M = 4e-5;
const SHORT_M = 1e-5;
/** The most one round raises: m, rad. */
const MOST_RAISE_M = 0.25;
const MOST_RAISE_RAD = 1.2;

/** State at part u of the swing, to out[o..]: it joins the stances with equal value and velocity. */
function stateAt(swing: Swing, u: number, out: Float64Array, o: number): void {
  const { curves, even, late, early } = swing;
  const v = 16 * u * u * (1 - u) * (1 - u);
  // Early or late swing: a time warp with slope 1 at both ends keeps the joining velocities.
  const moved = u + 0.25 * swing.bias * v;
  const pitched = u + 0.25 * swing.pitchBias * v;
  for (let k = 0, i = 0; k < FOOT.roll; k++, i += COEFFICIENTS) {
    const w = k === LEG_ANGLE.forward || k === LEG_ANGLE.left ? moved : k === FOOT.pitch || k === FOOT.bend ? pitched : u;
    out[o + k] = curves[i]! + w * (curves[i + 1]! + w * w * (curves[i + 2]! + w * (curves[i + 3]! + w * curves[i + 4]!)));
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
  const folded = swing.most - softRamp(swing.most - out[o + 2]!, swing.folding);
  out[o + 2] = swing.least + softRamp(folded - swing.least, swing.rounding);
  out[o + FOOT.roll] = swing.roll * v;
}

/** The same at clock[c] seconds. */
export function evaluateSwing(swing: Swing, clock: Float64Array, c: number, out: Float64Array, o: number): void {
  stateAt(swing, clamp((clock[c]! - swing.from) / swing.duration, 0, 1), out, o);
}
