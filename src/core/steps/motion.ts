import type { Body } from '../body/body';
import { LEFT, RIGHT } from '../body/roles';
import type { GaitSpec } from '../gait/spec';
import type { Motion } from '../motion/motion';
import { walk } from '../motion/solved';
import type { PlanSpec } from './plan';

/** A straight plan as a motion: the gait, fitted to the body, walked from standing to standing. */
export const planMotion = (plan: PlanSpec, gait: GaitSpec, body: Body): Motion =>
  walk(plan.name, gait, body, plan.steps, plan.firstFoot === 'left' ? LEFT : RIGHT, {
    ends: { lean: plan.lean, settle: plan.settle, standing: plan.standing },
  });
