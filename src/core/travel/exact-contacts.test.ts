import { describe, expect, it } from 'vitest';
import type { ClipContact } from '../clip/clip';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { ownFigure } from '../tests/clips';
import { exactContacts, exactWhere } from './exact-contacts';
import { traceSoles } from './trace';

const body = shippedBody('marlo');
const { clip } = cycleClip(presetFor('walk', body), body, 60);
const n = clip.frames;
const trace = traceSoles(clip, ownFigure(clip, body).feet);
const still = (from: number, to: number): ClipContact => ({ foot: 'left', from, to, parts: [{ part: 'ball', from, to }], manner: 'stands', sure: 1 });

describe('where feet stand exactly', () => {
  it('is what a made cycle’s contacts are, with what the foot turns about one part after the other', () => {
    const exact = exactContacts(trace).filter((c) => c.foot === 'left');
    expect(exact).toHaveLength(1);
    expect(exact[0]!.parts!.map((p) => p.part)).toEqual(['heel', 'flat', 'ball', 'tip']);
    const own = clip.contacts!.find((c) => c.foot === 'left')!;
    expect(Math.abs(exact[0]!.from - own.from)).toBeLessThan(1.01);
    expect(Math.abs(exact[0]!.to - own.to)).toBeLessThan(1.01);
  });

  it('within a contact that is dragged through a loop’s seam lies in that contact’s own round', () => {
    // From the last pictures of a round into the next, still for ten of them just behind the seam.
    const through = { foot: 'left', from: n - 12, to: n + 20 } as const;
    const [dragged, ...more] = exactWhere(trace, [through], [still(3, 13)]);
    expect(more).toEqual([]);
    expect(dragged).toMatchObject({ ...through, manner: 'dragged', parts: [{ part: 'ball', from: n + 3, to: n + 13 }] });
    expect(dragged!.sure).toBeCloseTo(10 / 32, 9);
    // The same stretch counted from before the seam.
    const before = exactWhere(trace, [{ ...through, from: -12, to: 20 }], [still(n + 3, n + 13)]);
    expect(before[0]).toMatchObject({ manner: 'dragged', parts: [{ part: 'ball', from: 3, to: 13 }] });
  });

  it('for most of a contact takes its place: it was locked; a foot that never is still is only dragged', () => {
    const [locked] = exactWhere(trace, [{ foot: 'left', from: 4, to: 34 }], [still(8, 30)]);
    expect(locked).toMatchObject({ manner: 'stands', sure: 1 });
    expect(exactWhere(trace, [{ foot: 'left', from: 4, to: 34 }], [])).toEqual([{ foot: 'left', from: 4, to: 34 }]);
  });
});
