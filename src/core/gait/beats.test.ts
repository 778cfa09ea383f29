import { describe, expect, it } from 'vitest';
import { presetFor, shippedBody } from '../tests/cast';
import { beatsOf, stepsOf } from './beats';
import { sidedGait } from './sides';
import { structuredCloneGait } from './timing';

const body = shippedBody('marlo');
const beats = (key: string) => beatsOf(sidedGait(presetFor(key, body)));

describe('the beats of a pattern', () => {
  it('are two landings in a walk, four in a skip of which two hop, two at once in a hop', () => {
    expect(beats('walk').map((b) => [b.side, b.start])).toEqual([
      [0, 0],
      [1, 0.5],
    ]);
    expect(beats('skip').map((b) => b.hopped)).toEqual([false, true, false, true]);
    expect(beats('hop').map((b) => b.start)).toEqual([0, 0]);
    // The hop comes down on the ball.
    expect(beats('skip')[1]!.roll.landingPitch).toBeLessThan(0);
  });

  it('stand as long as their own side does', () => {
    const [left, right] = beats('limp');
    expect(left!.duration).toBe(0.7);
    expect(right!.duration).toBe(0.5);
  });

  it('make one step of what lands together, also over the seam, and keep a hop with its step', () => {
    expect(stepsOf(beats('walk')).map((s) => s.length)).toEqual([1, 1]);
    expect(stepsOf(beats('hop')).map((s) => s.length)).toEqual([2]);
    expect(stepsOf(beats('skip')).map((s) => s.map((b) => b.side))).toEqual([
      [0, 0],
      [1, 1],
    ]);
    const gait = structuredCloneGait(presetFor('hop', body));
    gait.timing.rightLeg = 1 - 1e-9;
    expect(stepsOf(beatsOf(sidedGait(gait)))).toHaveLength(1);
    gait.timing.leftLeg = 1;
    expect(beatsOf(sidedGait(gait))[0]!.start).toBe(0);
  });
});
