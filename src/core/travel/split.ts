import { poseSize } from '../body/skeleton';
import type { Clip } from '../clip/clip';
import { wrapAngle } from '../math/scalar';
import { createPlacement, type Placement } from '../math/placement';
import { multiply, multiplyConjugate, rotate, setAxis } from '../math/quaternion';

/** Travel of a clip's root: x, z (m) and yaw (rad) per frame, and what one loop adds. */
interface TravelTrack {
  readonly rate: number;
  /** frames × 3 numbers: x, z, yaw. */
  readonly values: Float64Array;
  readonly loopTravel: Placement;
}

/** A clip taken apart: motion = travel ∘ in place. */
export interface SplitClip {
  readonly travel: TravelTrack;
  readonly inPlace: Clip;
}

/** Takes the travel (x, z, yaw of joint 0) out of a clip. `joinTravel` puts it back exactly (≤ 1e-9 m, 1e-9 rad). */
export function splitTravel(clip: Clip): SplitClip {
  const size = poseSize(clip.skeleton);
  const quat = clip.skeleton.moving.length * 3;
  const values = new Float64Array(clip.frames * 3);
  const poses = clip.poses.slice();
  const yaw = [0, 0, 0, 1];
  const v = [0, 0, 0];
  for (let f = 0; f < clip.frames; f++) {
    const at = f * size;
    rotate(v, 0, poses, at + quat, 0, 0, 1);
    const seen = Math.atan2(v[0]!, v[2]!);
    // Counted on from picture to picture, so that more than half a turn is told.
    const before = f > 0 ? values[f * 3 - 1]! : seen;
    const heading = before + wrapAngle(seen - before);
    values.set([poses[at]!, poses[at + 2]!, heading], f * 3);
    poses[at] = poses[at + 2] = 0;
    setAxis(yaw, 0, 1, heading);
    multiplyConjugate(poses, at + quat, yaw, 0, poses, at + quat);
  }
  return {
    travel: { rate: clip.rate, values, loopTravel: clip.loopTravel },
    inPlace: { ...clip, poses, loopTravel: createPlacement() },
  };
}

/** Puts a travel track back under an in-place clip. */
export function joinTravel({ travel, inPlace }: SplitClip): Clip {
  const size = poseSize(inPlace.skeleton);
  const quat = inPlace.skeleton.moving.length * 3;
  const poses = inPlace.poses.slice();
  const yaw = [0, 0, 0, 1];
  for (let f = 0; f < inPlace.frames; f++) {
    const at = f * size;
    poses[at] = travel.values[f * 3]!;
    poses[at + 2] = travel.values[f * 3 + 1]!;
    setAxis(yaw, 0, 1, travel.values[f * 3 + 2]!);
    multiply(poses, at + quat, yaw, 0, poses, at + quat);
  }
  return { ...inPlace, poses, loopTravel: travel.loopTravel };
}

/** A clip with a constant velocity (m/s) added to joint 0, as an in-place clip needs it before its feet are measured. */
export function addTravel(clip: Clip, vx: number, vz: number): Clip {
  if (vx === 0 && vz === 0) return clip;
  const size = poseSize(clip.skeleton);
  const poses = clip.poses.slice();
  for (let f = 0; f < clip.frames; f++) {
    poses[f * size] = poses[f * size]! + (vx * f) / clip.rate;
    poses[f * size + 2] = poses[f * size + 2]! + (vz * f) / clip.rate;
  }
  const loopTravel = clip.loopTravel.slice();
  if (clip.loop) {
    loopTravel[0] = loopTravel[0]! + (vx * clip.frames) / clip.rate;
    loopTravel[2] = loopTravel[2]! + (vz * clip.frames) / clip.rate;
  }
  return { ...clip, poses, loopTravel };
}
