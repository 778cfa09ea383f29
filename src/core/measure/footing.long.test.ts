import { describe, expect, it } from 'vitest';
import { bendCourse } from '../course/bends';
import { levelGround, type Ground } from '../ground/ground';
import { slopeGround } from '../ground/slope';
import { stairsGround } from '../ground/stairs';
import { corrected } from '../motion/corrected';
import { sampleClip } from '../motion/sample';
import { walk } from '../motion/solved';
import type { Course } from '../course/course';
import { FOOT_TARGET, footAt } from '../solve/targets';
import { toRadians } from '../math/scalar';
import { presetFor, reportOf, shippedBody } from '../tests/cast';
import { measureFooting } from './footing';

const body = shippedBody('marlo');
const bend = (curvature: number) =>
  bendCourse(
    [
      { length: 2, curvature: 0 },
      { length: 4, curvature },
      { length: 30, curvature: 0 },
    ],
    0.7,
  );
const GROUNDS: readonly (readonly [string, { ground?: Ground; course?: Course }])[] = [
  ['level', {}],
  ['10° up', { ground: slopeGround(toRadians(10)) }],
  ['10° down', { ground: slopeGround(toRadians(-10)) }],
  ['across a slope of 10°', { ground: slopeGround(toRadians(10), Math.PI / 2) }],
  ['a bend', { course: bend(0.35) }],
  ['a bend over a slope of 10°', { ground: slopeGround(toRadians(10), 0.4), course: bend(-0.35) }],
];

describe('walks over ground that is not level, and round bends, at 240 looks a second', () => {
  it.each(GROUNDS.flatMap(([name, more]) => ['walk', 'sneak', 'run', 'plod', 'hop', 'skip', 'limp', 'gallop'].map((gait) => ({ gait, name, more }))))(
    '$gait, $name: feet hold in their footholds’ planes, nothing sinks',
    ({ gait, more }) => {
      const footing = measureFooting(walk('w', presetFor(gait, body), body, 12, 0, more), 240);
      expect(footing.slideMm).toBeLessThanOrEqual(0.05);
      expect(footing.offPlaneMm).toBeLessThanOrEqual(0.05);
      expect(footing.plantedSinkMm).toBeLessThanOrEqual(0.1);
      expect(footing.swingSinkMm).toBeLessThanOrEqual(0.1);
    },
  );

  it.each([0.17, -0.17].flatMap((riser) => ['walk', 'sneak', 'plod'].map((gait) => ({ riser, gait }))))(
    '$gait over stairs of $riser m: planted soles hold and do not sink; the swing’s depth is measured',
    ({ riser, gait }) => {
      const ground = stairsGround({ start: 2, riser, tread: 0.29, count: 6, heading: 0 });
      const motion = walk('w', presetFor(gait, body), body, 12, 0, { ground });
      const footing = measureFooting(motion, 240);
      expect(footing.slideMm).toBeLessThanOrEqual(0.05);
      expect(footing.plantedSinkMm).toBeLessThanOrEqual(0.1);
      expect(footing.swingSinkMm).toBeLessThanOrEqual(0.1);
      // It truly goes up or down, root and hips with it.
      const pose = new Float64Array(98);
      motion.pose(motion.duration, pose, 0);
      expect(Math.sign(riser) * pose[1]!).toBeGreaterThan(0.5);
      expect(pose[4]!).toBeGreaterThan(0.8 * body.hipHeight);
    },
  );

  it('goes parallel to a slope: hips as high over it as on the level, uphill and down', () => {
    const pose = new Float64Array(98);
    for (const angle of [8, -8]) {
      const ground = slopeGround(toRadians(angle));
      const motion = walk('w', presetFor('walk', body), body, 12, 0, { ground });
      motion.pose(motion.duration / 2, pose, 0);
      expect(pose[1]!).toBeCloseTo(ground.height(pose[0]!, pose[2]!), 2);
      expect(Math.abs(pose[1]!)).toBeGreaterThan(0.3);
      expect(pose[4]!).toBeGreaterThan(0.84);
    }
  });
});

describe('the footing measure', () => {
  it('finds what was put in: a foot that slides, one that sinks, ground that is not where it was told', () => {
    const plain = walk('w', presetFor('walk', body), body, 6, 0);
    const f = footAt(0) + FOOT_TARGET.z;
    const sliding = corrected(plain, { targets: [(t, targets) => (targets[f] = targets[f]! + 0.004 * Math.sin(3 * t))] });
    expect(measureFooting(sliding, 120).slideMm).toBeGreaterThan(2);
    const sunk = corrected(plain, { targets: [(_t, targets) => (targets[footAt(1) + 1] = targets[footAt(1) + 1]! - 0.003)] });
    expect(measureFooting(sunk, 120).plantedSinkMm).toBeCloseTo(3, 1);
    const raised: Ground = { ...levelGround, height: () => 0.01 };
    expect(measureFooting({ ...plain, ground: raised }, 120).plantedSinkMm).toBeCloseTo(10, 3);
  });
});

describe('turning is told', () => {
  it('a clip round a bend turns by what its course does, left positive; a straight one by nothing', () => {
    for (const curvature of [0.3, -0.3]) {
      const course = bend(curvature);
      const motion = walk('bend', presetFor('walk', body), body, 16, 0, { course });
      const clip = sampleClip(motion, 60);
      const at = [0, 0, 0, 0];
      course.at(12, at, 0);
      const { travel } = reportOf(clip, body);
      expect(travel.turnDeg).toBeCloseTo((at[2]! * 180) / Math.PI, 3);
      expect(Math.sign(travel.turnDeg)).toBe(Math.sign(curvature));
    }
    expect(reportOf(sampleClip(walk('straight', presetFor('walk', body), body, 6, 0), 60), body).travel.turnDeg).toBe(0);
  });
});
