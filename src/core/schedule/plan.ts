import { planCycle } from './cycle';
import type { Program } from './program';
import type { Schedule } from './schedule';
import { planWalk } from './walk';

/** Lays a program out in time and place: the one planner of all that is walked. Throws RangeError for what has no steps. */
export const plan = (program: Program): Schedule => (program.steps === 'endless' ? planCycle(program) : planWalk(program));
