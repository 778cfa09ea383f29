import { describe, expect, it } from 'vitest';
import { cycleClip, sampleClip } from '../clip/sample';
import { ownFeet } from '../measure/foot-model';
import { createSolver } from '../solve/solver';
import { straightSchedule } from '../steps/straight';
import { presetFor, shippedBody } from '../tests/cast';
import { splitTravel } from '../travel/split';
import { asLoop } from './loop';

const body = shippedBody('marlo');
const feet = ownFeet(body.sole);
const untold = <T extends object>(clip: T) => ({ ...clip, loop: false, contacts: null, loopTravel: [0, 0, 0] as const });

describe('recognising a loop', () => {
  it.each(['walk', 'run', 'sneak'])('%s: knows it and finds its travel, travelling or in place', (name) => {
    const { clip } = cycleClip(presetFor(name, body), body, 30);
    const found = asLoop(untold(clip), feet);
    expect(found.loop).toBe(true);
    // Exact where a foot stands across the seam, else as good as the neighbours' steps.
    expect(found.loopTravel[2]).toBeCloseTo(clip.loopTravel[2], name === 'run' ? 3 : 9);
    expect(asLoop(untold(splitTravel(clip).inPlace), feet).loopTravel).toEqual([0, 0, 0]);
  });

  it('takes neither a cut-off cycle nor a walk from standing to standing for one', () => {
    const { clip } = cycleClip(presetFor('walk', body), body, 30);
    expect(asLoop(untold({ ...clip, frames: 20, poses: clip.poses.slice(0, (clip.poses.length / clip.frames) * 20) }), feet).loop).toBe(false);
    const gait = presetFor('walk', body);
    const plan = sampleClip(createSolver(body, gait, straightSchedule(gait, body, 6, 0)), 30, 'plan');
    expect(asLoop(untold(plan), feet).loop).toBe(false);
  });
});
