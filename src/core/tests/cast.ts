import { createBody, type Body } from '../body/body';
import { SHIPPED_BODIES, type ShippedBody } from '../body/spec';
import { ownFeet } from '../body/foot-model';
import type { Clip } from '../clip/clip';
import { fitGait } from '../gait/fit';
import { findPreset } from '../gait/presets';
import type { GaitSpec } from '../gait/spec';
import { fitToFrames } from '../gait/timing';
import { reportClip, type ClipReport, type Known } from '../measure/report';
import type { Motion } from '../motion/motion';
import { sampleClip, type SampleOptions } from '../motion/sample';
import { cycle } from '../motion/solved';
import { build, partOf, type Built } from '../project/motion-spec';
import type { PlanSpec } from '../steps/plan';

export const BODY_KEYS = Object.keys(SHIPPED_BODIES) as ShippedBody[];
export const GAIT_KEYS = ['walk', 'run', 'sneak'] as const;
const RATES = [24, 30, 60] as const;

export const shippedBody = (key: ShippedBody): Body => createBody(SHIPPED_BODIES[key]);
export const presetFor = (key: string, body: Body): GaitSpec => fitGait(findPreset(key)!.make(), body.legLength);

/** A preset's cycle on a shipped body. */
export function presetCycle(gait: string, body: ShippedBody = 'marlo'): Motion {
  const b = shippedBody(body);
  return cycle(presetFor(gait, b), b);
}

/** A gait as a looping clip of whole frames, with the motion it was taken from. */
export function cycleClip(gait: GaitSpec, body: Body, rate: number, options: SampleOptions = {}): { clip: Clip; motion: Motion } {
  const motion = cycle(fitToFrames(gait, rate, options.hold), body);
  return { clip: sampleClip(motion, rate, options), motion };
}

/** A gait's cycle made for the pictures it will be sampled in, as the command line and the worker make it. */
export const cycleOrder = (gait: GaitSpec, body: Body, rate: number, hold = 1): Built =>
  build({ kind: 'cycle', gait: 'gait' }, partOf(body.spec, gait), { rate, hold });

/** A plan of a gait, made the same way. */
export const planOrder = (plan: PlanSpec, gait: GaitSpec, body: Body, rate: number): Built =>
  build({ kind: 'plan', plan: 'plan' }, partOf(body.spec, gait, { plans: { plan: { ...plan, gait: 'gait' } } }), { rate });

/** A clip of one of our bodies, measured. */
export const reportOf = (clip: Clip, body: Body, known?: Known): ClipReport => reportClip(clip, ownFeet(body), body.legLength, known);

/** Every body × gait × rate, for test.each. */
export const ALL_CLIPS = BODY_KEYS.flatMap((body) => GAIT_KEYS.flatMap((gait) => RATES.map((rate) => ({ body, gait, rate }))));
