import { createBody, type Body } from '../body/body';
import { SHIPPED_BODIES, type ShippedBody } from '../body/spec';
import { fitGait } from '../gait/fit';
import { findPreset } from '../gait/presets';
import type { GaitSpec } from '../gait/spec';
import { cycleSchedule } from '../schedule/cycle';
import { createSolver, type Solver } from '../solve/solver';

export const BODY_KEYS = Object.keys(SHIPPED_BODIES) as ShippedBody[];
export const GAIT_KEYS = ['walk', 'run', 'sneak'] as const;
const RATES = [24, 30, 60] as const;

export const shippedBody = (key: ShippedBody): Body => createBody(SHIPPED_BODIES[key]);
export const presetFor = (key: string, body: Body): GaitSpec => fitGait(findPreset(key)!.make(), body.legLength);

/** Solver of a preset's cycle on a shipped body. */
export function presetSolver(gait: string, body: ShippedBody = 'marlo'): Solver {
  const b = shippedBody(body);
  const g = presetFor(gait, b);
  return createSolver(b, g, cycleSchedule(g, b));
}

/** Every body × gait × rate, for test.each. */
export const ALL_CLIPS = BODY_KEYS.flatMap((body) => GAIT_KEYS.flatMap((gait) => RATES.map((rate) => ({ body, gait, rate }))));
