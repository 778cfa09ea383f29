import { JOINT, SHOULDER, SIDES } from '../body/roles';
import type { Channel } from '../gait/parameters';
import type { GaitSpec } from '../gait/spec';
import { compileWave, waveAt, type Follower, type Wave } from '../gait/wave';
import { multiply, multiplyAxis, multiplyConjugate, setAxis, setIdentity, slerp, type Numbers } from '../math/quaternion';
import { clamp, lerp, TAU } from '../math/scalar';
import type { Frame } from './frame';

/** The elbow never opens past this (rad). */
const STRAIGHTEST_ELBOW_RAD = 0.03;
const FURTHEST_ELBOW_RAD = 2.5;
/** Elbow and arm (rad) of a figure that stands. */
const STANDING_ELBOW_RAD = 0.22;

/** q scaled to 1/parts of its angle, so that `parts` of them in a chain make q. Both in the caller's buffers. */
function splitRotation(out: Numbers, o: number, q: Numbers, i: number, parts: number): void {
  const sign = q[i + 3]! < 0 ? -1 : 1;
  const w = Math.min(1, q[i + 3]! * sign);
  const sine = Math.sqrt(Math.max(0, 1 - w * w));
  if (sine < 1e-12) return setIdentity(out, o);
  const half = Math.atan2(sine, w) / parts;
  const k = (Math.sin(half) / sine) * sign;
  out[o] = q[i]! * k;
  out[o + 1] = q[i + 1]! * k;
  out[o + 2] = q[i + 2]! * k;
  out[o + 3] = Math.cos(half);
}

/** The three waves of the trunk, as they are or as a follower answers them. */
interface TrunkWaves {
  readonly lean: Wave;
  readonly sideLean: Wave;
  readonly turn: Wave;
}

function trunkWaves({ trunk }: GaitSpec, strideTime: number, follower?: Follower): TrunkWaves {
  return {
    lean: compileWave(trunk.lean, 2, strideTime, follower),
    sideLean: compileWave(trunk.sideLean, 1, strideTime, follower),
    turn: compileWave(trunk.counterTurn, 1, strideTime, follower),
  };
}

/** A follower with the share of its answer that is used. */
interface Following {
  readonly share: number;
  readonly follower: Follower;
}

const following = (share: number, frequency: number, damping: number): Following => ({ share, follower: { frequency, damping } });

/** A channel and its followed answer, mixed by the share when read. */
function followedChannel(channel: Channel, waves: 1 | 2, strideTime: number, by: Following) {
  const raw = compileWave(channel, waves, strideTime);
  const late = by.share > 0 ? compileWave(channel, waves, strideTime, by.follower) : raw;
  return { raw, late };
}

/** Evaluator of spine, arms and head on top of solved hips. */
export interface UpperBody {
  /** Extra angle (rad) by which each arm goes out so that it stays clear of the trunk; set while preparing. */
  readonly extraOut: [number, number];
  /** Writes local rotations into the pose, whose quaternions start at `quats`; `strides` counts strides on for slow looks. */
  evaluate(frame: Frame, strides: number, pose: Numbers, quats: number): void;
}

/** Prepares spine, arms and head of a gait. Evaluation allocates nothing. */
export function createUpperBody(gait: GaitSpec, sides: readonly [GaitSpec, GaitSpec], strideTime: number): UpperBody {
  const { trunk, head, direction, hips, timing, follow } = gait;
  const along = Math.cos(direction.travel - direction.hips);
  // Leaning into the way one goes: full forward, a third sideways, against it a little.
  const leanShare = 0.35 + 0.65 * Math.cos(direction.travel);
  const armPhase = [timing.leftArm, timing.rightArm];

  const spineFollows = following(follow.spine, follow.spineFrequency, follow.spineDamping);
  const headFollows = following(follow.head, follow.headFrequency, follow.headDamping);
  const armsFollow = following(follow.arms, follow.armsFrequency, follow.armsDamping);
  const handsFollow = following(follow.hands, follow.handsFrequency, follow.handsDamping);
  const raw = trunkWaves(gait, strideTime);
  const late = spineFollows.share > 0 ? trunkWaves(gait, strideTime, spineFollows.follower) : raw;
  const carried = headFollows.share > 0 ? trunkWaves(gait, strideTime, headFollows.follower) : late;
  const bend = compileWave(trunk.bend, 2, strideTime);
  const nod = followedChannel(head.nod, 2, strideTime, headFollows),
    headTurn = followedChannel(head.turn, 1, strideTime, headFollows),
    headList = followedChannel(head.list, 1, strideTime, headFollows);
  const arms = sides.map(({ arms: a }) => ({
    swing: followedChannel(a.swing, 1, strideTime, armsFollow),
    swingHand: compileWave(a.swing, 1, strideTime, handsFollow.follower),
    elbow: compileWave(a.elbow, 1, strideTime),
    elbowHand: compileWave(a.elbow, 1, strideTime, handsFollow.follower),
    out: compileWave(a.out, 1, strideTime),
    shoulders: compileWave(a.shoulders, 2, strideTime),
    hand: compileWave(a.hand, 1, strideTime),
    values: a,
  }));
  const lookTurns = TAU / Math.max(1, Math.round(head.lookCycles));
  const extraOut: [number, number] = [0, 0];
  // Scratch: chest world, head world, split local, the part of the spine that leads.
  const q = new Float64Array(16);

  /** World orientation of the chest for one set of waves, `share` of the way from the raw ones, into q[o..]. */
  function setChest(o: number, frame: Frame, waves: TrunkWaves, share: number): void {
    const { phase, strength } = frame;
    const keep = 1 - trunk.shoulderLevel;
    const mix = (from: Wave, to: Wave) => (share === 1 || from === to ? waveAt(to, phase) : lerp(waveAt(from, phase), waveAt(to, phase), share));
    const lean = strength * leanShare * (trunk.lean.offset + mix(raw.lean, waves.lean)) + keep * (frame.tilt - hips.tilt.offset * (1 - strength));
    const sideLean = trunk.sideLean.offset + strength * mix(raw.sideLean, waves.sideLean);
    setAxis(q, o, 1, direction.chest + trunk.counterTurn.offset + strength * along * mix(raw.turn, waves.turn));
    multiplyAxis(q, o, q, o, 0, lean);
    multiplyAxis(q, o, q, o, 2, keep * frame.list - sideLean);
  }

  const answer = (c: { raw: Wave; late: Wave }, phase: number, share: number): number =>
    c.raw === c.late ? waveAt(c.raw, phase) : lerp(waveAt(c.raw, phase), waveAt(c.late, phase), share);

  function spine(frame: Frame, pose: Numbers, quats: number): void {
    setChest(0, frame, late, spineFollows.share);
    multiplyConjugate(q, 8, frame.hips, 0, q, 0);
    const lower = quats + JOINT.spine * 4;
    if (spineFollows.share > 0) {
      // The lowest joint leads with its share of the unfollowed trunk; the two above bring the chest to its late place.
      setChest(4, frame, raw, 1);
      multiplyConjugate(q, 12, frame.hips, 0, q, 4);
      splitRotation(pose, lower, q, 12, 3);
      multiplyConjugate(q, 8, pose, lower, q, 8);
      for (const j of [1, 2]) splitRotation(pose, lower + j * 4, q, 8, 2);
    } else for (let j = 0; j < 3; j++) splitRotation(pose, lower + j * 4, q, 8, 3);
    const curve = trunk.bend.offset + frame.strength * waveAt(bend, frame.phase);
    if (curve !== 0) {
      // The back goes out between two joints that turn one way and one that turns back twice: the chest stays where it is.
      multiplyAxis(pose, lower, pose, lower, 0, -curve);
      setAxis(q, 12, 0, curve);
      multiply(pose, lower + 4, q, 12, pose, lower + 4);
      multiplyAxis(pose, lower + 4, pose, lower + 4, 0, curve);
      setAxis(q, 12, 0, -curve);
      multiply(pose, lower + 8, q, 12, pose, lower + 8);
    }
  }

  function neckAndHead(frame: Frame, strides: number, pose: Numbers, quats: number): void {
    const { phase, strength } = frame;
    const share = headFollows.share;
    const look = head.lookAround > 0 ? head.lookAround * Math.sin(lookTurns * strides) : 0;
    // The gaze against the facing; what the head does not hold still it does with the chest, late where it follows.
    setAxis(q, 8, 1, head.turn.offset + strength * answer(headTurn, phase, share) + look);
    multiplyAxis(q, 8, q, 8, 0, head.nod.offset + strength * answer(nod, phase, share));
    multiplyAxis(q, 8, q, 8, 2, -head.list.offset - strength * answer(headList, phase, share));
    if (share > 0) {
      setChest(12, frame, carried, share);
      multiply(q, 4, q, 12, q, 8);
    } else multiply(q, 4, q, 0, q, 8);
    slerp(q, 4, q, 4, q, 8, head.steadiness);
    multiplyConjugate(q, 8, q, 0, q, 4);
    splitRotation(pose, quats + JOINT.neck * 4, q, 8, 2);
    splitRotation(pose, quats + JOINT.head * 4, q, 8, 2);
  }

  function arm(side: 0 | 1, frame: Frame, pose: Numbers, quats: number): void {
    const { phase, strength } = frame;
    const own = arms[side]!;
    const a = own.values;
    const sign = side === 0 ? 1 : -1;
    const shoulder = quats + SHOULDER[side] * 4;
    const at = phase - armPhase[side]!;
    const wave = along * waveAt(own.swing.raw, at);
    const trailing = armsFollow.share > 0 ? armsFollow.share * (along * waveAt(own.swing.late, at) - wave) : 0;
    const bending = along * waveAt(own.elbow, at);
    const flapping =
      handsFollow.share > 0
        ? handsFollow.share * along * (waveAt(own.swingHand, at) - waveAt(own.swing.raw, at) + waveAt(own.elbowHand, at) - waveAt(own.elbow, at))
        : 0;
    // Standing, an arm hangs; walking, it swings about its centre.
    const swing = strength * (a.swing.offset + wave);
    const elbow = lerp(STANDING_ELBOW_RAD, a.elbow.offset, strength) + strength * (bending + trailing);
    const out = a.out.offset + strength * waveAt(own.out, at) + extraOut[side];
    const up = a.shoulders.offset + strength * waveAt(own.shoulders, phase);
    // The shoulder girdle follows a little, so that the chest does not look like a board.
    setAxis(pose, shoulder, 1, -sign * 0.12 * swing);
    multiplyAxis(pose, shoulder, pose, shoulder, 2, sign * up);
    setAxis(pose, shoulder + 4, 0, -swing);
    multiplyAxis(pose, shoulder + 4, pose, shoulder + 4, 2, -sign * (Math.PI / 2 - out + up));
    multiplyAxis(pose, shoulder + 4, pose, shoulder + 4, 0, a.inward);
    setAxis(pose, shoulder + 8, 1, -sign * clamp(elbow, STRAIGHTEST_ELBOW_RAD, FURTHEST_ELBOW_RAD));
    setAxis(pose, shoulder + 12, 2, -sign * 0.06);
    const hand = a.hand.offset + strength * (waveAt(own.hand, at) + flapping);
    if (hand !== 0) multiplyAxis(pose, shoulder + 12, pose, shoulder + 12, 1, -sign * hand);
  }

  return {
    extraOut,
    evaluate(frame, strides, pose, quats) {
      spine(frame, pose, quats);
      neckAndHead(frame, strides, pose, quats);
      for (const side of SIDES) arm(side, frame, pose, quats);
    },
  };
}
