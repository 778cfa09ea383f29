import type { Sole } from '../body/body';
import type { Side } from '../body/roles';
import type { GaitSpec } from '../gait/spec';
import type { Ground } from '../ground/ground';
import { quinticHermite } from '../math/hermite';
import { wrapAngle } from '../math/scalar';
import { FOOT, FOOT_SIZE } from './foot-state';
import { solePoints } from './rocker';

/** A foot's way from one foothold to the next: a quintic per number of its state, and a lift. */
export interface Swing {
  readonly from: number;
  readonly duration: number;
  /** States and their rates at both ends, FOOT_SIZE numbers each. */
  readonly start: Float64Array;
  readonly startRate: Float64Array;
  readonly end: Float64Array;
  readonly endRate: Float64Array;
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

export interface SwingEnds {
  readonly from: number;
  readonly to: number;
  readonly start: Float64Array;
  readonly startRate: Float64Array;
  readonly end: Float64Array;
  readonly endRate: Float64Array;
}

/** Places in the swing where the clearance is checked: dense at the ends, where a sole can dip under the ground unseen. */
const CHECKS = Array.from({ length: 40 }, (_, i) => (1 - Math.cos((Math.PI * (i + 0.5)) / 40)) / 2);

/**
 * Prepares a swing whose whole sole clears the ground by `feet.clearance` (less near its ends). `share` scales its lift. A
 * swing `like` it from another stride over the same ground is raised as much.
 */
export function createSwing(sole: Sole, side: Side, gait: GaitSpec, ground: Ground, ends: SwingEnds, share: number, like?: Swing): Swing {
  const { feet } = gait;
  const p = feet.liftPeak;
  const heading = (ends.start[FOOT.heading]! + ends.end[FOOT.heading]!) / 2;
  const out = (side === 0 ? 1 : -1) * feet.swingOut * share;
  const swing: Swing = {
    ...ends,
    duration: ends.to - ends.from,
    lift: feet.lift * share,
    raised: 0,
    rising: p <= 0.5 ? 2 : (2 * p) / (1 - p),
    falling: p <= 0.5 ? (2 * (1 - p)) / p : 2,
    ...dropOf(feet.landing * share, ends.to - ends.from),
    roll: feet.roll * share,
    bias: feet.swingBias,
    pitchBias: feet.pitchBias,
    outX: out * Math.cos(heading),
    outZ: -out * Math.sin(heading),
  };
  // The shorter way round, so a heading of 179° meets −179° over 2°.
  swing.end[FOOT.heading] = swing.start[FOOT.heading]! + wrapAngle(swing.end[FOOT.heading]! - swing.start[FOOT.heading]!);
  swing.raised = like ? like.raised : missingHeight(sole, swing, ground, feet.clearance * share);
  return swing;
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

/** Height of the waiting foot: rises gently through the swing, peaks `drop` before its end. */
function waiting({ wait, drop }: Swing, u: number): number {
  const x = (1 - u) / drop;
  const open = Math.min(1, u * 4);
  return wait * x * x * Math.exp(2 - 2 * x) * open * open * (3 - 2 * open);
}

function missingHeight(sole: Sole, swing: Swing, ground: Ground, clearance: number): number {
  const state = new Float64Array(FOOT_SIZE);
  const points = new Float64Array(6);
  let missing = 0;
  for (const u of CHECKS) {
    evaluateSwing(swing, swing.from + u * swing.duration, state, 0);
    solePoints(sole, state[FOOT.pitch]!, state[FOOT.bend]!, points);
    const sh = Math.sin(state[FOOT.heading]!),
      ch = Math.cos(state[FOOT.heading]!);
    const even = evenBump(u);
    // A rolled sole has its outer edge lower than its middle.
    const edge = (sole.breadth / 2) * Math.abs(Math.sin(state[FOOT.roll]!));
    for (let k = 0; k < 6; k += 2) {
      const under = ground.height(state[FOOT.x]! + sh * points[k]!, state[FOOT.z]! + ch * points[k]!);
      const short = clearance * even - (state[FOOT.y]! + points[k + 1]! - edge - under);
      if (short > 0) missing = Math.max(missing, short / even);
    }
  }
  return missing;
}

/** 0 at both ends, growing with the square of the time from them (as a sole's dip there does), 1 in the middle. */
const evenBump = (u: number): number => 16 * u * u * (1 - u) * (1 - u);

/** 0 and flat at both ends, 1 at the peak. */
function bump({ rising: a, falling: b }: Swing, u: number): number {
  const peak = a / (a + b);
  return Math.pow(u / peak, a) * Math.pow((1 - u) / (1 - peak), b);
}

/** Foot state at `t` inside the swing, written to out[at..]. Position and pitch join the stances with equal velocity. */
export function evaluateSwing(swing: Swing, t: number, out: Float64Array, at: number): void {
  const { duration, start, startRate, end, endRate } = swing;
  const u = Math.min(1, Math.max(0, (t - swing.from) / duration));
  const v = evenBump(u);
  // Early or late swing: a time warp with slope 1 at both ends keeps the joining velocities.
  const moved = u + 0.25 * swing.bias * v;
  const pitched = u + 0.25 * swing.pitchBias * v;
  for (let k = 0; k < FOOT_SIZE; k++) {
    const w = k === FOOT.x || k === FOOT.z ? moved : k === FOOT.pitch || k === FOOT.bend ? pitched : u;
    out[at + k] = quinticHermite(start[k]!, startRate[k]!, end[k]!, endRate[k]!, duration, w);
  }
  out[at + FOOT.y] = out[at + FOOT.y]! + (swing.lift > 0 ? swing.lift * bump(swing, u) : 0) + (swing.wait > 0 ? waiting(swing, u) : 0) + swing.raised * v;
  out[at + FOOT.roll] = swing.roll * v;
  out[at + FOOT.x] = out[at + FOOT.x]! + v * swing.outX;
  out[at + FOOT.z] = out[at + FOOT.z]! + v * swing.outZ;
}
