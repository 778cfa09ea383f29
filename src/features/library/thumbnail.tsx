import { useCallback } from 'react';
import type { Body } from '@/core/body/body';
import { createWorldPose, forwardKinematics, poseSize } from '@/core/body/skeleton';
import type { GaitSpec } from '@/core/gait/spec';
import { cycle } from '@/core/motion/solved';
import { silhouette } from '@/core/sheet/silhouette';
import { FilmCanvas, filmOf, type Film } from './film';

const FRAMES = 20;

function film(body: Body, gait: GaitSpec): Film {
  const motion = cycle(gait, body);
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  const frames = Array.from({ length: FRAMES }, (_, f) => {
    motion.pose((f / FRAMES) * motion.duration, pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
    return silhouette(body, world, 'side', pose[0]!, pose[2]!);
  });
  return filmOf(frames, body.spec.stature, motion.strideTime);
}

/** A gait in miniature that walks while it is in sight. */
export function GaitThumbnail({ body, gait, width }: { body: Body; gait: GaitSpec; width?: number }) {
  const make = useCallback(() => film(body, gait), [body, gait]);
  return <FilmCanvas make={make} {...(width === undefined ? {} : { width })} />;
}
