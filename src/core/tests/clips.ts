import { ownFeet } from '../body/foot-model';
import { JOINT_COUNT } from '../body/roles';
import { poseSize } from '../body/skeleton';
import type { Clip } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { multiply } from '../math/quaternion';
import { seeded } from '../math/random';
import { fromRotationVector } from '../math/rotation-vector';
import { splitTravel } from '../travel/split';
import { cycleClip, presetFor, shippedBody } from './cast';

const OWN_ROLES = Int32Array.from({ length: JOINT_COUNT }, (_, j) => j);

/** One of our clips as the figure of a file that tells nothing but its poses. */
export function ownFigure(clip: Clip, body = shippedBody('marlo')): ClipFigure {
  return { clip: { ...clip, contacts: null }, roles: OWN_ROLES, feet: ownFeet(body), legLength: body.legLength };
}

/** A cycle of ours, and the same with its travel thrown away, `rounds` times over as one loop. */
export function cycleInPlace(gait: string, rate: number, rounds = 1): { made: Clip; figure: ClipFigure } {
  const body = shippedBody('marlo');
  const { clip: made } = cycleClip(presetFor(gait, body), body, rate);
  const one = splitTravel(made).inPlace;
  const poses = new Float64Array(one.poses.length * rounds);
  for (let r = 0; r < rounds; r++) poses.set(one.poses, r * one.poses.length);
  return { made, figure: ownFigure({ ...one, poses, frames: one.frames * rounds }, body) };
}

/** The same with each joint's rotation shaken so that its next joint moves by `sigma` (m, standard deviation) in each axis. */
export function shaken(figure: ClipFigure, sigma: number, seed: number): ClipFigure {
  const { clip } = figure;
  const { skeleton } = clip;
  const rand = seeded(seed);
  const gauss = () => Math.sqrt(-2 * Math.log(1 - rand())) * Math.cos(2 * Math.PI * rand());
  const reach = skeleton.names.map((_, j) => {
    const next = [...skeleton.parents].indexOf(j);
    return next < 0 ? 0.1 : Math.max(0.03, Math.hypot(...[0, 1, 2].map((k) => skeleton.offsets[next * 3 + k]!)));
  });
  const size = poseSize(skeleton);
  const poses = clip.poses.slice();
  const [v, q] = [new Float64Array(3), new Float64Array(4)];
  for (let f = 0; f < clip.frames; f++)
    for (let j = 1; j < skeleton.names.length; j++) {
      for (let k = 0; k < 3; k++) v[k] = (sigma / reach[j]!) * gauss();
      fromRotationVector(q, 0, v, 0);
      const at = f * size + skeleton.moving.length * 3 + j * 4;
      multiply(poses, at, poses, at, q, 0);
    }
  return { ...figure, clip: { ...clip, poses } };
}
