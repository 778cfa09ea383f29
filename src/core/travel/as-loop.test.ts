import { describe, expect, it } from 'vitest';
import { ownFeet } from '../body/foot-model';
import { createPlacement } from '../math/placement';
import { sampleClip } from '../motion/sample';
import { walk } from '../motion/solved';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { splitTravel } from './split';
import { asLoop } from './as-loop';

const body = shippedBody('marlo');
const feet = ownFeet(body);
const untold = <T extends object>(clip: T) => ({ ...clip, loop: false, contacts: null, loopTravel: createPlacement() });

describe('recognising a loop', () => {
  it.each(['walk', 'run', 'sneak'])('%s: knows it and finds its travel, travelling or in place', (name) => {
    const { clip } = cycleClip(presetFor(name, body), body, 30);
    const found = asLoop(untold(clip), feet);
    expect(found.loop).toBe(true);
    // Exact where a foot stands across the seam, else as good as the neighbours' steps.
    expect(found.loopTravel[2]).toBeCloseTo(clip.loopTravel[2]!, name === 'run' ? 3 : 9);
    expect(asLoop(untold(splitTravel(clip).inPlace), feet).loopTravel).toEqual(createPlacement());
  });

  it('takes neither a cut-off cycle nor a walk from standing to standing for one', () => {
    const { clip } = cycleClip(presetFor('walk', body), body, 30);
    expect(asLoop(untold({ ...clip, frames: 20, poses: clip.poses.slice(0, (clip.poses.length / clip.frames) * 20) }), feet).loop).toBe(false);
    const gait = presetFor('walk', body);
    const plan = sampleClip(walk('plan', gait, body, 6, 0), 30);
    expect(asLoop(untold(plan), feet).loop).toBe(false);
  });
});
