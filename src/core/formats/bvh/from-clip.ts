import { JOINT, ROLES } from '../../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../../body/skeleton';
import { toDegrees } from '../../math/scalar';
import type { ClipDocument } from '../clip-info';
import type { BvhChannel, BvhJoint, BvhPackage } from './package';

const ROTATIONS: readonly BvhChannel[] = ['Zrotation', 'Xrotation', 'Yrotation'];

/**
 * A clip as a BVH package in metres: the hips are the root and carry the travel, unless a joint `root` over them is asked for
 * that does; every joint turns in the order Z, X, Y.
 * The toes' End Site is the tip of the sole.
 */
export function toBvh({ rig, clip, carrier }: ClipDocument): BvhPackage {
  const rooted = carrier === 'root';
  const { skeleton } = rig;
  const kept = ROLES.map((_, j) => j).filter((j) => rooted || j !== JOINT.root);
  const joints: BvhJoint[] = kept.map((j) => {
    const name = ROLES[j]!;
    const parent = rooted ? skeleton.parents[j]! : skeleton.parents[j]! === JOINT.root ? -1 : skeleton.parents[j]! - 1;
    const moves = parent < 0 || j === JOINT.hips;
    return {
      name,
      parent,
      end: rig.ends[j]!,
      // Readers differ on whether a root's offset adds to its position channels: zero means the same to all.
      offset: moves ? [0, 0, 0] : [skeleton.offsets[j * 3]!, skeleton.offsets[j * 3 + 1]!, skeleton.offsets[j * 3 + 2]!],
      channels: moves ? ['Xposition', 'Yposition', 'Zposition', ...ROTATIONS] : ROTATIONS,
    };
  });
  const width = joints.length * 3 + (rooted ? 6 : 3);
  const values = new Float64Array(clip.frames * width);
  const size = poseSize(skeleton);
  const quats = skeleton.moving.length * 3;
  const world = createWorldPose(skeleton);
  const zxy = [0, 0, 0];
  for (let f = 0; f < clip.frames; f++) {
    forwardKinematics(skeleton, clip.poses, f * size, world);
    let at = f * width;
    for (const j of kept) {
      if (rooted && (j === JOINT.root || j === JOINT.hips)) for (let k = 0; k < 3; k++) values[at++] = clip.poses[f * size + j * 3 + k]!;
      else if (j === JOINT.hips) for (let k = 0; k < 3; k++) values[at++] = world.positions[JOINT.hips * 3 + k]!;
      // Without a root the hips take over what it turns.
      if (j === JOINT.hips && !rooted) toZxy(world.rotations, JOINT.hips * 4, zxy);
      else toZxy(clip.poses, f * size + quats + j * 4, zxy);
      for (let k = 0; k < 3; k++) values[at++] = toDegrees(zxy[k]!);
    }
  }
  return { joints, frameTime: 1 / clip.rate, frames: clip.frames, values };
}

/** Euler angles (rad) of q = Rz · Rx · Ry into out [z, x, y]. At x = ±90° the split between z and y is free; y becomes 0. */
function toZxy(q: Float64Array, i: number, out: number[]): void {
  const x = q[i]!,
    y = q[i + 1]!,
    z = q[i + 2]!,
    w = q[i + 3]!;
  const m21 = 2 * (y * z + w * x);
  if (Math.abs(m21) > 1 - 1e-12) {
    out[1] = (Math.sign(m21) * Math.PI) / 2;
    out[0] = Math.atan2(2 * (x * y + w * z), 1 - 2 * (y * y + z * z));
    out[2] = 0;
    return;
  }
  out[1] = Math.asin(m21);
  out[0] = Math.atan2(-2 * (x * y - w * z), 1 - 2 * (x * x + z * z));
  out[2] = Math.atan2(-2 * (x * z - w * y), 1 - 2 * (x * x + y * y));
}
