import { describe, expect, it } from 'vitest';
import type { GaitSpec } from '../gait/spec';
import { structuredCloneGait } from '../gait/timing';
import { GAIT_KEYS, presetFor, shippedBody } from '../tests/cast';
import { cycleProgram } from './program';
import { plan } from './plan';
import { readPendulum, readSupport, type PendulumTrack } from './pendulum';

const body = shippedBody('marlo');
const cycleSchedule = (gait: GaitSpec) => plan(cycleProgram(gait, body, 0));
const read = (track: PendulumTrack, t: number) => {
  const out = Float64Array.of(0, 0, 0, 0, t);
  readPendulum(track, out, 4, out, 0);
  return out;
};
const supportX = (track: PendulumTrack, t: number) => {
  const out = new Float64Array(2);
  readSupport(track, t, out, 0);
  return out[0]!;
};

describe('a cycle’s schedule', () => {
  it.each(GAIT_KEYS)('%s repeats: every foothold comes again a stride later and a stride on', (name) => {
    const gait = presetFor(name, body);
    const { strideTime: T, strideLength: S } = gait.timing;
    for (const holds of cycleSchedule(gait).footholds)
      for (let i = 1; i < holds.length; i++) {
        expect(holds[i]!.landing - holds[i - 1]!.landing).toBeCloseTo(T, 12);
        expect(holds[i]!.z - holds[i - 1]!.z).toBeCloseTo(S, 12);
        expect(holds[i]!.leaving - holds[i]!.landing).toBeCloseTo(gait.timing.dutyFactor * T, 12);
      }
  });

  it('places left feet left and right feet right, a step width apart, a step ahead of each other', () => {
    const gait = presetFor('walk', body);
    const [left, right] = cycleSchedule(gait).footholds;
    const l = left.find((h) => Math.abs(h.landing) < 1e-9)!;
    const r = right.find((h) => Math.abs(h.landing - gait.timing.strideTime / 2) < 1e-9)!;
    expect(l.x - r.x).toBeCloseTo(gait.feet.stepWidth, 12);
    expect(r.z - l.z).toBeCloseTo(gait.timing.strideLength / 2, 12);
    // The foot lands ahead of the hips by its share of the stance's travel.
    expect(l.z).toBeCloseTo(gait.feet.landAhead * gait.timing.dutyFactor * gait.timing.strideLength, 12);
    expect(l.heading).toBeCloseTo(gait.feet.toeOut, 12);
    expect(r.heading).toBeCloseTo(-gait.feet.toeOut, 12);
  });

  it('travels at constant speed (common practice: never eased) and sways as a closed pendulum over the standing foot', () => {
    const gait = presetFor('walk', body);
    const T = gait.timing.strideTime;
    const schedule = cycleSchedule(gait);
    for (const t of [0, 0.3, 0.9]) expect(read(schedule.travel, t * T)[3]!).toBeCloseTo(gait.timing.speed, 12);
    expect(read(schedule.sway, 0)[0]!).toBeCloseTo(read(schedule.sway, T)[0]!, 9);
    // In single support the weight is over that foot.
    expect(supportX(schedule.sway, 0.3 * T)).toBeCloseTo(gait.feet.stepWidth / 2, 9);
    expect(supportX(schedule.sway, 0.8 * T)).toBeCloseTo(-gait.feet.stepWidth / 2, 9);
  });

  it('has flights exactly when the feet stand less than half of the stride', () => {
    const gait = structuredCloneGait(presetFor('walk', body));
    for (const [duty, flights] of [
      [0.62, false],
      [0.5, false],
      [0.49, true],
      [0.3, true],
    ] as const) {
      gait.timing.dutyFactor = duty;
      expect(cycleSchedule(gait).flight.count > 0).toBe(flights);
    }
  });
});
