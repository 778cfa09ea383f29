import { JOINT } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize, rotationAt } from '../body/skeleton';
import { composePlacement, createPlacement, inversePlacement, placeRoot } from '../math/placement';
import { multiplyConjugate, rotate } from '../math/quaternion';
import type { Clip } from './clip';

/** Which joint carries a clip's travel. */
export const CARRIERS = ['root', 'hips'] as const;
export type Carrier = (typeof CARRIERS)[number];

/** Whether a skeleton has a joint over its hips that is moved, and hips that are moved as well. */
export function canCarry({ skeleton }: Pick<Clip, 'skeleton'>, hips: number): boolean {
  const moving = [...skeleton.moving];
  return topOf(skeleton.parents, hips) !== hips && moving.includes(hips) && moving.includes(topOf(skeleton.parents, hips));
}

function topOf(parents: Int32Array, joint: number): number {
  let top = joint;
  while (parents[top]! >= 0) top = parents[top]!;
  return top;
}

/**
 * A clip with its travel (`places`: 4 numbers a picture) on the topmost joint, which then goes along with it, or on the hips, while
 * the topmost joint stays as it is at first. All below the hips stays where it is. Throws RangeError where a joint to carry is missing.
 */
export function carried(clip: Clip, hips: number, places: Float64Array, carrier: Carrier): Clip {
  if (!canCarry(clip, hips)) throw new RangeError('carried: the skeleton has no joint over its hips that moves');
  const { skeleton, frames } = clip;
  const top = topOf(skeleton.parents, hips);
  const size = poseSize(skeleton);
  const poses = clip.poses.slice();
  const world = createWorldPose(skeleton);
  const at = (joint: number) => [skeleton.moving.indexOf(joint) * 3, rotationAt(skeleton, joint)] as const;
  const [topT, topQ] = at(top),
    [hipsT, hipsQ] = at(hips);
  const parent = skeleton.parents[hips]!;
  const by = createPlacement(),
    back = createPlacement();
  inversePlacement(back, 0, places, 0);
  const place = new Float64Array(3),
    turn = new Float64Array(4);
  for (let f = 0; f < frames; f++) {
    const o = f * size;
    forwardKinematics(skeleton, clip.poses, o, world);
    place.set(world.positions.subarray(hips * 3, hips * 3 + 3));
    turn.set(world.rotations.subarray(hips * 4, hips * 4 + 4));
    poses.set(clip.poses.subarray(topT, topT + 3), o + topT);
    poses.set(clip.poses.subarray(topQ, topQ + 4), o + topQ);
    if (carrier === 'root') {
      composePlacement(by, 0, places, f * 4, back, 0);
      placeRoot(poses, o + topT, o + topQ, by, 0);
    }
    forwardKinematics(skeleton, poses, o, world);
    const p = world.rotations.subarray(parent * 4, parent * 4 + 4);
    const away = (k: number) => place[k]! - world.positions[parent * 3 + k]!;
    rotate(poses, o + hipsT, [-p[0]!, -p[1]!, -p[2]!, p[3]!], 0, away(0), away(1), away(2));
    multiplyConjugate(poses, o + hipsQ, world.rotations, parent * 4, turn, 0);
  }
  return { ...clip, poses };
}

/** A clip of a body of ours with its travel on the hips. */
export function carriedByHips(clip: Clip): Clip {
  return carried(clip, JOINT.hips, new Float64Array(clip.frames * 4), 'hips');
}
