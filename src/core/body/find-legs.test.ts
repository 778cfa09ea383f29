import { describe, expect, it } from 'vitest';
import { identityRest, type Skeleton } from './skeleton';
import { findLegs } from './find-legs';

/** A skeleton of two legs with the given names: hips, then thigh, shin, ankle (and toes) for each side. Lengths in centimetres. */
function legs(names: { left: string[]; right: string[] }, scale = 1, toes = true): Skeleton {
  const chain = (side: string[], x: number) => [[side[0]!, x, -2, 0], [side[1]!, 0, -42, 0], [side[2]!, 0, -41, 0], ...(toes ? [[side[3]!, 0, -6, 13]] : [])];
  const rows = [['Hips', 0, 95, 0], ...chain(names.left, 9), ...chain(names.right, -9)] as [string, number, number, number][];
  const per = toes ? 4 : 3;
  return {
    names: rows.map((r) => r[0]),
    parents: Int32Array.from(rows, (_, i) => (i === 0 ? -1 : (i - 1) % per === 0 ? 0 : i - 1)),
    offsets: Float64Array.from(rows.flatMap((r) => r.slice(1) as number[]).map((v) => v * scale)),
    rest: identityRest(rows.length),
    moving: Int32Array.of(0),
  };
}

const find = (skeleton: Skeleton) => findLegs(skeleton, [], null);
const both = (make: (side: 'left' | 'right') => string[]) => ({ left: make('left'), right: make('right') });

describe('finding legs by name', () => {
  it.each([
    ['whole words', both((s) => [`${s}UpperLeg`, `${s}LowerLeg`, `${s}Foot`, `${s}Toes`])],
    ['capitals', both((s) => [`${s.toUpperCase()}Thigh`, `${s.toUpperCase()}Shin`, `${s.toUpperCase()}Foot`, `${s.toUpperCase()}Toe`])],
    ['one letter in front', both((s) => [`${s[0]}Thigh`, `${s[0]}Shin`, `${s[0]}Foot`, `${s[0]}Toe`])],
    [
      'letter and underscore',
      both((s) => [`${s[0]!.toUpperCase()}_thigh`, `${s[0]!.toUpperCase()}_shin`, `${s[0]!.toUpperCase()}_foot`, `${s[0]!.toUpperCase()}_toe`]),
    ],
    [
      'letter behind',
      both((s) => [`thigh.${s[0]!.toUpperCase()}`, `shin.${s[0]!.toUpperCase()}`, `foot.${s[0]!.toUpperCase()}`, `toe.${s[0]!.toUpperCase()}`]),
    ],
    ['ankles', both((s) => [`${s}hip`, `${s}knee`, `${s} ankle`, `${s} ball`])],
    ['all small', both((s) => [`${s[0]}thigh`, `${s[0]}shin`, `${s[0]}foot`, `${s[0]}toes`])],
  ])('%s', (_, names) => {
    const found = find(legs(names));
    expect(found?.feet.map((f) => [f.name, f.hip, f.knee, f.ankle, f.toes])).toEqual([
      ['left', 1, 2, 3, 4],
      ['right', 5, 6, 7, 8],
    ]);
    expect(found!.legLength).toBeCloseTo(83, 9);
  });

  it('takes the sole from the rest pose, and by proportion where there are no toes', () => {
    const names = both((s) => [`${s}UpperLeg`, `${s}LowerLeg`, `${s}Foot`, `${s}Toes`]);
    const [left] = find(legs(names))!.feet;
    // The toe hinge lies 6 cm under the ankle; the sole a little lower, the heel behind it at the same height.
    expect(left!.heel[1]).toBeLessThan(-6);
    expect(left!.heel[1]).toBeCloseTo(-6 + left!.ball[1], 9);
    expect(left!.heel[2]).toBeLessThan(0);
    expect(left!.tip[2]).toBeGreaterThan(0);
    const bare = find(legs(names, 1, false))!.feet[0]!;
    expect(bare.toes).toBe(bare.ankle);
    expect(bare.heel[1]).toBeCloseTo(-0.039 * (83 / 0.491), 6);
  });

  it('finds none where a side, a knee or a length is missing', () => {
    const names = both((s) => [`${s}UpperLeg`, `${s}LowerLeg`, `${s}Foot`, `${s}Toes`]);
    const lame = legs(names);
    lame.offsets.set([0, 0, 0, 0, 0, 0], 18);
    expect(find(lame)).toBeNull();
    expect(find(legs(names, 0))).toBeNull();
  });
});
