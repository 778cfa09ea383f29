import { useMemo } from 'react';
import type { Body } from '@/core/body/body';
import { LEFT, RIGHT } from '@/core/body/roles';
import { setMembers } from '@/core/directions/set';
import type { GaitSpec } from '@/core/gait/spec';
import { cycleSchedule } from '@/core/schedule/cycle';
import { createSolver, type Solver } from '@/core/solve/solver';
import { straightSchedule } from '@/core/steps/straight';
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
    if (station === 'steps') {
      const schedule = straightSchedule(own, body, plan.steps, plan.firstFoot === 'left' ? LEFT : RIGHT);
      const request = { kind: 'plan', steps: plan.steps, firstFoot: plan.firstFoot } as const;
      return { body, gait: own, solver: createSolver(body, own, schedule), endless: false, duration: schedule.duration, request };
    }
    const members = station === 'directions' ? setMembers(set, own) : null;
    const gait = members ? (members[memberIndex] ?? members[0]!).gait : own;
    const schedule = cycleSchedule(gait, body);
    return { body, gait, solver: createSolver(body, gait, schedule), endless: true, duration: schedule.duration, request: { kind: 'cycle' } as const };
  }, [station, body, plan, set, own, memberIndex]);
}
