import { multiply, multiplyConjugate, rotate, setFromAxesAt, type Numbers } from '../math/quaternion';
import type { Body } from './body';
import { footFrame } from './foot-frame';
import type { FootModel } from './foot-model';
import { measureLegs } from './legs';
import { PROPORTIONS } from './proportions';
import { ownFeet } from './foot-model';
import type { Rig } from './rig';
import { JOINT, JOINT_COUNT, ROLES, SIDE_NAMES, type Role } from './roles';
import { createWorldPose, forwardKinematics, identityRest, restWorld, rotationAt, type Skeleton, type WorldPose } from './skeleton';
import type { Sole } from './sole';
import { bodySpecFromStature } from './spec';

type Vector = readonly [number, number, number];

/** A body as a skeleton made elsewhere has it, and how poses go from one to the other. */
export interface Measured {
  readonly body: Body;
  readonly rig: Rig;
}

/** Whose skeleton is measured: joints of roles by JOINT (−1 for none), both feet with their soles, and how long the legs are. */
interface Subject {
  readonly roles: Int32Array;
  readonly feet: readonly FootModel[];
  readonly legLength: number;
}

const MIDDLE: readonly Role[] = ['hips', 'spine', 'chest', 'upperChest', 'neck', 'head'];

/**
 * The canonical body of a skeleton made elsewhere: its own lengths and joints' places, arms out and legs down, and a rig that
 * takes its poses: each joint's turn from rest, on a bone that points as the canonical one does. Feet stand as their soles do.
 */
export function measuredBody(skeleton: Skeleton, { roles, feet, legLength }: Subject, name: string): Measured {
  const rest = restWorld(skeleton);
  const frame = bodyFrame(rest, feet);
  const at = (joint: number): Vector => inFrame(frame, rest, joint, roles[JOINT.hips]!);
  const soles = feet.map((f) => soleOf(skeleton, f)) as [Sole, Sole];
  const offsets = new Float64Array(JOINT_COUNT * 3);
  const put = (role: Role, v: Vector) => offsets.set(v, JOINT[role] * 3);
  const ankleHeight = (soles[0].ankleHeight + soles[1].ankleHeight) / 2;
  put('hips', [0, legLength + ankleHeight - mean(feet.map((f) => at(f.hip)[1])), 0]);
  const middle = middlePlaces(roles, at);
  for (let i = 1; i < MIDDLE.length; i++) put(MIDDLE[i]!, minus(middle[i]!, middle[i - 1]!));
  const chest = middle[MIDDLE.indexOf('upperChest')]!;
  const turns = new Map<Role, Float64Array>();
  SIDE_NAMES.forEach((side, s) => {
    const foot = feet[s]!;
    put(`${side}UpperLeg`, at(foot.hip));
    put(`${side}LowerLeg`, [0, -distance(rest, foot.hip, foot.knee), 0]);
    put(`${side}Foot`, [0, -distance(rest, foot.knee, foot.ankle), 0]);
    const { hinge } = footFrame(skeleton, foot);
    put(`${side}Toes`, [hinge[0]!, hinge[1]!, hinge[2]!]);
    turns.set(`${side}UpperLeg`, shortestTurn([0, -1, 0], minus(at(foot.knee), at(foot.hip))));
    turns.set(`${side}LowerLeg`, shortestTurn([0, -1, 0], minus(at(foot.ankle), at(foot.knee))));
    const out: Vector = [side === 'left' ? 1 : -1, 0, 0];
    const [upper, lower, hand, shoulder] = (['UpperArm', 'LowerArm', 'Hand', 'Shoulder'] as const).map((part) => roles[JOINT[`${side}${part}`]]!) as [
      number,
      number,
      number,
      number,
    ];
    if (upper < 0 || lower < 0 || hand < 0) {
      // Arms the skeleton lacks are those of a body of its size.
      const H = legLength / (PROPORTIONS.thigh + PROPORTIONS.shank);
      put(`${side}Shoulder`, [out[0] * 0.02 * H, 0, 0]);
      put(`${side}UpperArm`, [out[0] * 0.11 * H, 0, 0]);
      put(`${side}LowerArm`, [out[0] * PROPORTIONS.upperArm * H, 0, 0]);
      put(`${side}Hand`, [out[0] * PROPORTIONS.forearm * H, 0, 0]);
      return;
    }
    const collar = shoulder >= 0 ? at(shoulder) : lerp(chest, at(upper), 0.2);
    put(`${side}Shoulder`, minus(collar, chest));
    put(`${side}UpperArm`, minus(at(upper), collar));
    put(`${side}LowerArm`, [out[0] * distance(rest, upper, lower), 0, 0]);
    put(`${side}Hand`, [out[0] * distance(rest, lower, hand), 0, 0]);
    turns.set(`${side}UpperArm`, shortestTurn(out, minus(at(lower), at(upper))));
    turns.set(`${side}LowerArm`, shortestTurn(out, minus(at(hand), at(lower))));
    turns.set(`${side}Hand`, turns.get(`${side}LowerArm`)!);
  });
  const body = bodyOf(offsets, soles, legLength, ankleHeight, name);
  return { body, rig: measuredRig(body, skeleton, roles, feet, rest, frame, turns) };
}

function bodyOf(offsets: Float64Array, soles: [Sole, Sole], legLength: number, ankleHeight: number, name: string): Body {
  const stature = Math.min(4, Math.max(0.3, legLength / (PROPORTIONS.thigh + PROPORTIONS.shank)));
  const parents = new Int32Array(JOINT_COUNT);
  ROLES.forEach((role, j) => (parents[j] = parentOf(role)));
  const skeleton: Skeleton = { names: ROLES, parents, offsets, rest: identityRest(JOINT_COUNT), moving: Int32Array.of(JOINT.root, JOINT.hips) };
  return {
    spec: bodySpecFromStature(stature, name.slice(0, 80) || 'Clip'),
    skeleton,
    sole: soles[0],
    legs: measureLegs(skeleton, soles),
    legLength,
    hipHeight: legLength + ankleHeight,
    plain: true,
  };
}

const LIMB_ORDER = {
  Shoulder: 'upperChest',
  UpperArm: 'Shoulder',
  LowerArm: 'UpperArm',
  Hand: 'LowerArm',
  UpperLeg: 'hips',
  LowerLeg: 'UpperLeg',
  Foot: 'LowerLeg',
  Toes: 'Foot',
} as const;

function parentOf(role: Role): number {
  if (role === 'root') return -1;
  if (role === 'hips') return JOINT.root;
  const middle = MIDDLE.indexOf(role);
  if (middle > 0) return JOINT[MIDDLE[middle - 1]!];
  const side = role.startsWith('left') ? 'left' : 'right';
  const above = LIMB_ORDER[role.slice(side.length) as keyof typeof LIMB_ORDER];
  return above === 'upperChest' || above === 'hips' ? JOINT[above] : JOINT[`${side}${above}`];
}

/** Places of hips to head in the body's frame; what the skeleton lacks stands evenly between what it has. */
function middlePlaces(roles: Int32Array, at: (joint: number) => Vector): Vector[] {
  const known = MIDDLE.map((role) => (roles[JOINT[role]]! >= 0 ? at(roles[JOINT[role]]!) : null));
  const last = known.reduce((found, v, i) => (v ? i : found), 0);
  return known.map((v, i): Vector => {
    if (v) return v;
    if (i > last) {
      const [x, y, z] = known[last]!;
      return [x, y + 0.1 * (i - last), z];
    }
    let a = i,
      b = i;
    while (!known[a]) a--;
    while (!known[b]) b++;
    return lerp(known[a]!, known[b]!, (i - a) / (b - a));
  });
}

/** The body's own frame at rest: left from hip to hip, up from ankles to hips. */
function bodyFrame({ positions: p }: WorldPose, feet: readonly FootModel[]): Float64Array {
  const [l, r] = feet as [FootModel, FootModel];
  const between = (a: number, b: number, c: number, d: number) => [0, 1, 2].map((k) => p[a * 3 + k]! + p[b * 3 + k]! - p[c * 3 + k]! - p[d * 3 + k]!);
  const up = unit(between(l.hip, r.hip, l.ankle, r.ankle));
  const across = [0, 1, 2].map((k) => p[l.hip * 3 + k]! - p[r.hip * 3 + k]! + 1e-3 * (p[l.ankle * 3 + k]! - p[r.ankle * 3 + k]!));
  const along = dot(across, up);
  const left = unit(across.map((v, k) => v - along * up[k]!));
  const out = new Float64Array(4);
  setFromAxesAt(out, 0, [...left, ...up], 0);
  return out;
}

function inFrame(frame: Float64Array, { positions: p }: WorldPose, joint: number, from: number): Vector {
  const out = [0, 0, 0];
  const [x, y, z] = [0, 1, 2].map((k) => p[joint * 3 + k]! - p[from * 3 + k]!) as unknown as Vector;
  rotate(out, 0, [-frame[0]!, -frame[1]!, -frame[2]!, frame[3]!], 0, x, y, z);
  return out as unknown as Vector;
}

function soleOf(skeleton: Skeleton, foot: FootModel): Sole {
  const f = footFrame(skeleton, foot);
  const ballAhead = f.hinge[2]!;
  return {
    ankleHeight: -f.heel[1]!,
    heelBack: -f.heel[2]!,
    ballAhead,
    tipAhead: ballAhead + f.tip[2]!,
    toeJointHeight: f.bends ? -f.ball[1]! : 0,
    breadth: (ballAhead + f.tip[2]! - f.heel[2]!) * (PROPORTIONS.footBreadth / PROPORTIONS.footLength),
  };
}

/**
 * The rig of a measured body. `take` writes a root on the ground under the hips, unturned: who knows the travel puts it there.
 * `show` is not told: such a skeleton is written from its own poses.
 */
function measuredRig(
  body: Body,
  skeleton: Skeleton,
  roles: Int32Array,
  feet: readonly FootModel[],
  rest: WorldPose,
  frame: Float64Array,
  turns: ReadonlyMap<Role, Float64Array>,
): Rig {
  // What follows a joint's own rotation: back to rest, on to the body's frame, and to where the canonical bone points.
  const after = new Float64Array(JOINT_COUNT * 4);
  ROLES.forEach((role, r) => {
    const joint = roles[r]!;
    if (joint < 0) return;
    multiplyConjugate(after, r * 4, rest.rotations, joint * 4, frame, 0);
    const turn = turns.get(role);
    if (turn) multiply(after, r * 4, after, r * 4, turn, 0);
  });
  SIDE_NAMES.forEach((side, s) => {
    const f = footFrame(skeleton, feet[s]!);
    after.set(f.sole, JOINT[`${side}Foot`] * 4);
    after.set(f.toes, JOINT[`${side}Toes`] * 4);
  });
  const shown = createWorldPose(skeleton);
  const canonical = new Float64Array(JOINT_COUNT * 4);
  const hips = roles[JOINT.hips]!;
  return {
    skeleton,
    feet: ownFeet(body),
    ends: skeleton.names.map(() => null),
    show() {
      throw new RangeError('measuredRig: a measured skeleton is written from its own poses');
    },
    take(pose: Numbers, at: number, out: Numbers, o: number) {
      forwardKinematics(skeleton, pose, at, shown);
      for (let r = 0; r < JOINT_COUNT; r++) {
        const parent = body.skeleton.parents[r]!;
        const w = r * 4;
        if (r === JOINT.root) canonical.set([0, 0, 0, 1], w);
        else if (roles[r]! < 0) canonical.copyWithin(w, parent * 4, parent * 4 + 4);
        else multiply(canonical, w, shown.rotations, roles[r]! * 4, after, w);
        const local = o + rotationAt(body.skeleton, r);
        if (parent < 0) for (let k = 0; k < 4; k++) out[local + k] = canonical[w + k]!;
        else multiplyConjugate(out, local, canonical, parent * 4, canonical, w);
      }
      const p = shown.positions;
      for (let k = 0; k < 3; k++) out[o + k] = k === 1 ? 0 : p[hips * 3 + k]!;
      for (let k = 0; k < 3; k++) out[o + 3 + k] = k === 1 ? p[hips * 3 + 1]! : 0;
    },
  };
}

function shortestTurn(from: Vector, to: Vector): Float64Array {
  const t = unit(to);
  const w = 1 + dot(from, t);
  // Straight against it: half a turn about an axis square to it.
  if (w < 1e-9) return Float64Array.of(0, 0, 1, 0);
  const q = [from[1] * t[2]! - from[2] * t[1]!, from[2] * t[0]! - from[0] * t[2]!, from[0] * t[1]! - from[1] * t[0]!, w];
  const l = Math.hypot(...q);
  return Float64Array.from(q, (v) => v / l);
}

const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const lerp = (a: Vector, b: Vector, u: number): Vector => [a[0] + (b[0] - a[0]) * u, a[1] + (b[1] - a[1]) * u, a[2] + (b[2] - a[2]) * u];
const dot = (a: ArrayLike<number>, b: ArrayLike<number>) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
const mean = (v: readonly number[]) => v.reduce((a, b) => a + b, 0) / v.length;
function unit(v: ArrayLike<number>): number[] {
  const l = Math.hypot(v[0]!, v[1]!, v[2]!) || 1;
  return [v[0]! / l, v[1]! / l, v[2]! / l];
}
function distance({ positions: p }: WorldPose, a: number, b: number): number {
  return Math.hypot(p[a * 3]! - p[b * 3]!, p[a * 3 + 1]! - p[b * 3 + 1]!, p[a * 3 + 2]! - p[b * 3 + 2]!);
}
