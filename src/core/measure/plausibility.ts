import { CONTACT_NUMBERS, contactPoints, ownFeet } from '../body/foot-model';
import { JOINT, SIDES, UPPER_LEG, type Side } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { cadence, froude } from '../gait/timing';
import { REFERENCE_LEG_M } from '../gait/spec';
import { rotate } from '../math/quaternion';
import { toDegrees, wrapAngle, wrapPhase } from '../math/scalar';
import type { Motion } from '../motion/motion';
import { legAngles, type LegAngles } from './angles';
import { centreOfMass } from '../body/centre-of-mass';
import { landingPhase, standingPart, standingShare } from './landings';
import { allowedShift, BETWEEN_PEOPLE_DEG, curveAt, WALKING_CURVES } from './published-curves';

const JOINTS = ['hip', 'knee', 'ankle'] as const;
type JointName = keyof LegAngles;

/** A joint's curve over the stride of its leg, degrees at each percent, beside the published one. */
export interface JointComparison {
  readonly joint: JointName;
  readonly left: readonly number[];
  readonly right: readonly number[];
  /** Published mean (with the allowed constant offset) and half the band; null for runs, of which no curve is at hand. */
  readonly mean: readonly number[] | null;
  readonly band: number;
  readonly rms: number | null;
  /** Where the left leg departs most from the mean: percent of stride and degrees. */
  readonly worst: { readonly percent: number; readonly degrees: number } | null;
}

/** A measured value beside the range published for it. */
export interface ValueComparison {
  readonly label: string;
  readonly unit: string;
  readonly value: number;
  readonly low: number;
  readonly high: number;
  readonly digits: number;
  readonly source: string;
  /** By how much the value lies outside; 0 inside. */
  readonly departs: number;
}

export interface Plausibility {
  readonly kind: 'walk' | 'run';
  readonly joints: readonly JointComparison[];
  readonly values: readonly ValueComparison[];
}

/** The hip is measured against a pelvis tilted by 8–10°, which shifts its curve: so much may be taken out (degrees). */
const HIP_OFFSET_DEG = 6;
const PERRY = 'Perry & Burnfield; Winter (values from memory)';
const SAUNDERS = 'Saunders, Inman & Eberhart 1953 (values from memory)';
const ALEXANDER = 'Alexander & Jayes 1983 (values from memory)';
const RUNNING = 'figures for running near 3 m/s (values from memory)';

interface Samples {
  readonly angles: readonly [LegAngles[], LegAngles[]];
  readonly hips: Float64Array;
  readonly com: Float64Array;
  /** Turn, list and forward lean of the hips and the lean of the chest, rad. */
  readonly turn: Float64Array;
  readonly list: Float64Array;
  readonly lean: Float64Array;
  /** Least height of the toes while they pass under the body, m. */
  readonly clearance: number;
  /** Pitch of the left foot as it lands and as it leaves, rad, toes up positive. */
  readonly landing: number;
  readonly leaving: number;
}

const COUNT = 100;

function sample(motion: Motion): Samples {
  const { body, duration: T } = motion;
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  const com = new Float64Array(COUNT * 3),
    hips = new Float64Array(COUNT),
    turn = new Float64Array(COUNT),
    list = new Float64Array(COUNT),
    lean = new Float64Array(COUNT);
  const angles: [LegAngles[], LegAngles[]] = [[], []];
  const starts = SIDES.map((side) => landingPhase(motion, side));
  const v = [0, 0, 0];
  const look = (t: number) => {
    motion.pose(t, pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
  };
  for (let i = 0; i < COUNT; i++) {
    for (const side of SIDES) {
      motion.pose(wrapPhase(starts[side]! + i / COUNT) * T, pose, 0);
      angles[side].push(legAngles(pose, 6, side));
    }
    look((i / COUNT) * T);
    hips[i] = pose[4]!;
    centreOfMass(world, com, i * 3);
    com[i * 3] = com[i * 3]! - pose[0]!;
    com[i * 3 + 2] = com[i * 3 + 2]! - pose[2]!;
    rotate(v, 0, world.rotations, JOINT.hips * 4, 1, 0, 0);
    turn[i] = Math.atan2(-v[2]!, v[0]!);
    list[i] = Math.asin(Math.min(1, Math.max(-1, v[1]!)));
    rotate(v, 0, world.rotations, JOINT.upperChest * 4, 0, 1, 0);
    lean[i] = Math.atan2(v[2]!, v[1]!);
  }
  const left = ownFeet(body)[0]!;
  const points = new Float64Array(CONTACT_NUMBERS);
  const duty = standingPart(motion, 0);
  let clearance = Infinity;
  for (let u = 0.35; u <= 0.65; u += 0.01) {
    look(wrapPhase(starts[0]! + duty + u * (1 - duty)) * T);
    contactPoints(left, world, points, 0);
    clearance = Math.min(clearance, points[7]!);
  }
  const footPitch = (phase: number) => {
    look(phase * T);
    rotate(v, 0, world.rotations, (UPPER_LEG[0] + 2) * 4, 0, 0, 1);
    return Math.asin(Math.min(1, Math.max(-1, v[1]!)));
  };
  return { angles, hips, com, turn, list, lean, clearance, landing: footPitch(starts[0]!), leaving: footPitch(starts[0]! + duty) };
}

function compareJoint(joint: JointName, { angles }: Samples, kind: 'walk' | 'run'): JointComparison {
  const curve = (side: Side) => angles[side].map((a) => toDegrees(a[joint]));
  const left = curve(0),
    right = curve(1);
  if (kind === 'run') return { joint, left, right, mean: null, band: BETWEEN_PEOPLE_DEG, rms: null, worst: null };
  const plain = left.map((_, i) => curveAt(WALKING_CURVES[joint], i));
  const diffs = left.map((v, i) => v - plain[i]!);
  const shift = allowedShift(diffs, joint === 'hip' ? HIP_OFFSET_DEG : 0);
  const rest = diffs.map((d) => d - shift);
  const percent = rest.reduce((best, d, i) => (Math.abs(d) > Math.abs(rest[best]!) ? i : best), 0);
  return {
    joint,
    left,
    right,
    mean: plain.map((v) => v + shift),
    band: BETWEEN_PEOPLE_DEG,
    rms: Math.sqrt(rest.reduce((sum, d) => sum + d * d, 0) / rest.length),
    worst: { percent, degrees: rest[percent]! },
  };
}

const range = (v: ArrayLike<number>, offset = 0, stride = 1): number => {
  let lo = Infinity,
    hi = -Infinity;
  for (let i = offset; i < v.length; i += stride) {
    lo = Math.min(lo, v[i]!);
    hi = Math.max(hi, v[i]!);
  }
  return hi - lo;
};

const mean = (v: ArrayLike<number>): number => Array.from(v).reduce((a, b) => a + b, 0) / v.length;

/** Distance (m) across the travel between left and right footholds, and how far (rad) feet point outward of it, on average. */
function footprints(motion: Motion): { width: number; toeOut: number } {
  const holds = motion.footholds(0, motion.duration);
  const { direction } = motion.pace;
  const across = (side: Side) => mean(holds.filter((h) => h.side === side).map((h) => h.x * Math.cos(direction) - h.z * Math.sin(direction)));
  return { width: Math.abs(across(0) - across(1)), toeOut: mean(holds.map((h) => (h.side === 0 ? 1 : -1) * wrapAngle(h.heading))) };
}

/** Compares a motion that repeats with what is published for its kind, as its poses and footholds have it. It reports departures; style is allowed. */
export function plausibility(motion: Motion): Plausibility {
  const { body, duration } = motion;
  const duty = standingPart(motion, 0);
  const kind = duty < 0.5 ? 'run' : 'walk';
  const s = sample(motion);
  const joints = JOINTS.map((j) => compareJoint(j, s, kind));
  // Published lengths and times are of adults: brought to these legs at equal Froude number.
  const k = body.legLength / REFERENCE_LEG_M,
    root = Math.sqrt(k);
  const knee = joints[1]!.left;
  const stance = knee.slice(0, Math.round(100 * duty));
  const values: ValueComparison[] = [];
  const add = (label: string, unit: string, value: number, low: number, high: number, digits: number, source: string) =>
    values.push({ label, unit, value, low, high, digits, source, departs: value < low ? value - low : value > high ? value - high : 0 });
  const strideLength = motion.travelled(duration);
  const fr = froude(strideLength / duration, body.legLength);
  const comHeight = range(s.com, 1, 3) * 1000,
    comSide = range(s.com, 0, 3) * 1000;
  add('Stride / leg length', '', strideLength / body.legLength, 2.3 * fr ** 0.3 * 0.8, 2.3 * fr ** 0.3 * 1.2, 2, ALEXANDER);
  if (kind === 'walk') {
    const { width, toeOut } = footprints(motion);
    add('Froude number', '', fr, 0, 0.5, 2, 'Alexander; Kram, Domingo & Ferris 1997');
    add('Time on the ground', '%', duty * 100, 60, 62, 1, PERRY);
    add('Each double support', '%', (standingShare(motion, 2) / 2) * 100, 10, 12, 1, PERRY);
    add('Cadence', '/min', cadence(duration), 108 / root, 118 / root, 0, PERRY);
    add('Stride length', 'm', strideLength, 1.35 * k, 1.5 * k, 2, PERRY);
    add('Step width', 'cm', width * 100, 5 * k, 13 * k, 1, PERRY);
    add('Toe-out', '°', toDegrees(toeOut), 5, 10, 1, PERRY);
    add('Least toe clearance', 'mm', s.clearance * 1000, 10 * k, 25 * k, 0, PERRY);
    add('Toes up at landing', '°', toDegrees(s.landing), 15, 25, 0, PERRY);
    add('Heel up at lift-off', '°', -toDegrees(s.leaving), 55, 70, 0, PERRY);
    add('Pelvis turn', '°', toDegrees(range(s.turn)) / 2, 3, 6, 1, SAUNDERS);
    add('Pelvis list', '°', toDegrees(range(s.list)) / 2, 3, 6, 1, SAUNDERS);
    add('Hips up and down', 'mm', range(s.hips) * 1000, 35 * k, 55 * k, 0, SAUNDERS);
    add('Centre of mass side to side', 'mm', comSide, 25 * k, 50 * k, 0, SAUNDERS);
  } else {
    add('Time on the ground', '%', duty * 100, 33, 40, 1, RUNNING);
    add('Cadence', '/min', cadence(duration), 155 / root, 180 / root, 0, RUNNING);
    add('Knee in stance', '°', Math.max(...stance), 35, 50, 0, RUNNING);
    add('Knee in swing', '°', Math.max(...knee), 80, 110, 0, RUNNING);
    add('Centre of mass up and down', 'mm', comHeight, 60 * k, 100 * k, 0, RUNNING);
    add('Trunk forward', '°', toDegrees(mean(s.lean)), 3, 8, 1, RUNNING);
    add('Flight, each', 's', (standingShare(motion, 0) / 2) * duration, 0.05 * root, 0.2 * root, 3, RUNNING);
  }
  return { kind, joints, values };
}
