import type { LegMeasures } from '../body/legs';
import { clamp } from '../math/scalar';
import type { SwingStyle } from '../schedule/foothold';
import { FOOT, FOOT_SIZE } from './foot-state';
import { LEG_ANGLE, spanAt, toLegAngles, toLegLine } from './leg-angles';
import { HIP_JOINT_SIZE, LEG_POINTS_SIZE } from './leg-shape';
import { clearGround } from './swing-clear';
import { goRound } from './swing-round';
import { COEFFICIENTS, MOST_BEND_RAD, MOST_ROUNDING_RAD, quintics, stateAt, type Swing, type SwingEnds, type SwingPlace } from './swing-state';
import type { Twin } from './twin';

/** Cleared by a little more than asked, for what lies between two looks. */
const CLEAR_MORE = 1.03;

/** Prepares a swing whose whole sole clears the ground by the style's clearance (less near its ends). `share` scales its lift. */
export function createSwing(place: SwingPlace, style: SwingStyle, ends: SwingEnds, share: number, straightest: number, twin: Twin<Swing> | null = null): Swing {
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
    over: null,
    drop: Math.min(LONGEST_DROP, DROP_S / duration),
    roll: style.roll * share,
    bias: clamp(style.swingBias - STEP_BIAS * ends.stepsUp, -MOST_BIAS, MOST_BIAS),
    pitchBias: clamp(style.pitchBias + STEP_PITCH_BIAS * Math.max(0, ends.stepsUp), -MOST_BIAS, MOST_BIAS),
    least,
    rounding: Math.min(0.06, ended - least),
    most,
    folding: Math.min(MOST_ROUNDING_RAD, most - folded),
    style,
    share,
    known: () => NOTHING,
  };
  swing.known = () => knownBy(swing, place);
  if (twin && alike(swing, twin)) {
    for (const key of ['lift', 'even', 'late', 'early', 'wait'] as const) {
      swing[key].set(twin.of[key]);
      if (twin.mirrored) swing[key][LEG_ANGLE.left] = -swing[key][LEG_ANGLE.left]!;
    }
    return swing;
  }
  lift(swing, place.leg, p, style.lift * share);
  // Sideways by an angle that makes the arc wanted at mid-swing.
  const at = new Float64Array(FOOT_SIZE);
  stateAt(swing, 0.5, at, 0);
  swing.even[LEG_ANGLE.left] = ((place.side === 0 ? 1 : -1) * style.swingOut * share) / spanAt(place.leg, at[LEG_ANGLE.bend]!);
  waitFor(swing, place.leg, ends, style.landing * share);
  goRound(swing, place, Math.abs(ends.end[FOOT.heading]! - ends.start[FOOT.heading]!));
  clearGround(swing, place, CLEAR_MORE * style.clearance * share);
  return swing;
}

/** A foot goes forward late on its way up a step and early on its way down one, so that it is clear of the edge: by this much, within that. */
const STEP_BIAS = 1.2;
const MOST_BIAS = 1.2;
/** Going up its toes come up early. */
const STEP_PITCH_BIAS = 0.9;
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

/** What changes its sign in a mirror: the angle to the left, the heading, and sideways places of the other leg. */
const ASIDE = new Set([
  ...[LEG_ANGLE.left, FOOT.heading].flatMap((k) => Array.from({ length: COEFFICIENTS }, (_, i) => k * COEFFICIENTS + i)),
  ...Array.from({ length: LEG_POINTS_SIZE / 3 }, (_, i) => FOOT_SIZE * COEFFICIENTS + 3 * GROUND_PLACES + 1 + 3 * i + 2),
]);

function alike(a: Swing, { of: b, mirrored }: Twin<Swing>): boolean {
  if (Math.abs(a.duration - b.duration) > 1e-7 || Math.abs(a.share - b.share) > ALIKE) return false;
  for (const key of Object.keys(a.style) as (keyof SwingStyle)[]) if (a.style[key] !== b.style[key]) return false;
  const [own, other] = [a.known(), b.known()];
  for (let i = 0; i < own.length; i++) if (!(Math.abs(own[i]! - (mirrored && ASIDE.has(i) ? -other[i]! : other[i]!)) <= ALIKE)) return false;
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
