import { describe, expect, it } from 'vitest';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { JOINT } from '../body/roles';
import { createPlacement } from '../math/placement';
import { presetFor, shippedBody } from '../tests/cast';
import { laidMotion, type Shown } from './laid';
import { placed } from './placed';
import { cycle, walk } from './solved';

const body = shippedBody('marlo');
const foot = (shown: Shown, t: number, side: 'left' | 'right') => {
  const { skeleton } = shown.body;
  const pose = new Float64Array(poseSize(skeleton));
  const world = createWorldPose(skeleton);
  shown.pose(t, pose, 0);
  forwardKinematics(skeleton, pose, 0, world);
  const j = JOINT[`${side}Foot`] * 3;
  return world.positions.slice(j, j + 3);
};
const apart = (a: Float64Array, b: Float64Array) => Math.hypot(a[0]! - b[0]!, a[2]! - b[2]!);

describe('two motions shown together', () => {
  const shown = walk('walk', presetFor('walk', body), body, 8, 0);
  const other = placed(walk('run', presetFor('run', body), body, 6, 1), createPlacement(3, 0, -7, 2.1));

  it.each(['left', 'right'] as const)('are laid over each other at a landing of the %s foot, in time, place and heading', (side) => {
    const from = 1.5;
    const laid = laidMotion(shown, other, side, from)!;
    const hold = shown.footholds(0, shown.duration).find((h) => h.side === (side === 'left' ? 0 : 1) && h.landing >= from)!;
    expect(apart(foot(laid, hold.landing + 0.05, side), foot(shown, hold.landing + 0.05, side))).toBeLessThan(0.03);
    const root = createPlacement();
    laid.place(hold.landing, root);
    // Both face the same way there, but for how far either turns its toes out.
    expect(Math.abs(root[3]!)).toBeLessThan(0.1);
    // Somewhere else they are not.
    const later = [-0.5, -0.3, 0.6].map((dt) => apart(foot(laid, hold.landing + dt, side), foot(shown, hold.landing + dt, side)));
    expect(Math.max(...later)).toBeGreaterThan(0.2);
  });

  it('go side by side in step: each landing of one at a landing of the other, however quick either is', () => {
    const slow = cycle(presetFor('sneak', body), body);
    const quick = cycle(presetFor('walk', body), body);
    const laid = laidMotion(quick, slow, 'inStep')!;
    const height = (m: Shown, t: number) => foot(m, t, 'left')[1]!;
    const lands = quick.footholds(0, 3).filter((h) => h.side === 0 && h.landing >= 0);
    for (const { landing } of lands) {
      expect(height(laid, landing + 0.1)).toBeLessThan(height(laid, landing - 0.2));
      expect(height(quick, landing + 0.1)).toBeLessThan(height(quick, landing - 0.2));
    }
    const [a, b] = [createPlacement(), createPlacement()];
    quick.place(lands[0]!.landing, a);
    laid.place(lands[0]!.landing, b);
    expect(Math.hypot(a[0]! - b[0]!, a[2]! - b[2]!)).toBeCloseTo(0.9, 6);
  });
});
