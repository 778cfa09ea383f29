import { armLengths, palmLength } from '../body/arms';
import type { Body } from '../body/body';
import { JOINT, SHOULDER, SIDES, UPPER_LEG, type Side } from '../body/roles';
import { createWorldPose, forwardKinematics } from '../body/skeleton';
import { multiply, multiplyAxisFrom, multiplyConjugate, rotateFrom, setAxisFrom, slerp } from '../math/quaternion';
import { holdHand } from './hold';
import { LEG_BUFFER, LEG_INPUT, LEG_INPUT_SIZE, LEG_OUTPUT, shortestReach, solveLeg } from './leg';
import { createLegsRoom } from './legs-room';
import { splitRotation } from './split';
import { ARM_TARGET, armAt, FOOT_TARGET, footAt, TARGET, type Targets } from './targets';

/** e^−x of an x above this is lost beside 1 in a double. */
const FADED = 38;
const fade = (x: number): number => (x > FADED ? 0 : x === 0 ? 1 : Math.exp(-x));

/** How far a pose fell short of its targets, m. */
export interface Shortness {
  /** Farthest a leg's target lay out of reach: positive too far, negative too near. */
  tooFar: number;
  tooNear: number;
  /** Whose legs those are. */
  farSide: Side;
  nearSide: Side;
  /** Farthest a hand stayed from the place it was to hold. */
  handMissed: number;
}

/** Makes poses of targets. Pure: equal targets give equal bits, whatever came before. */
export interface Reacher {
  /** Shortness of the last pose. */
  readonly short: Shortness;
  /** Writes the pose of `targets` to out[at..]. Feet first, hips give way, then spine, arms, head. Allocates nothing. */
  reach(targets: Targets, out: Float64Array, at: number): void;
}

/** Hips never go lower over the ground than this part of the leg length; then the legs fold and say so. */
const LOWEST_HIPS = 0.3;
/** Sharpness (1/m) of that floor, and above which giving way is a plain minimum. */
const FLOOR_SHARPNESS = 400;
const SHARPEST = 1e6;

/** The reacher of one body; its scratch belongs to one motion. */
export function createReach(body: Body): Reacher {
  const room = createLegsRoom(body);
  const input = new Float64Array(LEG_INPUT_SIZE),
    leg = new Float64Array(LEG_BUFFER);
  const q = new Float64Array(12);
  const angles = new Float64Array(2);
  const place = new Float64Array(3);
  // The last heading of the root and its rotation.
  const turned = Float64Array.of(NaN, 0, 0, 0, 1);
  const short: Shortness = { tooFar: 0, tooNear: 0, farSide: 0, nearSide: 0, handMissed: 0 };
  const hand = createHandReach(body);
  const shortest = SIDES.map((s) => shortestReach(body.legs[s]));

  /** Height of the hips' place: the wish where it is planned, else as far as both legs reach, and not on the ground. */
  function hipsHeight(targets: Targets): number {
    const wish = targets[TARGET.hips + 1]!;
    const k = targets[TARGET.sharpness]!;
    if (k === 0) return wish;
    const a = room.ceilings[0]!,
      b = room.ceilings[1]!;
    const m = Math.min(wish, a, b);
    const free = k > SHARPEST ? m : m - Math.log(fade(k * (wish - m)) + fade(k * (a - m)) + fade(k * (b - m))) / k;
    const lowest = targets[TARGET.root + 1]! + LOWEST_HIPS * body.legLength;
    if (k > SHARPEST || free - lowest > FADED / FLOOR_SHARPNESS) return Math.max(free, lowest);
    const top = Math.max(free, lowest);
    return top + Math.log(Math.exp(FLOOR_SHARPNESS * (free - top)) + Math.exp(FLOOR_SHARPNESS * (lowest - top))) / FLOOR_SHARPNESS;
  }

  function legs(targets: Targets, height: number, out: Float64Array, quats: number): void {
    short.tooFar = short.tooNear = 0;
    for (let side = 0; side < 2; side++) {
      const f = footAt(side as Side),
        o = side * 3;
      input[0] = targets[TARGET.hips]! + room.joints[o]!;
      input[1] = height + room.joints[o + 1]!;
      input[2] = targets[TARGET.hips + 2]! + room.joints[o + 2]!;
      for (let k = 0; k < 3; k++) input[LEG_INPUT.ankle + k] = room.ankles[o + k]!;
      input[LEG_INPUT.pole] = targets[f + FOOT_TARGET.knee]!;
      input[LEG_INPUT.longest] = room.longest[side]!;
      input[LEG_INPUT.shortest] = shortest[side]!;
      solveLeg(body.legs[side]!, input, leg);
      const missed = leg[LEG_OUTPUT.missed]!;
      if (missed > short.tooFar) {
        short.tooFar = missed;
        short.farSide = side as Side;
      }
      if (missed < short.tooNear) {
        short.tooNear = missed;
        short.nearSide = side as Side;
      }
      const upper = quats + UPPER_LEG[side]! * 4;
      multiplyConjugate(out, upper, targets, TARGET.hipsTurn, leg, LEG_OUTPUT.thigh);
      for (let k = 0; k < 4; k++) out[upper + 4 + k] = leg[LEG_OUTPUT.knee + k]!;
      angles[0] = -targets[f + FOOT_TARGET.pitch]!;
      multiplyAxisFrom(q, 0, room.soles, side * 4, 0, angles, 0);
      const roll = targets[f + FOOT_TARGET.roll]!;
      if (roll !== 0) {
        angles[1] = side === 0 ? -roll : roll;
        multiplyAxisFrom(q, 0, q, 0, 2, angles, 1);
      }
      multiplyConjugate(out, upper + 8, leg, LEG_OUTPUT.shank, q, 0);
      angles[0] = -targets[f + FOOT_TARGET.bend]!;
      setAxisFrom(out, upper + 12, 0, angles, 0);
    }
  }

  /** Spine and chest take even thirds of the way to the chest, as far as their shares say; the joint above closes it. */
  function spine(targets: Targets, out: Float64Array, quats: number): void {
    const lower = quats + JOINT.spine * 4;
    multiplyConjugate(q, 0, targets, TARGET.hipsTurn, targets, TARGET.chest);
    splitRotation(q, 4, q, 0, 3);
    multiply(out, lower, q, 4, targets, TARGET.spineShare);
    multiply(q, 8, targets, TARGET.chestBefore, q, 4);
    multiply(out, lower + 4, q, 8, targets, TARGET.chestShare);
    multiply(q, 8, out, lower, out, lower + 4);
    multiplyConjugate(out, lower + 8, q, 8, q, 0);
    multiplyConjugate(q, 0, targets, TARGET.chest, targets, TARGET.head);
    splitRotation(q, 4, q, 0, 2);
    const neck = quats + JOINT.neck * 4;
    multiply(out, neck, q, 4, targets, TARGET.neckShare);
    multiplyConjugate(out, quats + JOINT.head * 4, out, neck, q, 0);
  }

  return {
    short,
    reach(targets, out, at) {
      room.read(targets);
      const height = hipsHeight(targets);
      const quats = at + 6;
      if (targets[TARGET.root + 3] !== turned[0]) {
        turned[0] = targets[TARGET.root + 3]!;
        setAxisFrom(turned, 1, 1, turned, 0);
      }
      for (let k = 0; k < 4; k++) out[quats + JOINT.root * 4 + k] = turned[1 + k]!;
      for (let k = 0; k < 3; k++) out[at + k] = targets[TARGET.root + k]!;
      // The hips are local to the root.
      place[0] = targets[TARGET.hips]! - targets[TARGET.root]!;
      place[1] = height - targets[TARGET.root + 1]!;
      place[2] = targets[TARGET.hips + 2]! - targets[TARGET.root + 2]!;
      q[0] = q[2] = 0;
      q[1] = -turned[2]!;
      q[3] = turned[4]!;
      rotateFrom(out, at + 3, q, 0, place, 0);
      multiply(out, quats + JOINT.hips * 4, q, 0, targets, TARGET.hipsTurn);
      legs(targets, height, out, quats);
      spine(targets, out, quats);
      for (let side = 0; side < 2; side++) {
        const a = armAt(side as Side),
          s = quats + SHOULDER[side]! * 4;
        for (let k = 0; k < 16; k++) out[s + k] = targets[a + k]!;
      }
      short.handMissed = 0;
      if (targets[armAt(0) + ARM_TARGET.weight]! > 0 || targets[armAt(1) + ARM_TARGET.weight]! > 0) short.handMissed = hand(targets, out, at);
    },
  };
}

/** Brings the palms to the places they hold, by their weights; returns the farthest miss, m. */
function createHandReach(body: Body): (targets: Targets, out: Float64Array, at: number) => number {
  const { skeleton } = body;
  const lengths = armLengths(body);
  const palm = palmLength(body);
  const world = createWorldPose(skeleton);
  const wrist = new Float64Array(3);
  const scratch = new Float64Array(10);
  const held = new Float64Array(12);
  return (targets, out, at) => {
    forwardKinematics(skeleton, out, at, world);
    let missed = 0;
    for (const side of SIDES) {
      const a = armAt(side);
      const weight = targets[a + ARM_TARGET.weight]!;
      if (!(weight > 0)) continue;
      const p = a + ARM_TARGET.palm;
      const s = (SHOULDER[side] + 1) * 3;
      // The wrist stays behind the palm's place by the length of the palm, along the line from the shoulder.
      const dx = targets[p]! - world.positions[s]!,
        dy = targets[p + 1]! - world.positions[s + 1]!,
        dz = targets[p + 2]! - world.positions[s + 2]!;
      const back = palm / Math.max(palm, Math.sqrt(dx * dx + dy * dy + dz * dz));
      wrist[0] = targets[p]! - dx * back;
      wrist[1] = targets[p + 1]! - dy * back;
      wrist[2] = targets[p + 2]! - dz * back;
      const short = holdHand(lengths, world, side, wrist, targets[a + ARM_TARGET.facing]!, held, scratch);
      const arm = at + 6 + (SHOULDER[side] + 1) * 4;
      for (let k = 0; k < 12; k += 4) slerp(out, arm + k, out, arm + k, held, k, Math.min(1, weight));
      missed = Math.max(missed, weight * short);
    }
    return missed;
  };
}
