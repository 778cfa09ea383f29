import { describe, expect, it } from 'vitest';
import { seeded } from '../math/random';
import { presetFor, shippedBody } from '../tests/cast';
import type { Channel } from './parameters';
import { PRESETS } from './presets';
import { sidedGait } from './sides';
import type { GaitSpec } from './spec';
import { ARM_ROWS, gaitStyle, mixStyles, ROW, ROW_COUNT, standingStyle, type Style } from './style';
import { structuredCloneGait } from './timing';
import { compileWave, waveAt, type Follower } from './wave';

const body = shippedBody('marlo');
const rows = (styles: Style[], weights: number[], strides: number) => {
  const out = new Float64Array(ROW_COUNT);
  mixStyles(styles, Float64Array.of(strides), 0, Float64Array.from(weights), out);
  return out;
};

/** What some rows are by the meaning of the channels, without any bank: `w` is how far the figure is in full swing. */
function plain(gait: GaitSpec, strides: number, w: number): Partial<Record<keyof typeof ROW, number>> {
  const { hips, trunk, direction, follow, head, arms, timing } = gait;
  const T = timing.strideTime;
  const wave = (c: Channel, n: 1 | 2, phase = strides, by?: Follower) => waveAt(compileWave(c, n, T, by), phase);
  const along = Math.cos(direction.travel - direction.hips);
  const keep = 1 - trunk.shoulderLevel;
  const spine = { frequency: follow.spineFrequency, damping: follow.spineDamping };
  const hand = { frequency: follow.handsFrequency, damping: follow.handsDamping };
  const late = (c: Channel, n: 1 | 2) => (1 - follow.spine) * wave(c, n) + follow.spine * wave(c, n, strides, spine);
  const arm = strides - timing.leftArm;
  const leanShare = 0.35 + 0.65 * Math.cos(direction.travel);
  const look = head.lookAround * Math.sin((2 * Math.PI * strides) / Math.max(1, head.lookCycles));
  return {
    // A standing figure keeps some of its posture: 0.3 of the crouch, half of the lean, a quarter of the elbows' bend.
    height: w * (hips.rise.offset - hips.crouch + wave(hips.rise, 2)) - (1 - w) * 0.3 * hips.crouch,
    aside: w * (hips.shift.offset + wave(hips.shift, 1)),
    turn: direction.hips + hips.turn.offset - w * along * wave(hips.turn, 1),
    tilt: hips.tilt.offset + w * wave(hips.tilt, 2),
    chestTurn: direction.chest + trunk.counterTurn.offset + w * along * late(trunk.counterTurn, 1),
    chestLean: w * (leanShare * (trunk.lean.offset + late(trunk.lean, 2)) + keep * (hips.tilt.offset + wave(hips.tilt, 2))) + (1 - w) * 0.5 * trunk.lean.offset,
    chestList: keep * (hips.list.offset + w * wave(hips.list, 1)) - trunk.sideLean.offset - w * late(trunk.sideLean, 1),
    headTurn: look + head.turn.offset + (follow.head > 0 ? NaN : w * wave(head.turn, 1)),
    armSwing: w * (arms.swing.offset + along * wave(arms.swing, 1, arm)) + (1 - w) * 0.5 * arms.swing.offset,
    elbow:
      (1 - w) * (0.22 + 0.25 * Math.max(0, arms.elbow.offset - 0.22)) + w * (arms.elbow.offset + (follow.arms > 0 ? NaN : along * wave(arms.elbow, 1, arm))),
    hand:
      arms.hand.offset +
      w *
        (wave(arms.hand, 1, arm) +
          follow.hands * along * (wave(arms.swing, 1, arm, hand) - wave(arms.swing, 1, arm) + wave(arms.elbow, 1, arm, hand) - wave(arms.elbow, 1, arm))),
  };
}

describe('a style’s row bank', () => {
  it.each(PRESETS.map((p) => p.key))('%s: is what its channels say, in full swing, standing and between; seeded', (key) => {
    const rand = seeded(key.length * 31 + 7);
    const gait = structuredCloneGait(presetFor(key, body));
    gait.head.lookAround = 0.3;
    gait.direction = { travel: 0.5, hips: 0.3, feet: 0, chest: 0.1 };
    const sided = sidedGait(gait);
    const styles = [gaitStyle(sided), standingStyle(sided)];
    for (let n = 0; n < 40; n++) {
      const strides = 6 * rand() - 2,
        w = n < 2 ? n : rand();
      const got = rows(styles, [w, 1 - w], strides);
      for (const [row, want] of Object.entries(plain(sided.gait, strides, w)))
        if (!Number.isNaN(want)) expect(got[ROW[row as keyof typeof ROW]], row).toBeCloseTo(want!, 12);
    }
  });

  it('mixes row by row: half of two gaits is the mean of their rows', () => {
    const [a, b] = ['walk', 'plod'].map((k) => gaitStyle(sidedGait(presetFor(k, body)))) as [Style, Style];
    const [ra, rb, half] = [rows([a], [1], 0.3), rows([b], [1], 0.3), rows([a, b], [0.5, 0.5], 0.3)];
    for (let r = 0; r < ROW_COUNT; r++) expect(half[r]).toBeCloseTo((ra[r]! + rb[r]!) / 2, 14);
  });

  it('has the other side half a stride later, unless a side is split', () => {
    const style = gaitStyle(sidedGait(presetFor('walk', body)));
    const [now, later] = [rows([style], [1], 0.2), rows([style], [1], 0.7)];
    expect(now[ROW.armSwing]).toBeCloseTo(later[ROW.armSwing + ARM_ROWS]!, 12);
    expect(now[ROW.kneesOut]).toBeCloseTo(-now[ROW.kneesOut + 1]!, 12);
  });
});
