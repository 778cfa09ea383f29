import { describe, expect, it } from 'vitest';
import type { Motion } from '../motion/motion';
import { cycle } from '../motion/solved';
import { legAngles } from '../measure/angles';
import { DELAY_RANGE, PARAMETER_LIST, type Range } from '../gait/parameters';
import { HELD, type GaitSpec } from '../gait/spec';
import { setTiming, structuredCloneGait } from '../gait/timing';
import { notesOf } from '../handover/notes';
import { seeded } from '../tests/random';
import { presetFor, shippedBody } from '../tests/cast';

const body = shippedBody('marlo');

/** Every single number of a gait with its range. */
const NUMBERS: readonly { readonly path: string; readonly range: Range; readonly set: (g: GaitSpec, v: number) => GaitSpec }[] = PARAMETER_LIST.flatMap(
  ({ group, key, path, parameter: p }) => {
    const put = (g: GaitSpec, v: number, part?: string) => {
      const next = structuredCloneGait(g);
      const values = next[group] as unknown as Record<string, unknown>;
      if (part) (values[key] as Record<string, number>)[part] = v;
      else values[key] = v;
      return next;
    };
    const held = HELD.find((h) => path === `timing.${h}`);
    if (held) return [{ path, range: p.kind === 'scalar' ? p.range : DELAY_RANGE, set: (g: GaitSpec, v: number) => setTiming(g, held, v) }];
    if (p.kind === 'scalar') return [{ path, range: p.range, set: (g: GaitSpec, v: number) => put(g, v) }];
    return (['offset', 'amount', 'delay'] as const).map((part) => ({
      path: `${path}.${part}`,
      range: part === 'delay' ? DELAY_RANGE : p[part],
      set: (g: GaitSpec, v: number) => put(g, v, part),
    }));
  },
);

/** Largest change (rad) of a knee between moments `dt` apart, and whether every number of every pose is finite. */
function kneeSteps(gait: GaitSpec, samples: number) {
  const motion = cycle(gait, body);
  const pose = new Float64Array(98);
  const knees: [number, number][] = [];
  let finite = true;
  for (let i = 0; i <= samples; i++) {
    motion.pose((i / samples) * gait.timing.strideTime, pose, 0);
    for (const v of pose) if (!Number.isFinite(v)) finite = false;
    knees.push([legAngles(pose, 6, 0).knee, legAngles(pose, 6, 1).knee]);
  }
  let largest = 0;
  for (let i = 1; i < knees.length; i++) largest = Math.max(largest, Math.abs(knees[i]![0] - knees[i - 1]![0]), Math.abs(knees[i]![1] - knees[i - 1]![1]));
  return { largest, finite, motion };
}

describe('knees stay continuous', () => {
  it.each(['walk', 'run', 'sneak'])('%s: finer sampling gives proportionally smaller steps', (name) => {
    const gait = presetFor(name, body);
    const coarse = kneeSteps(gait, 400).largest;
    const fine = kneeSteps(gait, 4000).largest;
    expect(fine).toBeLessThan(coarse / 5);
    // Under 20 rad/s: brisk, but no snap.
    expect((fine * 4000) / gait.timing.strideTime).toBeLessThan(20);
  });

  it.each(NUMBERS)('$path swept alone over its range: finite poses, no snap, and what cannot be solved says so', ({ range, set }) => {
    for (const name of ['walk', 'run', 'sneak'])
      for (let i = 0; i <= 4; i++) {
        const gait = set(presetFor(name, body), range[0] + ((range[1] - range[0]) * i) / 4);
        const { finite, motion } = kneeSteps(gait, 160);
        expect(finite).toBe(true);
        // A jump stays as large however finely it is looked at: find the largest step and look 64 times closer.
        const jump = largestJump(motion, gait.timing.strideTime);
        expect(jump).toBeLessThan(0.02);
        const missed = motion.survey().tooFar > 1e-6 || motion.survey().tooNear < -1e-6;
        const said = notesOf(gait, motion, 1000 / gait.timing.strideTime).some((n) => /reach|fold/.test(n.words));
        if (missed) expect(said).toBe(true);
      }
  });
});

/** Largest knee step (rad) left after zooming in three times by 16 on the largest step. */
function largestJump(motion: Motion, T: number): number {
  const pose = new Float64Array(98);
  const knee = (t: number, side: 0 | 1) => {
    motion.pose(t, pose, 0);
    return legAngles(pose, 6, side).knee;
  };
  let most = 0;
  for (const side of [0, 1] as const) {
    let from = 0;
    let span = T;
    let step = 0;
    for (const pieces of [240, 16, 16, 16]) {
      let at = from;
      step = 0;
      for (let i = 0; i < pieces; i++) {
        const t = from + (span * i) / pieces;
        const s = Math.abs(knee(t + span / pieces, side) - knee(t, side));
        if (s > step) {
          step = s;
          at = t;
        }
      }
      from = at;
      span /= pieces;
    }
    most = Math.max(most, step);
  }
  return most;
}

describe('random gaits', () => {
  it('300 seeded draws over the whole ranges stay finite, feet either hold or say so', () => {
    const rand = seeded(2024);
    for (let n = 0; n < 300; n++) {
      let gait = presetFor(['walk', 'run', 'sneak'][n % 3]!, body);
      for (const { path, range, set } of NUMBERS) if (!path.startsWith('timing.s') && rand() < 0.4) gait = set(gait, range[0] + (range[1] - range[0]) * rand());
      const { finite } = kneeSteps(gait, 60);
      expect(finite).toBe(true);
    }
  });
});
