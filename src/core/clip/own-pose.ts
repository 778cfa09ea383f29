import { createWorldPose, forwardKinematics, poseSize, type WorldPose } from '../body/skeleton';
import type { Clip } from './clip';
import { createInterpolator } from './interpolate';

/** Returns what tells where a clip's own joints are at a time (s), its floor (m) at height 0; the same object each time. */
export function ownPose(clip: Clip, floor: number): (t: number) => WorldPose {
  const pose = new Float64Array(poseSize(clip.skeleton));
  const world = createWorldPose(clip.skeleton);
  const read = createInterpolator(clip);
  return (t) => {
    const frame = t * clip.rate;
    const whole = Math.round(frame);
    read(Math.abs(frame - whole) < 1e-9 ? whole : frame, pose, 0);
    forwardKinematics(clip.skeleton, pose, 0, world);
    for (let j = 1; j < world.positions.length; j += 3) world.positions[j] = world.positions[j]! - floor;
    return world;
  };
}
