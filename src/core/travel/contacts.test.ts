import { describe, expect, it } from 'vitest';
import { JOINT } from '../body/roles';
import { poseSize } from '../body/skeleton';
import { multiply, setAxis } from '../math/quaternion';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { ownFigure } from '../tests/clips';
import { unrolled } from '../clip/unroll';
import { detectContacts } from './contacts';
import { traceSoles } from './trace';

const body = shippedBody('marlo');

describe('contacts of feet that stand exactly', () => {
  it('are found on the floor they stand on, though toes dip under it as they swing', () => {
    const { clip: cycle } = cycleClip(presetFor('walk', body), body, 60);
    const clip = unrolled(cycle, 4);
    const stands = cycle.contacts!.filter((c) => c.foot === 'left');
    const swings = (f: number) =>
      stands.every((c) => [-1, 0, 1].every((round) => f < c.from - 8 + round * cycle.frames || f > c.to + 8 + round * cycle.frames));
    const size = poseSize(clip.skeleton);
    const foot = clip.skeleton.moving.length * 3 + JOINT.leftFoot * 4;
    const poses = clip.poses.slice();
    const down = [0, 0, 0, 1];
    setAxis(down, 0, 0, 0.35);
    let dipped = 0;
    for (let f = 0; f < clip.frames; f++) {
      if (!swings(f % cycle.frames)) continue;
      multiply(poses, f * size + foot, poses, f * size + foot, down, 0);
      dipped++;
    }
    // More than the few pictures that are passed over.
    expect(dipped).toBeGreaterThan(0.1 * clip.frames);
    const found = (p: Float64Array) => {
      const { feet, legLength, clip: own } = ownFigure({ ...clip, contacts: null, poses: p }, body);
      return detectContacts(traceSoles(own, feet), legLength);
    };
    const [plain, dips] = [found(clip.poses), found(poses)];
    expect(dips.ground).toBeCloseTo(plain.ground, 4);
    expect([dips.missingX, dips.missingZ]).toEqual([0, 0]);
    // The foot that does not dip is seen as it was.
    const right = ({ contacts }: typeof plain) => contacts.filter((c) => c.foot === 'right').map((c) => [c.from, c.to]);
    expect(right(dips)).toEqual(right(plain));
  });
});
