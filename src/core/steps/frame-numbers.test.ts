import { describe, expect, it } from 'vitest';
import { frameAt, frameShown, FROM_ONE, FROM_ZERO, timeOfFrame } from './frame-numbers';

describe('frame numbers', () => {
  it('count from 1 as animators count, from 0 in files, and from a shot’s first where its part begins', () => {
    expect([0, 1 / 24, 1.51].map((t) => frameShown(FROM_ONE, 24, t))).toEqual([1, 2, 37]);
    expect(frameShown(FROM_ZERO, 24, 1.51)).toBe(36);
    const shot = { firstFrame: 1001, from: 2 };
    expect(frameShown(shot, 24, 2)).toBe(1001);
    expect(frameShown(shot, 24, 0)).toBe(953);
    // A picture's own time is that picture, whatever rounding makes of it.
    for (let f = 0; f < 500; f++) expect(frameShown(FROM_ZERO, 30, f / 30)).toBe(f);
  });

  it('and times come back from each other; before the walk there is none', () => {
    const shot = { firstFrame: 101, from: 0.5 };
    for (const frame of [101, 150, 89]) expect(frameAt(shot, 24, timeOfFrame(shot, 24, frame))).toBeCloseTo(frame, 9);
    expect(timeOfFrame(shot, 24, -500)).toBe(0);
  });
});
