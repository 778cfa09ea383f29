import type { Sole } from './sole';
import { PROPORTIONS, type Proportions } from './proportions';
import { JOINT, JOINT_COUNT, ROLES, type Role } from './roles';
import { measureLegs, type LegMeasures } from './legs';
import { identityRest, type Skeleton } from './skeleton';
import type { BodySpec } from './spec';

/** A spec made into joints and lengths. Lengths in metres; rest pose = arms held out level (as VRM 1.0 asks), facing +Z. */
export interface Body {
  readonly spec: BodySpec;
  readonly skeleton: Skeleton;
  /** The sole the proportions ask for; what each foot has is in `legs`. */
  readonly sole: Sole;
  /** Both legs as measured on the skeleton: left, right. */
  readonly legs: readonly [LegMeasures, LegMeasures];
  /** thigh + shank, mean of both legs. */
  readonly legLength: number;
  /** Height of the hips joint when standing with straight legs. */
  readonly hipHeight: number;
  /** True of one known by its joints alone: it is shown with plain limbs. */
  readonly plain?: boolean;
}

const PARENT: Partial<Record<Role, Role>> = {
  hips: 'root',
  spine: 'hips',
  chest: 'spine',
  upperChest: 'chest',
  neck: 'upperChest',
  head: 'neck',
  leftShoulder: 'upperChest',
  leftUpperArm: 'leftShoulder',
  leftLowerArm: 'leftUpperArm',
  leftHand: 'leftLowerArm',
  rightShoulder: 'upperChest',
  rightUpperArm: 'rightShoulder',
  rightLowerArm: 'rightUpperArm',
  rightHand: 'rightLowerArm',
  leftUpperLeg: 'hips',
  leftLowerLeg: 'leftUpperLeg',
  leftFoot: 'leftLowerLeg',
  leftToes: 'leftFoot',
  rightUpperLeg: 'hips',
  rightLowerLeg: 'rightUpperLeg',
  rightFoot: 'rightLowerLeg',
  rightToes: 'rightFoot',
};

const BODIES = new WeakMap<BodySpec, Body>();

/** The one body of a spec that does not change any more, built when it is first asked for. Throws as `createBody` does. */
export function bodyOf(spec: BodySpec): Body {
  let body = BODIES.get(spec);
  if (!body) BODIES.set(spec, (body = createBody(spec)));
  return body;
}

/** Builds joints and soles from a spec. Throws RangeError where the proportions cannot stand. */
export function createBody(spec: BodySpec): Body {
  const p: Proportions = { ...PROPORTIONS, ...spec.proportions };
  const H = spec.stature;
  const legLength = (p.thigh + p.shank) * H;
  const hipHeight = legLength + p.ankleHeight * H;
  if (!(hipHeight < p.shoulderHeight * H)) throw new RangeError(`createBody: the legs (${hipHeight.toFixed(2)} m) reach past the shoulders of ${spec.name}`);
  const sole: Sole = {
    ankleHeight: p.ankleHeight * H,
    heelBack: p.footLength * p.heelShare * H,
    ballAhead: p.footLength * (p.ballShare - p.heelShare) * H,
    tipAhead: p.footLength * (1 - p.heelShare) * H,
    toeJointHeight: p.toeJointHeight * H,
    breadth: p.footBreadth * H,
  };
  const skeleton = createSkeleton(p, H, hipHeight, sole);
  return { spec, sole, legLength, hipHeight, skeleton, legs: measureLegs(skeleton, [sole, sole]) };
}

function createSkeleton(p: Proportions, H: number, hipHeight: number, sole: Sole): Skeleton {
  const trunk = p.shoulderHeight * H - hipHeight;
  const up = (share: number) => hipHeight + trunk * share;
  const world: Record<Role, readonly [number, number, number]> = {
    root: [0, 0, 0],
    hips: [0, hipHeight, 0],
    spine: [0, up(0.2), -0.006 * H],
    chest: [0, up(0.47), -0.009 * H],
    upperChest: [0, up(0.72), -0.012 * H],
    neck: [0, up(1.06), -0.012 * H],
    head: [0, p.chinHeight * H + 0.006 * H, 0],
    ...arm(1),
    ...arm(-1),
    ...leg(1),
    ...leg(-1),
  } as unknown as Record<Role, readonly [number, number, number]>;
  function arm(s: 1 | -1) {
    const side = s > 0 ? 'left' : 'right';
    const x = (p.shoulderBreadth / 2) * H,
      y = p.shoulderHeight * H,
      z = -0.012 * H;
    return {
      [`${side}Shoulder`]: [s * 0.02 * H, y - 0.012 * H, 0],
      [`${side}UpperArm`]: [s * x, y, z],
      [`${side}LowerArm`]: [s * (x + p.upperArm * H), y, z],
      [`${side}Hand`]: [s * (x + (p.upperArm + p.forearm) * H), y, z],
    };
  }
  function leg(s: 1 | -1) {
    const side = s > 0 ? 'left' : 'right';
    const x = (s * p.hipJointBreadth * H) / 2;
    return {
      [`${side}UpperLeg`]: [x, hipHeight, 0],
      [`${side}LowerLeg`]: [x, hipHeight - p.thigh * H, 0],
      [`${side}Foot`]: [x, sole.ankleHeight, 0],
      [`${side}Toes`]: [x, sole.toeJointHeight, sole.ballAhead],
    };
  }
  const parents = new Int32Array(JOINT_COUNT);
  const offsets = new Float64Array(JOINT_COUNT * 3);
  ROLES.forEach((role, j) => {
    const parent = PARENT[role];
    parents[j] = parent ? JOINT[parent] : -1;
    for (let k = 0; k < 3; k++) offsets[j * 3 + k] = world[role][k]! - (parent ? world[parent][k]! : 0);
  });
  return { names: ROLES, parents, offsets, rest: identityRest(JOINT_COUNT), moving: Int32Array.of(JOINT.root, JOINT.hips) };
}
