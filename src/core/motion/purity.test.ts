import { describe, expect, it } from 'vitest';
import { slopeGround } from '../ground/slope';
import { bendCourse } from '../course/bends';
import { createTargets } from '../solve/targets';
import { presetFor, shippedBody } from '../tests/cast';
import { seeded } from '../math/random';
import type { Motion } from './motion';
import { cycle, walk } from './solved';

const body = shippedBody('marlo');
const bend = bendCourse(
  [
    { length: 2, curvature: 0 },
    { length: 6, curvature: 0.3 },
  ],
  0.7,
);
const MAKERS: readonly (readonly [string, () => Motion])[] = [
  ['a walk cycle', () => cycle(presetFor('walk', body), body)],
  ['a run cycle', () => cycle(presetFor('run', body), body)],
  ['a sneak, spine following', () => cycle(presetFor('sneak', body), body)],
  ['twelve steps', () => walk('w', presetFor('walk', body), body, 12, 0)],
  ['thirty steps of a run', () => walk('r', presetFor('run', body), body, 30, 1)],
  ['a run round a bend uphill', () => walk('b', presetFor('run', body), body, 14, 0, { course: bend, ground: slopeGround(0.1) })],
];
const poseAt = (motion: Motion, t: number) => {
  const out = new Float64Array(98);
  motion.pose(t, out, 0);
  return out;
};

describe('asking a motion', () => {
  it('for its survey bit by bit finds what it finds at once, and keeps it; poses may be asked for meanwhile', () => {
    const make = () => walk('r', presetFor('run', body), body, 30, 1);
    const motion = make();
    const work = motion.surveying();
    let pieces = 0;
    for (let next = work.next(); ; next = work.next(), pieces++) {
      if (next.done) {
        expect(next.value).toEqual(make().survey());
        expect(motion.survey()).toBe(next.value);
        break;
      }
      poseAt(motion, pieces / 7);
    }
    expect(pieces).toBeGreaterThan(3);
  });

  it.each(MAKERS)('%s: the same time gives the same bits, in any order and between whatever else', (_, make) => {
    const rand = seeded(19);
    const calm = make();
    const times = Array.from({ length: 60 }, (_, i) => (calm.duration * i) / 60 + (calm.repeat ? Math.floor(4 * rand()) * calm.duration : 0));
    const poses = times.map((t) => poseAt(calm, t));
    const shuffled = make();
    const order = times.map((_, i) => i).sort(() => rand() - 0.5);
    const targets = createTargets();
    for (const i of order) {
      expect(poseAt(shuffled, times[i]!)).toEqual(poses[i]);
      shuffled.targets(rand() * 9, targets);
      shuffled.phaseAt(rand() * 5);
      if (i % 20 === 0) shuffled.survey();
    }
    expect(poseAt(calm, times[3]!)).toEqual(poses[3]);
  });

  it('two motions asked by turns do not meet', () => {
    const alone = MAKERS.map(([, make]) => make()).map((m) => [0.1, 0.7, 0.4].map((t) => poseAt(m, t)));
    const together = MAKERS.map(([, make]) => make());
    [0.1, 0.7, 0.4].forEach((t, k) => together.forEach((m, i) => expect(poseAt(m, t)).toEqual(alone[i]![k])));
  });

  it('what a motion is short of does not depend on what was played', () => {
    const gait = presetFor('walk', body);
    gait.timing.strideLength = 3.2;
    gait.timing.speed = 3.2 / gait.timing.strideTime;
    const [fresh, played] = [cycle(gait, body), cycle(gait, body)];
    for (let i = 0; i < 40; i++) poseAt(played, i * 0.137);
    expect(played.survey()).toEqual(fresh.survey());
    expect(fresh.survey().tooFar).toBeGreaterThan(0.01);
  });
});
