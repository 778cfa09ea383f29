import { describe, expect, it } from 'vitest';
import type { Motion } from '../motion/motion';
import { cycle } from '../motion/solved';
import { legAngles } from '../measure/angles';
import { DELAY_RANGE, PARAMETER_LIST, type Range } from '../gait/parameters';
import { HELD, type GaitSpec } from '../gait/spec';
import { setTiming, structuredCloneGait } from '../gait/timing';
import { notesOf } from '../handover/notes';
import { seeded } from '../math/random';
import { presetFor, shippedBody } from '../tests/cast';

const body = shippedBody('marlo');
/** Looks at a stride. */
const SAMPLES = 240;

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

/** Largest change (rad) of a knee between moments a part of the stride apart, where each leg has it, and whether every number is finite. */
function kneeSteps(gait: GaitSpec, samples: number) {
  const motion = cycle(gait, body);
  const pose = new Float64Array(98);
  let finite = true;
  const steps = kneeChanges(motion, 0, gait.timing.strideTime, samples, pose, () => {
    for (const v of pose) if (!Number.isFinite(v)) finite = false;
  });
  return { largest: Math.max(steps[0].step, steps[1].step), finite, motion, steps };
}

/** For each leg the largest change (rad) of the knee from one of `pieces` of a span (s) to the next, and where that piece begins, s. */
function kneeChanges(motion: Motion, from: number, span: number, pieces: number, pose: Float64Array, look: () => void = () => {}) {
  const largest = [
    { step: 0, at: from },
    { step: 0, at: from },
  ] as const;
  let before: readonly number[] = [];
  for (let i = 0; i <= pieces; i++) {
    motion.pose(from + (span * i) / pieces, pose, 0);
    look();
    const now = [legAngles(pose, 6, 0).knee, legAngles(pose, 6, 1).knee];
    for (const side of [0, 1] as const) {
      const step = Math.abs(now[side]! - before[side]!);
      if (step > largest[side].step) Object.assign(largest[side], { step, at: from + (span * (i - 1)) / pieces });
    }
    before = now;
  }
  return largest;
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
        const { finite, motion, steps } = kneeSteps(gait, SAMPLES);
        expect(finite).toBe(true);
        // A jump stays as large however finely it is looked at.
        for (const side of [0, 1] as const) expect(leftAfterZooming(motion, side, steps[side], gait.timing.strideTime / SAMPLES)).toBeLessThan(0.02);
        const missed = motion.survey().tooFar > 1e-6 || motion.survey().tooNear < -1e-6;
        const said = notesOf(gait, motion, 1000 / gait.timing.strideTime).some((n) => /reach|fold/.test(n.words));
        if (missed) expect(said).toBe(true);
      }
  });
});

/** What is left (rad) of a knee's largest step when it is looked at 16, 256 and 4,096 times closer. */
function leftAfterZooming(motion: Motion, side: 0 | 1, { at, step }: { step: number; at: number }, span: number): number {
  const pose = new Float64Array(98);
  let found = { at, step };
  for (let width = span; width > span / 1000; width /= 16) found = kneeChanges(motion, found.at, width, 16, pose)[side];
  return found.step;
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
