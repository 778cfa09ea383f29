import type { Side } from '../body/roles';
import type { Sole } from '../body/sole';
import type { Ground } from '../ground/ground';
import { wrapAngle } from '../math/scalar';
import type { SwingStyle } from '../schedule/foothold';
import { FOOT, FOOT_SIZE } from './foot-state';
import { solePoints } from './rocker';
import { soleAxes } from './sole-frame';

/** A foot's way from one foothold to the next: a quintic per number of its state, and a lift. */
export interface Swing {
  readonly from: number;
  readonly duration: number;
  /** Per number of the state: value and rate at the start, then the quintic's three further coefficients in u. */
  readonly curves: Float64Array;
  /** Height of the styled bump, m, and its exponents. */
  readonly lift: number;
  readonly rising: number;
  readonly falling: number;
  /** Height (m) of the even bump that is added so that the whole sole clears the ground. */
  raised: number;
  /** Time warps of position and of pitch, −1 late … 1 early. */
  readonly bias: number;
  readonly pitchBias: number;
  /** Height (m) at which the foot waits before it drops, and the part of the swing in which it drops. */
  readonly wait: number;
  readonly drop: number;
  /** Roll onto the outer edge in mid-swing, rad. */
  readonly roll: number;
  /** Sideways bump, m, in world x and z. */
  readonly outX: number;
  readonly outZ: number;
}

const COEFFICIENTS = 5;

export interface SwingEnds {
  readonly from: number;
  readonly to: number;
  /** States and their rates at both ends, FOOT_SIZE numbers each. */
  readonly start: Float64Array;
  readonly startRate: Float64Array;
  readonly end: Float64Array;
  readonly endRate: Float64Array;
}

/** Places in the swing where the clearance is checked: dense at the ends, where a sole can dip under the ground unseen. */
const CHECKS = Array.from({ length: 40 }, (_, i) => (1 - Math.cos((Math.PI * (i + 0.5)) / 40)) / 2);

/** Places looked at besides where the ground is no plane: close enough together that no edge slips between two of them. */
const CLOSE_CHECKS = Array.from({ length: 240 }, (_, i) => (i + 0.5) / 240);
/** Ground this far (m) off a plane is none. */
const PLANAR_M = 1e-9;

/**
 * Prepares a swing whose whole sole clears the ground by the style's clearance (less near its ends). `share` scales its lift. A
 * swing `like` it from the round before is raised as much.
 */
export function createSwing(sole: Sole, side: Side, style: SwingStyle, ground: Ground, ends: SwingEnds, share: number, like?: Swing): Swing {
  const p = style.liftPeak;
  const duration = ends.to - ends.from;
  const heading = (ends.start[FOOT.heading]! + ends.end[FOOT.heading]!) / 2;
  const out = (side === 0 ? 1 : -1) * style.swingOut * share;
  const swing: Swing = {
    from: ends.from,
    duration,
    curves: quintics(ends, duration),
    lift: style.lift * share,
    raised: 0,
    rising: p <= 0.5 ? 2 : (2 * p) / (1 - p),
    falling: p <= 0.5 ? (2 * (1 - p)) / p : 2,
    ...dropOf(style.landing * share, duration),
    roll: style.roll * share,
    bias: style.swingBias,
    pitchBias: style.pitchBias,
    outX: out * Math.cos(heading),
    outZ: -out * Math.sin(heading),
  };
  swing.raised = like ? like.raised : missingHeight(sole, swing, ground, style.clearance * share);
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

/** Time (s) over which a hard landing drops, and the largest part of the swing it may take. */
const DROP_S = 0.05;
const LONGEST_DROP = 0.2;
/** Steepest slope of x² e^(2 − 2x) between 0 and its peak at 1: at x = 1 − √½. */
const STEEPEST = 1.7036;

/** A landing at `speed` (m/s): how high the foot waits so that it drops with it and still comes to stand without a kick. */
function dropOf(speed: number, duration: number): { wait: number; drop: number } {
  const drop = Math.min(LONGEST_DROP, DROP_S / duration);
  return { drop, wait: (speed * drop * duration) / STEEPEST };
}

function missingHeight(sole: Sole, swing: Swing, ground: Ground, clearance: number): number {
  const state = new Float64Array(FOOT_SIZE);
  const clock = new Float64Array(1);
  const points = new Float64Array(6);
  const axes = new Float64Array(6);
  let missing = 0,
    planar = true;
  // The plane the foot leaves from: ground that goes on as it lies needs no closer look.
  const [x0, z0] = [swing.curves[FOOT.x * COEFFICIENTS]!, swing.curves[FOOT.z * COEFFICIENTS]!];
  const [gx, gz] = [swing.curves[FOOT.slopeX * COEFFICIENTS]!, swing.curves[FOOT.slopeZ * COEFFICIENTS]!];
  const y0 = ground.height(x0, z0);
  const look = (u: number) => {
    clock[0] = swing.from + u * swing.duration;
    evaluateSwing(swing, clock, 0, state, 0);
    solePoints(sole, state[FOOT.pitch]!, state[FOOT.bend]!, points);
    soleAxes(state, FOOT.heading, axes, 0);
    const even = evenBump(u);
    // A rolled sole has its outer edge lower than its middle.
    const edge = (sole.breadth / 2) * Math.abs(Math.sin(state[FOOT.roll]!));
    for (let k = 0; k < 6; k += 2) {
      const forward = points[k]!,
        up = points[k + 1]! - edge;
      const x = state[FOOT.x]! + axes[0]! * forward + axes[3]! * up,
        y = state[FOOT.y]! + axes[1]! * forward + axes[4]! * up,
        z = state[FOOT.z]! + axes[2]! * forward + axes[5]! * up;
      const under = ground.height(x, z);
      planar &&= Math.abs(under - y0 - gx * (x - x0) - gz * (z - z0)) <= PLANAR_M;
      const short = clearance * even - (y - under);
      if (short > 0) missing = Math.max(missing, short / even);
    }
  };
  CHECKS.forEach(look);
  if (!planar) CLOSE_CHECKS.forEach(look);
  return missing;
}

/** 0 at both ends, growing with the square of the time from them (as a sole's dip there does), 1 in the middle. */
const evenBump = (u: number): number => 16 * u * u * (1 - u) * (1 - u);

/** Foot state at clock[c] seconds inside the swing, to out[o..]. Position and pitch join the stances with equal velocity. */
export function evaluateSwing(swing: Swing, clock: Float64Array, c: number, out: Float64Array, o: number): void {
  const { curves } = swing;
  const u = Math.min(1, Math.max(0, (clock[c]! - swing.from) / swing.duration));
  const v = 16 * u * u * (1 - u) * (1 - u);
  // Early or late swing: a time warp with slope 1 at both ends keeps the joining velocities.
  const moved = u + 0.25 * swing.bias * v;
  const pitched = u + 0.25 * swing.pitchBias * v;
  const u3 = u * u * u,
    moved3 = moved * moved * moved,
    pitched3 = pitched * pitched * pitched;
  for (let k = 0, i = 0; k < FOOT.roll; k++, i += COEFFICIENTS) {
    const early = k === FOOT.x || k === FOOT.z,
      pitching = k === FOOT.pitch || k === FOOT.bend;
    const w = early ? moved : pitching ? pitched : u;
    out[o + k] = curves[i]! + curves[i + 1]! * w + (early ? moved3 : pitching ? pitched3 : u3) * (curves[i + 2]! + w * (curves[i + 3]! + w * curves[i + 4]!));
  }
  let high = swing.raised * v;
  if (swing.lift > 0) {
    // 0 and flat at both ends, 1 at the peak.
    const { rising: a, falling: b } = swing;
    const peak = a / (a + b);
    const up = u / peak,
      down = (1 - u) / (1 - peak);
    // One of the two exponents always is 2.
    high += swing.lift * (a === 2 ? up * up : Math.pow(up, a)) * (b === 2 ? down * down : Math.pow(down, b));
  }
  if (swing.wait > 0) {
    // The waiting foot rises gently through the swing and peaks `drop` before its end.
    const x = (1 - u) / swing.drop;
    const open = Math.min(1, u * 4);
    high += swing.wait * x * x * Math.exp(2 - 2 * x) * open * open * (3 - 2 * open);
  }
  out[o + FOOT.y] = out[o + FOOT.y]! + high;
  out[o + FOOT.roll] = swing.roll * v;
  out[o + FOOT.x] = out[o + FOOT.x]! + v * swing.outX;
  out[o + FOOT.z] = out[o + FOOT.z]! + v * swing.outZ;
}
