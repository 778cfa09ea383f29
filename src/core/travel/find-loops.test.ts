import { describe, expect, it } from 'vitest';
import { createFrameReader } from '../clip/clip';
import { unrolled } from '../clip/unroll';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { ownFigure } from '../tests/clips';
import { recording, RECORDINGS } from '../tests/recordings';
import { analyseClip } from './analysis';
import { closedLoop } from './close-loop';
import { edited } from './edited';
import { findLoops } from './find-loops';
import { prepareClip } from './prepare';
import { defaultLock, defaultTravel, noEdits } from './spec';

const body = shippedBody('marlo');
const { clip: cycle } = cycleClip(presetFor('walk', body), body, 60);

describe('loops in a long clip', () => {
  it('of a walk of ours are its strides, and closing one changes nothing', () => {
    const figure = ownFigure(unrolled(cycle, 5));
    const { contacts } = analyseClip(figure);
    const [best] = findLoops(figure, contacts);
    expect((best!.to - best!.from) % cycle.frames).toBe(0);
    expect(best!.seam).toBeLessThan(1e-6);
    expect(best!.landings[0]).toBe(best!.landings[1]);
    const closed = closedLoop(figure, best!.from, best!.to, 10);
    expect(closed.frames).toBe(best!.to - best!.from);
    expect(closed.loopTravel[2]).toBeCloseTo((cycle.loopTravel[2]! * closed.frames) / cycle.frames, 6);
    const size = closed.poses.length / closed.frames;
    for (let i = 0; i < closed.poses.length; i++) expect(closed.poses[i]).toBeCloseTo(figure.clip.poses[best!.from * size + i]!, 6);
  });

  it('of a recording: the best is within 15 mm before closing; closed and locked it leads on into itself, its feet hold', async () => {
    const { figure } = (await recording(RECORDINGS.jumps)).brought;
    const whole = analyseClip(figure);
    const [best] = findLoops(whole.figure, whole.contacts, whole.first);
    expect(best!.seam).toBeLessThan(0.015);
    const loop = edited(whole.figure, { ...noEdits(), loop: { from: best!.from, to: best!.to, span: 0.3 } });
    const found = analyseClip(loop);
    const { clip, after } = prepareClip(found.figure, { ...defaultTravel(), lock: defaultLock() }, found);
    expect(after.length).toBeGreaterThan(1);
    for (const s of after) expect(s.atFramesMm / 1000).toBeLessThan(5e-4);
    // No picture doubled, none missing: over the seam every number goes as it does beside it.
    const size = clip.poses.length / clip.frames;
    const read = createFrameReader(clip);
    const out = new Float64Array(6 * size);
    for (let i = 0; i < 6; i++) read(clip.frames - 3 + i, out, i * size);
    const jolt = (i: number) => {
      let most = 0;
      for (let k = 0; k < size; k++) most = Math.max(most, Math.abs(out[(i + 1) * size + k]! - 2 * out[i * size + k]! + out[(i - 1) * size + k]!));
      return most;
    };
    expect(Math.max(jolt(2), jolt(3))).toBeLessThan(4 * Math.max(jolt(1), jolt(4)) + 0.01);
  });

  it('refuses stretches that are none', () => {
    const figure = ownFigure(unrolled(cycle, 2));
    for (const [from, to] of [
      [-1, 20],
      [10, 12],
      [0, 100_000],
      [NaN, 20],
    ] as const)
      expect(() => closedLoop(figure, from, to, 5)).toThrow(RangeError);
  });
});
