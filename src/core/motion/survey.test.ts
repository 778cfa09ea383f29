import { describe, expect, it } from 'vitest';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { notesOf } from '../handover/notes';
import { finish } from '../math/finish';
import { presetFor, shippedBody } from '../tests/cast';
import type { Motion } from './motion';
import { cycle, walk } from './solved';
import { missing } from './survey';

const body = shippedBody('marlo');
const foot = body.skeleton.names.indexOf('leftFoot');

/** Largest acceleration (m/s²) of a joint at 240 looks a second, by places alone. */
function most(motion: Motion, joint: number): number {
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  const at = (i: number) => {
    motion.pose(i / 240, pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
    return [...world.positions.slice(joint * 3, joint * 3 + 3)];
  };
  let found = 0;
  for (let i = 1; i < motion.duration * 240; i++) {
    const [a, b, c] = [at(i - 1), at(i), at(i + 1)];
    found = Math.max(found, Math.hypot(...[0, 1, 2].map((k) => a[k]! - 2 * b[k]! + c[k]!)) * 240 * 240);
  }
  return found;
}

describe('a survey', () => {
  it('tells the largest acceleration of each joint and when, of a cycle and of a walk', () => {
    for (const motion of [cycle(presetFor('walk', body), body), walk('w', presetFor('walk', body), body, 6, 0)]) {
      const { jolts } = motion.survey();
      expect(jolts).toHaveLength(body.skeleton.names.length);
      expect(jolts[foot]!.most).toBeCloseTo(most(motion, foot), 3);
      expect(jolts[foot]!.at).toBeGreaterThan(0);
      expect(jolts[foot]!.at).toBeLessThan(motion.duration);
    }
  });

  it('looks closely at the whole of a walk of half a minute: what is jolted in its middle is told, where and how many times its gait', () => {
    const gait = presetFor('walk', body);
    const plain = walk('w', gait, body, 50, 0);
    expect(notesOf(gait, plain, 60).map((n) => n.words)).toEqual([]);
    const at = 0.37 * plain.duration;
    // The whole figure is thrown aside by 3 cm within two looks.
    const pose: Motion['pose'] = (t, out, o) => {
      plain.pose(t, out, o);
      out[o] = out[o]! + 0.03 * Math.exp(-(((t - at) * 240) ** 2));
    };
    const survey = {
      ...plain.survey(),
      ...finish(missing({ body, duration: plain.duration, pose }, { tooFar: 0, tooNear: 0, farSide: 0, nearSide: 0, handMissed: 0 })),
    };
    expect(survey.jolts[foot]!.at).toBeCloseTo(at, 2);
    const words = notesOf(gait, { ...plain, pose, survey: () => survey }, 60).map((n) => n.words);
    expect(words).toHaveLength(1);
    expect(words[0]).toMatch(
      / is jolted by [12]\d{3} m\/s² at 10\.\d\d s, frame 6\d\d at 60 a second \(print \d+ [LR]\): \d{3,4} times what its gaits do on the level, 50 times played at \d\d % of its speed\.$/,
    );
  });

  it('of a walk that changes its gait is measured by the cycles of both: a run is no jolted sneak', () => {
    const [slow, fast] = [presetFor('sneak', body), presetFor('run', body)];
    const gaits = {
      over: 'distance' as const,
      keys: [
        { at: 0, stretch: 0, gait: slow },
        { at: 3, stretch: 2, gait: fast },
      ],
    };
    const { level } = walk('w', slow, body, 12, 0, { gaits }).survey();
    const own = [slow, fast].map((g) => cycle(g, body).survey().level[foot]!);
    expect(level[foot]).toBe(Math.max(...own));
    expect(own[1]!).toBeGreaterThan(5 * own[0]!);
  });
});
