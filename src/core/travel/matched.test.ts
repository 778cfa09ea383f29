import { describe, expect, it } from 'vitest';
import { cycleInPlace } from '../tests/clips';
import { analyseClip } from './analysis';
import { travelFacts } from './kinds';
import { matchedDistance } from './matched';
import { prepareClip } from './prepare';
import { defaultTravel } from './spec';

describe('the way that belongs to a number of cycles', () => {
  it.each([
    ['walk', 3],
    ['run', 2],
  ])('%s in place, %d rounds: its stride again, within a hundredth', (gait, rounds) => {
    const { made, figure } = cycleInPlace(gait, 60, rounds);
    const analysis = analyseClip(figure);
    const { clip, travel, held } = prepareClip(analysis.figure, { ...defaultTravel(), kind: 'contacts' }, analysis);
    const facts = travelFacts(travel, clip, analysis.first);
    for (const cycles of [1, 4]) {
      const matched = matchedDistance(clip, held, facts, cycles)!;
      expect(matched.way / (cycles * made.loopTravel[2]!)).toBeCloseTo(1, 2);
      expect(matched.seconds).toBeCloseTo((cycles * made.frames) / made.rate, 2);
    }
    expect(matchedDistance(clip, [], facts, 1)).toBeNull();
  });
});
