import { describe, expect, it } from 'vitest';
import { cycleClip, presetFor, shippedBody } from '@/core/tests/cast';
import { ownFigure } from '@/core/tests/clips';
import { analyseClip } from '@/core/travel/analysis';
import { prepareClip } from '@/core/travel/prepare';
import { defaultTravel } from '@/core/travel/spec';
import type { ClipAnswer } from '@/workers/protocol';
import { linesOf } from './clip-lines';

const body = shippedBody('marlo');
const analysis = analyseClip(ownFigure(cycleClip(presetFor('walk', body), body, 60).clip));
const { clip, put } = prepareClip(analysis.figure, defaultTravel(), analysis);
const answer = { clip, places: put.places, figure: analysis.figure, floor: analysis.floor } as unknown as ClipAnswer;

describe('lines of a clip', () => {
  it('are its speed, its way and how high it is, in the units they say', () => {
    const speed = linesOf('speed', answer).lines[0]!.values;
    expect(Math.abs(speed[Math.floor(speed.length / 2)]! - 1.352)).toBeLessThan(0.02);
    expect(linesOf('way', answer).lines[0]!.values.at(-1)).toBeCloseTo((1.42 * (clip.frames - 1)) / clip.frames, 2);
    expect(linesOf('turn', answer).lines[0]!.values.every((v) => Math.abs(v) < 0.1)).toBe(true);
    const [hips, left, right] = linesOf('heights', answer).lines.map((l) => [Math.min(...l.values), Math.max(...l.values)]) as [number[], number[], number[]];
    expect(hips[1]! - hips[0]!).toBeGreaterThan(0.03);
    for (const foot of [left, right]) {
      expect(foot[0]).toBeCloseTo(body.sole.ankleHeight, 1);
      expect(foot[1]).toBeLessThan(hips[0]!);
    }
  });
});
