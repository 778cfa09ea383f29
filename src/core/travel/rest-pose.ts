import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import type { Clip } from '../clip/clip';

/** A first picture is none of the motion where all joints jump from it by this many times the largest step after it, and this far (m). */
const TIMES = 4;
const LEAST_M = 0.02;
/** Pictures after the first that are compared. */
const LOOKS = 200;

/** The first frame that belongs to the motion: 1 where the first frame is a rest pose set before it, else 0. */
export function firstFrame(clip: Clip): 0 | 1 {
  const { frames, poses, skeleton } = clip;
  if (frames < 4) return 0;
  const size = poseSize(skeleton);
  const [a, b] = [createWorldPose(skeleton), createWorldPose(skeleton)];
  const count = skeleton.names.length;
  const step = (f: number): number => {
    forwardKinematics(skeleton, poses, f * size, a);
    forwardKinematics(skeleton, poses, (f + 1) * size, b);
    let sum = 0;
    for (let i = 0; i < count * 3; i++) sum += (a.positions[i]! - b.positions[i]!) ** 2;
    return Math.sqrt(sum / count);
  };
  const jump = step(0);
  if (jump < LEAST_M) return 0;
  let most = 0;
  const stride = Math.max(1, Math.floor((frames - 2) / LOOKS));
  for (let f = 1; f < frames - 1; f += stride) most = Math.max(most, step(f));
  return jump > TIMES * most ? 1 : 0;
}
