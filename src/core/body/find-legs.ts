import { rotate } from '../math/quaternion';
import type { FootModel } from './foot-model';
import { guessRoles, isBiped } from './guess-roles';
import { PROPORTIONS } from './proportions';
import { JOINT, SIDE_NAMES, type SideName } from './roles';
import { restWorld, type Skeleton, type WorldPose } from './skeleton';
import type { Sole } from './sole';

type Vector = readonly [number, number, number];

export interface Legs {
  readonly feet: readonly FootModel[];
  /** Mean of both legs' thigh + shank, in the skeleton's unit. */
  readonly legLength: number;
}

/**
 * Two legs and their soles: which joints they are from `roles` (guessed where not given), the soles from the rest pose, heel
 * and height by the proportions of a foot where the file does not tell them. Null when there are no two legs.
 */
export function findLegs(skeleton: Skeleton, ends: readonly (Vector | null)[], sole: Sole | null, roles?: Int32Array): Legs | null {
  const guessed = roles ? null : guessRoles(skeleton, ends);
  const joints = roles ?? (guessed && isBiped(guessed) ? guessed.joints : null);
  if (!joints) return null;
  const rest = restWorld(skeleton);
  const chains = SIDE_NAMES.map((side) => LEG_ROLES.map((part) => joints[JOINT[`${side}${part}`]]!));
  const lengths = chains.map(([hip, knee, ankle]) => (Math.min(hip!, knee!, ankle!) < 0 ? 0 : distance(rest, hip!, knee!) + distance(rest, knee!, ankle!)));
  if (lengths.some((l) => !(l > 0))) return null;
  const up = restUp(rest, chains);
  const feet = chains.map((chain, i) => soleOf(rest, alongLeg(rest, up, chain), ends, sole, SIDE_NAMES[i]!, chain, lengths[i]!));
  return { feet, legLength: (lengths[0]! + lengths[1]!) / 2 };
}

const LEG_ROLES = ['UpperLeg', 'LowerLeg', 'Foot', 'Toes'] as const;

/** The axis (unit, of the file's world) that the legs stand along at rest. */
function restUp({ positions: p }: WorldPose, chains: readonly (readonly number[])[]): Vector {
  const along = [0, 1, 2].map((k) => chains.reduce((sum, [hip, , ankle]) => sum + p[hip! * 3 + k]! - p[ankle! * 3 + k]!, 0));
  const most = along.reduce((best, v, k) => (Math.abs(v) > Math.abs(along[best]!) ? k : best), 1);
  return [0, 1, 2].map((k) => (k === most ? Math.sign(along[k]!) || 1 : 0)) as unknown as Vector;
}

/** Legs spread wider than this (cosine) at rest are a calibration, not a stand: their feet lie square to them. */
const SPREAD = Math.cos(0.21);

/** The way up from the sole at rest: the world's, or the leg's where it is spread wide. */
function alongLeg({ positions: p }: WorldPose, up: Vector, [hip, , ankle]: readonly number[]): Vector {
  const leg = [0, 1, 2].map((k) => p[hip! * 3 + k]! - p[ankle! * 3 + k]!);
  const length = Math.hypot(...leg);
  return dot(leg, up) / length < SPREAD ? (leg.map((v) => v / length) as unknown as Vector) : up;
}

function distance({ positions: p }: WorldPose, a: number, b: number): number {
  return Math.hypot(p[a * 3]! - p[b * 3]!, p[a * 3 + 1]! - p[b * 3 + 1]!, p[a * 3 + 2]! - p[b * 3 + 2]!);
}

function soleOf(
  rest: WorldPose,
  up: Vector,
  ends: readonly (Vector | null)[],
  sole: Sole | null,
  name: SideName,
  [hip, knee, ankle, given]: readonly number[],
  length: number,
): FootModel {
  const foot = ankle!;
  const toes = given! >= 0 ? given! : foot;
  const perLeg = 1 / (PROPORTIONS.thigh + PROPORTIONS.shank);
  const p = rest.positions;
  const to = [0, 1, 2].map((k) => p[toes * 3 + k]! - p[foot * 3 + k]!);
  const rise = dot(to, up);
  const level = to.map((v, k) => v - rise * up[k]!);
  const flat = Math.hypot(...level);
  const forward = flat > 1e-6 * length ? level.map((v) => v / flat) : up[1] === 0 ? [0, -1, 0] : [0, 0, 1];
  // An end is told in its joint's frame.
  const end = ends[toes] ? turned(rest, toes, ends[toes]) : null;
  const under = sole?.toeJointHeight ?? (end && dot(end, up) < 0 ? -dot(end, up) : PROPORTIONS.toeJointHeight * perLeg * length);
  const toeLength = sole
    ? sole.tipAhead - sole.ballAhead
    : end
      ? Math.hypot(...end.map((v, k) => v - dot(end, up) * up[k]!))
      : PROPORTIONS.footLength * (1 - PROPORTIONS.ballShare) * perLeg * length;
  const heelBack =
    sole?.heelBack ??
    (toes === foot
      ? PROPORTIONS.footLength * PROPORTIONS.heelShare * perLeg * length
      : ((flat + toeLength) * PROPORTIONS.heelShare) / (1 - PROPORTIONS.heelShare));
  const height = sole?.ankleHeight ?? (toes === foot ? PROPORTIONS.ankleHeight * perLeg * length : under - rise);
  const local = (joint: number, ahead: number, down: number): Vector => {
    const inverse = [-rest.rotations[joint * 4]!, -rest.rotations[joint * 4 + 1]!, -rest.rotations[joint * 4 + 2]!, rest.rotations[joint * 4 + 3]!];
    const v = [0, 0, 0];
    const [x, y, z] = [0, 1, 2].map((k) => forward[k]! * ahead - up[k]! * down) as unknown as Vector;
    rotate(v, 0, inverse, 0, x, y, z);
    return v as unknown as Vector;
  };
  // Without a toe joint the foot is one piece.
  const whole = PROPORTIONS.footLength * perLeg * length;
  const [ballAhead, tipAhead] = toes === foot ? [whole * (PROPORTIONS.ballShare - PROPORTIONS.heelShare), whole * (1 - PROPORTIONS.heelShare)] : [0, toeLength];
  const depth = toes === foot ? height : under;
  return {
    name,
    hip: hip!,
    knee: knee!,
    ankle: foot,
    toes,
    heel: local(foot, -heelBack, height),
    ball: local(toes, ballAhead, depth),
    tip: local(toes, tipAhead, depth),
    up: local(foot, 0, -1),
    toesUp: local(toes, 0, -1),
  };
}

const dot = (a: readonly number[], b: readonly number[]): number => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;

function turned({ rotations }: WorldPose, joint: number, [x, y, z]: Vector): number[] {
  const v = [0, 0, 0];
  rotate(v, 0, rotations, joint * 4, x, y, z);
  return v;
}
