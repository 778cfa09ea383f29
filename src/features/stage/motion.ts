import { useMemo } from 'react';
import type { Body } from '@/core/body/body';
import { setMembers } from '@/core/directions/set';
import type { GaitSpec } from '@/core/gait/spec';
import { cycleMotion, planMotion } from '@/core/handover/motions';
import { createSolver, type Solver } from '@/core/solve/solver';
import { useDocument } from '../document/context';
import { gaitFor, gaitIdOf, useBody, useGait, usePlan, useSet } from '../document/selectors';
import type { Station } from '../shell/stations';
import { useSession } from './session';

/** The motion on the walkway: what the figure does at the current station. */
export interface StageMotion {
  readonly body: Body;
  readonly gait: GaitSpec;
  readonly solver: Solver;
  /** True for cycles: the motion goes on for ever. */
  readonly endless: boolean;
  readonly duration: number;
  /** What the worker needs to measure the same motion. */
  readonly request: { readonly kind: 'cycle' } | { readonly kind: 'plan'; readonly steps: number; readonly firstFoot: 'left' | 'right' };
}

/** Solves the motion of a station again whenever the document changes; a few milliseconds. */
export function useStageMotion(station: Station): StageMotion {
  const body = useBody();
  const plan = usePlan();
  const set = useSet();
  const gaitId = useDocument((s) => (station === 'steps' ? gaitFor(s, plan.gait) : station === 'directions' ? gaitFor(s, set.gait) : gaitIdOf(s)));
  const own = useGait(gaitId);
  const memberIndex = useSession((s) => s.member);
  return useMemo(() => {
    const members = station === 'directions' ? setMembers(set, own) : null;
    const motion = station === 'steps' ? planMotion(plan, own) : cycleMotion(members ? (members[memberIndex] ?? members[0]!).gait : own);
    const schedule = motion.schedule(motion.gait, body);
    return {
      body,
      gait: motion.gait,
      solver: createSolver(body, motion.gait, schedule),
      endless: schedule.periodic,
      duration: schedule.duration,
      request: station === 'steps' ? { kind: 'plan', steps: plan.steps, firstFoot: plan.firstFoot } : { kind: 'cycle' },
    };
  }, [station, body, plan, set, own, memberIndex]);
}
