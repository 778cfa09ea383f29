import { describe, expect, it } from 'vitest';
import { PHASE_PATTERNS } from '@/core/gait/patterns';
import { presetFor, shippedBody } from '@/core/tests/cast';
import { changePattern, type Remembered } from './pattern-memory';

const walk = presetFor('walk', shippedBody('marlo'));
const pattern = (key: string) => PHASE_PATTERNS.find((p) => p.key === key)!;

describe('patterns of the limbs', () => {
  it('come back to the walk one had, whichever way round', () => {
    let gait = { ...walk, right: { ...walk.right, 'timing.dutyFactor': 0.58 } };
    const start = gait;
    let remembered: Remembered | undefined;
    for (const key of ['hop', 'gallop', 'skip', 'gallop', 'alternate'])
      ({ gait, remembered } = changePattern(gait, pattern(key), remembered) as { gait: typeof gait; remembered: Remembered });
    expect(gait).toEqual(start);
  });

  it('keep what else was changed meanwhile, and start anew from a timing that was', () => {
    const hop = changePattern(walk, pattern('hop'), undefined);
    const crouched = { ...hop.gait, hips: { ...hop.gait.hips, crouch: 0.06 } };
    const back = changePattern(crouched, pattern('alternate'), hop.remembered);
    expect([back.gait.hips.crouch, back.gait.timing]).toEqual([0.06, walk.timing]);
    const slower = { ...hop.gait, timing: { ...hop.gait.timing, strideTime: hop.gait.timing.strideTime * 0.9 } };
    expect(changePattern(slower, pattern('alternate'), hop.remembered).gait.timing.strideTime).toBe(slower.timing.strideTime);
  });
});
