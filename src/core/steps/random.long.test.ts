import { describe, expect, it } from 'vitest';
import { poseSize } from '../body/skeleton';
import { UPPER_LEG } from '../body/roles';
import { measureFooting } from '../measure/footing';
import { BODY_KEYS, presetFor, shippedBody } from '../tests/cast';
import { randomWalk } from '../tests/random-walks';
import { printFaults } from './faults';
import { planMotion } from './motion';
import { planSpecSchema } from './plan';

/** Draws of the suite; `npm run bench:walks random` makes 500. */
const DRAWS = 36;
const GAITS = ['walk', 'stroll', 'sneak', 'jog', 'march', 'limp'];

describe('walks drawn by a seed', () => {
  it.each(Array.from({ length: DRAWS }, (_, i) => i + 1))('%i: finite, feet locked, no sole in the ground, knees within limits, faults said', (seed) => {
    const body = shippedBody(BODY_KEYS[seed % 3]!);
    const gaitOf = (key: string) => presetFor(key, body);
    const { plan, rough } = randomWalk(seed, GAITS, gaitOf);
    expect(planSpecSchema.safeParse(plan).error?.issues ?? []).toEqual([]);
    const motion = planMotion(plan, body, { gait: gaitOf });
    const pose = new Float64Array(poseSize(body.skeleton));
    for (let i = 0; i <= 120; i++) {
      motion.pose((motion.duration * i) / 120, pose, 0);
      for (const v of pose) if (!Number.isFinite(v)) throw new Error(`not finite at ${i}`);
      for (const leg of UPPER_LEG) expect(2 * Math.acos(Math.min(1, Math.abs(pose[6 + (leg + 1) * 4 + 3]!)))).toBeLessThan(2.75);
    }
    const still = motion.onGround ?? motion;
    const { slideMm, plantedSinkMm, swingSinkMm } = measureFooting(still, 60);
    // What cannot be stepped as it lies is said; everything else holds.
    const said = motion.survey().tooFar > 5e-5 || printFaults(motion).length > 0;
    if (said) return;
    expect(slideMm).toBeLessThanOrEqual(0.05);
    expect(plantedSinkMm).toBeLessThanOrEqual(rough ? 3 : 0.1);
    expect(swingSinkMm).toBeLessThanOrEqual(rough ? 3 : 0.1);
  });
});
