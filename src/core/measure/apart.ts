import type { Body } from '../body/body';
import { legThickness } from '../body/limbs';
import { JOINT, type Role } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize, type WorldPose } from '../body/skeleton';
import { clamp } from '../math/scalar';
import type { Shown } from '../motion/laid';

/** Limbs as capsules: two joints each, and their thickness in parts of stature where the legs' is not known better. */
const LIMBS: readonly (readonly [from: Role, to: Role, radius: number | 'hip' | 'knee' | 'ankle'])[] = [
  ['hips', 'upperChest', 0.075],
  ['upperChest', 'head', 0.06],
  ['leftUpperArm', 'leftLowerArm', 0.026],
  ['leftLowerArm', 'leftHand', 0.022],
  ['rightUpperArm', 'rightLowerArm', 0.026],
  ['rightLowerArm', 'rightHand', 0.022],
  ['leftUpperLeg', 'leftLowerLeg', 'hip'],
  ['leftLowerLeg', 'leftFoot', 'knee'],
  ['leftFoot', 'leftToes', 'ankle'],
  ['rightUpperLeg', 'rightLowerLeg', 'hip'],
  ['rightLowerLeg', 'rightFoot', 'knee'],
  ['rightFoot', 'rightToes', 'ankle'],
];

/** Radius (m) of each limb of a body. */
function radii(body: Body): Float64Array {
  const legs = legThickness(body);
  return Float64Array.from(LIMBS, ([, , r]) => (typeof r === 'number' ? r * body.spec.stature * body.spec.build.limbGirth : legs[r]));
}

/** Least distance (m) between the skins of two figures at a time, their limbs as capsules; below 0 where they stand in each other. */
export function createApart(a: Shown, b: Shown): (t: number) => number {
  const figures = [a, b].map((motion) => ({
    motion,
    radius: radii(motion.body),
    pose: new Float64Array(poseSize(motion.body.skeleton)),
    world: createWorldPose(motion.body.skeleton),
  }));
  return (t) => {
    for (const { motion, pose, world } of figures) {
      motion.pose(motion.repeat ? t : Math.min(t, motion.duration), pose, 0);
      forwardKinematics(motion.body.skeleton, pose, 0, world);
    }
    const [one, other] = figures as [(typeof figures)[0], (typeof figures)[0]];
    let least = Infinity;
    LIMBS.forEach(([p, q], i) =>
      LIMBS.forEach(([r, s], j) => {
        least = Math.min(least, limbsApart(one.world, JOINT[p], JOINT[q], other.world, JOINT[r], JOINT[s]) - one.radius[i]! - other.radius[j]!);
      }),
    );
    return least;
  };
}

/** Distance (m) of two straight limbs. Source: the closest points of two segments (Ericson 2005, section 5.1.9; from memory). */
function limbsApart(a: WorldPose, p: number, q: number, b: WorldPose, r: number, s: number): number {
  const at = (w: WorldPose, j: number, k: number) => w.positions[j * 3 + k]!;
  let [dd, ee, f, c, bb] = [0, 0, 0, 0, 0];
  for (let k = 0; k < 3; k++) {
    const u = at(a, q, k) - at(a, p, k),
      v = at(b, s, k) - at(b, r, k),
      w = at(a, p, k) - at(b, r, k);
    dd += u * u;
    ee += v * v;
    f += v * w;
    c += u * w;
    bb += u * v;
  }
  const denominator = dd * ee - bb * bb;
  let x = denominator > 1e-12 ? clamp((bb * f - c * ee) / denominator, 0, 1) : 0;
  let y = ee > 1e-12 ? (bb * x + f) / ee : 0;
  if (y < 0 || y > 1) {
    y = clamp(y, 0, 1);
    x = dd > 1e-12 ? clamp((bb * y - c) / dd, 0, 1) : 0;
  }
  let square = 0;
  for (let k = 0; k < 3; k++) {
    const u = at(a, p, k) + (at(a, q, k) - at(a, p, k)) * x - at(b, r, k) - (at(b, s, k) - at(b, r, k)) * y;
    square += u * u;
  }
  return Math.sqrt(square);
}
