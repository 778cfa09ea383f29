import { describe, expect, it } from 'vitest';
import { wrapAngle } from '../math/scalar';
import { cycle } from '../motion/solved';
import type { Motion } from '../motion/motion';
import { facedGait } from '../schedule/facing';
import { poseSize } from '../body/skeleton';
import { BODY_KEYS, presetFor, shippedBody } from '../tests/cast';
import { meterScene } from '../tests/scenes';
import { printFaults } from './faults';
import { freed } from './free';
import { planMotion } from './motion';
import { defaultPlan, planSpecSchema, type PlanSpec } from './plan';

const body = shippedBody('marlo');
type Place = readonly [x: number, z: number];
const course = (places: readonly Place[], by: 'smooth' | 'straight' = 'smooth'): PlanSpec['course'] => ({
  knots: places.map(([x, z], i) => ({ x, z, by: i === 0 ? 'smooth' : by })),
});
const BEND = course([
  [0, 0],
  [0, 4],
  [-3, 7],
  [-3, 10],
]);
const CORNER = course(
  [
    [0, 0],
    [0, 3],
    [3, 3],
  ],
  'straight',
);
const RING = course([
  [0, 0],
  [2, 2],
  [0, 4],
  [-2, 2],
  [0, 0],
]);
const walked = (more: Partial<PlanSpec>, who = body, gait = 'walk'): Motion =>
  planMotion(planSpecSchema.parse({ ...defaultPlan(), steps: null, gait, ...more }), who, { gait: (key) => presetFor(key, who) });
const held = (headingDeg: number): PlanSpec['facing'] => ({ kind: 'held', headingDeg });
const place = (m: Motion, t: number) => {
  const out = new Float64Array(4);
  m.place(t, out);
  return out;
};
const looks = (m: Motion) => Array.from({ length: 60 }, (_, i) => place(m, (m.duration * i) / 59));
/** Cycles of a gait in eight directions against its facing. */
const eight = (key: string, who = body) => [0, 1, 2, 3, 4, 5, 6, 7].map((k) => cycle(facedGait(presetFor(key, who), (k * Math.PI) / 4), who));

describe('a walk that does not face along its course', () => {
  it('holds one direction on bends and round corners, for which it does not stop', () => {
    for (const [on, degrees] of [
      [BEND, 0],
      [BEND, 90],
      [CORNER, 0],
      [CORNER, 180],
    ] as const) {
      const m = walked({ course: on, facing: held(degrees) });
      for (const at of looks(m)) expect(Math.abs(wrapAngle(at[3]! - (degrees * Math.PI) / 180))).toBeLessThan(1e-9);
      const rests = m.footholds(0, m.duration).filter((h) => h.rests);
      expect(new Set(rests.map((h) => h.step)).size).toBe(1);
    }
    expect(
      new Set(
        walked({ course: CORNER })
          .footholds(0, 99)
          .filter((h) => h.rests)
          .map((h) => h.step),
      ).size,
    ).toBeGreaterThan(1);
  });

  it('keeps its face to a place', () => {
    for (const at of [
      { x: 0, z: 2 },
      { x: 2.5, z: 5 },
    ]) {
      const m = walked({ course: RING, facing: { kind: 'point', ...at } });
      for (const p of looks(m)) expect(Math.abs(wrapAngle(Math.atan2(at.x - p[0]!, at.z - p[2]!) - p[3]!))).toBeLessThan((5 * Math.PI) / 180);
    }
  });

  it('goes straight to a side just as the gait of that direction does', () => {
    const m = walked({
      course: course(
        [
          [0, 0],
          [0, 8],
        ],
        'straight',
      ),
      facing: held(90),
    });
    const ring = cycle(facedGait(presetFor('walk', body), -Math.PI / 2), body);
    const [a, b] = [new Float64Array(poseSize(body.skeleton)), new Float64Array(poseSize(body.skeleton))];
    const t = m.duration / 2;
    m.pose(t, a, 0);
    ring.pose((m.phaseAt(t) % 1) * ring.strideTime, b, 0);
    // All local rotations; where they are is another matter.
    for (let k = 10; k < a.length; k++) expect(Math.abs(a[k]! - b[k]!)).toBeLessThan(2e-3);
  });

  // What is over 4 is told in docs/limits.md.
  it.each([
    ['walk', 4],
    ['jog', 4],
    ['run', 8],
    ['sneak', 16],
  ])('%s: feet hold, none goes through a leg, and joints are as gentle as in the directions walked', (key, most) => {
    for (const [i, facing] of [held(0), held(90), held(180), { kind: 'point', x: 2.5, z: 5 } as const].entries()) {
      const who = shippedBody(BODY_KEYS[i % 3]!);
      const m = walked({ course: BEND, facing }, who, key);
      const met = meterScene(m, eight(key, who));
      expect(met.slideMm).toBeLessThan(0.05);
      expect(met.plantedSinkMm).toBeLessThan(0.1);
      expect(met.swingSinkMm).toBeLessThan(0.1);
      expect(met.tooFarMm).toBeLessThan(0.1);
      expect(met.times).toBeLessThan(most);
      expect(printFaults(m).filter((f) => f.words.startsWith('crosses'))).toEqual([]);
    }
  });

  it('freed, steps as before: print by print, to the side and back', () => {
    const facing = held(90);
    const m = walked({ course: BEND, facing });
    const free = freed(m);
    const f = walked({ course: BEND, facing, free });
    expect(Math.abs(f.duration - m.duration)).toBeLessThan(0.02);
    for (let t = 0; t <= m.duration; t += 0.25) {
      const [a, b] = [place(m, t), place(f, t)];
      expect(Math.hypot(a[0]! - b[0]!, a[2]! - b[2]!)).toBeLessThan(0.12);
    }
    expect(meterScene(f, eight('walk')).times).toBeLessThan(3.9);
  });
});
