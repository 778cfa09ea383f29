import { expect, it } from 'vitest';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import type { GaitSpec } from '../gait/spec';
import { PRESETS } from '../gait/presets';
import { cycle } from '../motion/solved';
import { presetFor, shippedBody } from '../tests/cast';

/** Styles that last as long differ by so much (m) in the mean of their joints against the hips; ours, by what is seen as another walk. */
const APART_M = 0.06;
const APART_IN_TIME = 0.1;
const PICTURES = 24;
const body = shippedBody('marlo');

/** Places of all joints, the hips' horizontal one taken away, picture by picture. */
function figure(gait: GaitSpec): Float64Array {
  const motion = cycle(gait, body);
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  // Without the root, which has no place in the figure.
  const size = world.positions.length - 3;
  const out = new Float64Array(PICTURES * size);
  for (let i = 0; i < PICTURES; i++) {
    motion.pose((i / PICTURES) * motion.duration, pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
    for (let k = 0; k < size; k++) out[i * size + k] = world.positions[3 + k]! - (k % 3 === 1 ? 0 : world.positions[3 + (k % 3)]!);
  }
  return out;
}

const distance = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let k = 0; k < a.length; k += 3) sum += Math.hypot(a[k]! - b[k]!, a[k + 1]! - b[k + 1]!, a[k + 2]! - b[k + 2]!);
  return (3 * sum) / a.length;
};
const inTime = (a: GaitSpec, b: GaitSpec): number =>
  Math.max(...(['strideTime', 'dutyFactor'] as const).map((k) => Math.abs(a.timing[k] - b.timing[k]) / Math.max(a.timing[k], b.timing[k])));

it('styles are told apart: 60 mm in the mean of their joints, or a tenth in timing', () => {
  const styles = PRESETS.map(({ key }) => ({ key, gait: presetFor(key, body) })).map((s) => ({ ...s, places: figure(s.gait) }));
  const alike = styles.flatMap((a, i) =>
    styles
      .slice(i + 1)
      .filter((b) => distance(a.places, b.places) < APART_M && inTime(a.gait, b.gait) < APART_IN_TIME)
      .map((b) => `${a.key} and ${b.key}: ${(1000 * distance(a.places, b.places)).toFixed(0)} mm`),
  );
  expect(alike).toEqual([]);
});
