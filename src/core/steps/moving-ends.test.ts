import { describe, expect, it } from 'vitest';
import { poseSize } from '../body/skeleton';
import { createPlacement, inversePlacement, placeRoot } from '../math/placement';
import type { Motion } from '../motion/motion';
import { cycle } from '../motion/solved';
import { presetFor, shippedBody } from '../tests/cast';
import { measureFooting } from '../measure/footing';
import { planMotion } from './motion';
import { defaultPlan, planSpecSchema, type PlanSpec } from './plan';
import { plainPrintEdit } from './print-spec';

const body = shippedBody('marlo');
const walked = (more: Partial<PlanSpec>): Motion =>
  planMotion(planSpecSchema.parse({ ...defaultPlan(), steps: null, ...more }), body, { gait: (key) => presetFor(key, body) });
const BEND: PlanSpec['course'] = {
  knots: [
    { x: 0, z: 0, by: 'smooth' },
    { x: 0, z: 6, by: 'smooth' },
    { x: -2, z: 9, by: 'smooth' },
  ],
};
/** Pose as seen from the root: where it is on the ground is another matter. */
function ownPose(m: Motion, t: number): Float64Array {
  const [pose, at, back] = [new Float64Array(poseSize(body.skeleton)), createPlacement(), createPlacement()];
  m.pose(t, pose, 0);
  m.place(t, at);
  inversePlacement(back, 0, at, 0);
  placeRoot(pose, 0, 6, back, 0);
  return pose;
}
const apart = (a: Float64Array, b: Float64Array) => a.reduce((most, v, k) => Math.max(most, Math.abs(v - b[k]!)), 0);
const place = (m: Motion, t: number) => {
  const out = createPlacement();
  m.place(t, out);
  return out;
};

describe('a walk cut out of full stride', () => {
  it.each([
    ['walk', 0, 0.5],
    ['walk', 0.3, 0.05],
    ['sneak', 0.75, 0.2],
    ['run', 0.1, 0.6],
  ])('of a %s begins at phase %d and ends at phase %d of its cycle, in pose and velocity', (gait, opens, closes) => {
    const m = walked({ gait, opens: { gait: null, phase: opens }, closes: { gait: null, phase: closes } });
    const ring = cycle(presetFor(gait, body), body);
    const dt = 1 / 120;
    for (const [t, phase] of [
      [0, opens],
      [m.duration - dt, closes - dt / ring.strideTime],
    ] as const) {
      const now = apart(ownPose(m, t), ownPose(ring, phase * ring.strideTime));
      const next = apart(ownPose(m, t + dt), ownPose(ring, phase * ring.strideTime + dt));
      expect(now).toBeLessThan(4e-3);
      expect(Math.abs(next - now)).toBeLessThan(4e-4);
      const moved = Math.hypot(place(m, t + dt)[0]! - place(m, t)[0]!, place(m, t + dt)[2]! - place(m, t)[2]!) / dt;
      expect(moved / ring.pace.speed).toBeCloseTo(1, 1);
    }
    expect(measureFooting(m, 60).slideMm).toBeLessThan(0.05);
  });

  it('begins where its course does, with step 1 the first that lands, and ends about where it ends', () => {
    const m = walked({ course: BEND, opens: { gait: null, phase: 0.25 }, closes: { gait: null, phase: 0 } });
    const at = place(m, 0);
    expect(Math.hypot(at[0]!, at[2]!)).toBeLessThan(0.01);
    const end = place(m, m.duration);
    expect(Math.hypot(end[0]! + 2, end[2]! - 9)).toBeLessThan(0.4);
    const landings = m.footholds(0, m.duration).filter((h) => h.landing > 0);
    expect(landings.map((h) => h.step)).toEqual(landings.map((_, i) => i + 1));
    expect(m.travelled(0)).toBeCloseTo(0, 9);
  });

  it('begins in another gait, and ends in a third', () => {
    const m = walked({ course: BEND, opens: { gait: 'run', phase: 0.1 }, closes: { gait: 'sneak', phase: 0.3 } });
    expect(apart(ownPose(m, 0), ownPose(cycle(presetFor('run', body), body), 0.1 * presetFor('run', body).timing.strideTime))).toBeLessThan(0.05);
    expect(apart(ownPose(m, m.duration), ownPose(cycle(presetFor('sneak', body), body), 0.3 * presetFor('sneak', body).timing.strideTime))).toBeLessThan(0.06);
  });

  it('keeps its own time, distance and steps for tracks, rests, edits and marks', () => {
    const opens = { gait: null, phase: 0.25 };
    const plain = walked({ course: BEND, opens });
    const rests = walked({ course: BEND, opens, halts: [{ at: 4, rest: 2 }] });
    const stands = rests.footholds(0, rests.duration).find((h) => h.rests)!;
    expect(Math.abs(stands.z - 4)).toBeLessThan(0.15);
    const edited = walked({ course: BEND, opens, edits: [{ ...plainPrintEdit(3), along: 0.1 }] });
    const third = (m: Motion) => m.footholds(0, m.duration).find((h) => h.step === 3)!;
    expect(third(edited).z - third(plain).z).toBeCloseTo(0.1, 2);
    const mark = walked({ course: BEND, opens, edits: [{ ...plainPrintEdit(4), held: { x: -0.1, z: 2.3, headingDeg: null, time: 1.7 } }] });
    const fourth = mark.footholds(0, mark.duration).find((h) => h.step === 4)!;
    expect([fourth.landing, fourth.x, fourth.z].map((v) => Number(v.toFixed(3)))).toEqual([1.7, -0.1, 2.3]);
    // One that only ends in stride has its marks from its own beginning.
    const late = walked({ closes: opens, edits: [{ ...plainPrintEdit(4), held: { x: -0.05, z: 2.2, headingDeg: null, time: 3.4 } }] });
    expect(late.footholds(0, late.duration).find((h) => h.step === 4)!.landing).toBeCloseTo(3.4, 6);
    const slower = walked({
      course: BEND,
      opens,
      pace: {
        over: 'time',
        keys: [
          { at: 0, value: 1.35, next: 'held' },
          { at: 3, value: 0.8, next: 'held' },
        ],
      },
    });
    const speed = (m: Motion, t: number) => (m.travelled(t + 0.6) - m.travelled(t - 0.6)) / 1.2;
    expect(speed(slower, 1.5)).toBeGreaterThan(1.2);
    expect(speed(slower, 5)).toBeLessThan(0.95);
  });

  it('cannot begin so where a place in time is asked for, and says when it is too short', () => {
    const opens = { gait: null, phase: 0 };
    expect(() =>
      walked({
        opens,
        place: {
          over: 'time',
          keys: [
            { at: 0, value: 0, next: 'linear' },
            { at: 5, value: 4, next: 'linear' },
          ],
        },
      }),
    ).toThrow(/begins and ends standing/);
  });
});
