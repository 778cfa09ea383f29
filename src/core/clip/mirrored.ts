import { jointWords } from '../body/joint-words';
import { JOINT, ROLES } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize, restWorld, rotationAt, type Skeleton } from '../body/skeleton';
import { createPlacement } from '../math/placement';
import { multiply, multiplyConjugate, rotate, setFromAxesAt } from '../math/quaternion';
import type { Clip, ClipContact } from './clip';
import type { ClipFigure } from './figure';

/** The joint on the other side of each joint; itself where it has none. By roles, and where a name has its like on the other side. */
function pairsOf(skeleton: Skeleton, roles: Int32Array): Int32Array {
  const pair = Int32Array.from(skeleton.names, (_, j) => j);
  const words = jointWords(skeleton.names);
  const plain = skeleton.names.map((n) =>
    n
      .toLowerCase()
      .replace(/left|right/g, '*')
      .replace(/(^|[^a-z])[lr]([^a-z]|$)/g, '$1*$2')
      .replace(/^[lr](?=[a-z])/, '*'),
  );
  words.forEach(({ side }, j) => {
    if (side === null) return;
    const other = plain.findIndex((p, k) => k !== j && p === plain[j] && words[k]!.side !== null && words[k]!.side !== side);
    if (other >= 0) pair[j] = other;
  });
  ROLES.forEach((role) => {
    if (!role.startsWith('left')) return;
    const [l, r] = [roles[JOINT[role]]!, roles[JOINT[`right${role.slice(4)}` as keyof typeof JOINT]]!];
    if (l < 0 || r < 0) return;
    pair[l] = r;
    pair[r] = l;
  });
  return pair;
}

/**
 * The clip with left and right changed over, mirrored about the plane x = 0: each joint turns from rest as its other side did,
 * seen in the mirror of the body at rest. Contacts change feet.
 */
export function mirrored({ clip, roles, feet }: Pick<ClipFigure, 'clip' | 'roles' | 'feet'>): Clip {
  const { skeleton, frames } = clip;
  const size = poseSize(skeleton);
  const pair = pairsOf(skeleton, roles);
  const rest = restWorld(skeleton);
  const p = rest.positions;
  const [l, r] = [feet[0]!, feet[1]!];
  // The body's own frame at rest: left from hip to hip, up from ankles to hips.
  const up = unit([0, 1, 2].map((k) => p[l.hip * 3 + k]! + p[r.hip * 3 + k]! - p[l.ankle * 3 + k]! - p[r.ankle * 3 + k]!));
  const across = [0, 1, 2].map((k) => p[l.hip * 3 + k]! - p[r.hip * 3 + k]!);
  const along = across.reduce((s, v, k) => s + v * up[k]!, 0);
  const frame = new Float64Array(4);
  setFromAxesAt(frame, 0, [...unit(across.map((v, k) => v - along * up[k]!)), ...up], 0);
  // From a joint's own rotation to the body's frame, and back from there for the one on the other side.
  const count = skeleton.names.length;
  const to = new Float64Array(count * 4);
  for (let j = 0; j < count; j++) multiplyConjugate(to, j * 4, rest.rotations, j * 4, frame, 0);
  const world = createWorldPose(skeleton);
  const turned = new Float64Array(count * 4);
  const q = new Float64Array(4);
  const poses = new Float64Array(clip.poses.length);
  for (let f = 0; f < frames; f++) {
    const at = f * size;
    forwardKinematics(skeleton, clip.poses, at, world);
    for (let k = 0; k < skeleton.moving.length * 3; k++) poses[at + k] = clip.poses[at + k]!;
    for (let j = 0; j < count; j++) {
      const other = pair[j]!;
      multiply(q, 0, world.rotations, other * 4, to, other * 4);
      q[1] = -q[1]!;
      q[2] = -q[2]!;
      // Undo the body's frame of this joint.
      multiply(turned, j * 4, q, 0, [-to[j * 4]!, -to[j * 4 + 1]!, -to[j * 4 + 2]!, to[j * 4 + 3]!], 0);
      const parent = skeleton.parents[j]!;
      const local = at + rotationAt(skeleton, j);
      const m = skeleton.moving.indexOf(j);
      if (parent < 0) {
        for (let k = 0; k < 4; k++) poses[local + k] = turned[j * 4 + k]!;
        poses[at + m * 3] = -poses[at + m * 3]!;
        continue;
      }
      multiplyConjugate(poses, local, turned, parent * 4, turned, j * 4);
      if (m < 0) continue;
      // What moves against its parent moves as the other side's does, seen in the mirror.
      const above = skeleton.parents[other]!;
      const p = world.positions;
      const [x, y, z] = [0, 1, 2].map((k) => p[other * 3 + k]! - p[above * 3 + k]!) as [number, number, number];
      rotate(poses, at + m * 3, [-turned[parent * 4]!, -turned[parent * 4 + 1]!, -turned[parent * 4 + 2]!, turned[parent * 4 + 3]!], 0, -x, y, z);
    }
  }
  const { loopTravel: t } = clip;
  const contacts = clip.contacts?.map((c): ClipContact => ({ ...c, foot: c.foot === 'left' ? 'right' : 'left' })) ?? null;
  return { ...clip, poses, loopTravel: createPlacement(-t[0]!, t[1], t[2], -t[3]!), contacts };
}

function unit(v: readonly number[]): number[] {
  const length = Math.hypot(...v);
  return v.map((x) => x / length);
}
