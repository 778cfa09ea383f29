import { useMemo } from 'react';
import type { Body } from '@/core/body/body';
import { setMembers } from '@/core/directions/set';
import type { GaitSpec } from '@/core/gait/spec';
import type { Motion } from '@/core/motion/motion';
import { build, type MotionSpec, type ProjectPart } from '@/core/project/motion-spec';
import { useDocument } from '../document/context';
import { gaitFor, gaitIdOf, useBody, useGait, usePlan, useSet } from '../document/selectors';
import { stationOf, type Station, type StationMotion } from '../shell/stations';
import { useSession } from './session';

/** The motion on the walkway: what the figure does at the current station. */
export interface StageMotion {
  readonly body: Body;
  /** The gait as it is walked. */
  readonly gait: GaitSpec;
  /** Prepared as it is played. */
  readonly source: Motion;
  /** True for cycles: the motion goes on for ever. */
  readonly endless: boolean;
  readonly duration: number;
  /** What the worker needs to make the same motion. */
  readonly spec: MotionSpec;
  readonly part: ProjectPart;
}

/** A spec built for the walkway; nothing is solved before a picture asks for it. */
export function stageMotion(spec: MotionSpec, part: ProjectPart): StageMotion {
  const { motion, body, gait } = build(spec, part);
  return { body, gait, source: motion, endless: motion.repeat !== null, duration: motion.duration, spec, part };
}

/** The motion of a station, built again whenever the document changes. */
export function useStageMotion(station: Station): StageMotion {
  const kind: StationMotion = stationOf(station).motion;
  const body = useBody().spec;
  const plan = usePlan();
  const set = useSet();
  const gaitId = useDocument((s) => (kind === 'plan' ? gaitFor(s, plan.gait) : kind === 'member' ? gaitFor(s, set.gait) : gaitIdOf(s)));
  const gait = useGait(gaitId);
  const memberIndex = useSession((s) => s.member);
  return useMemo(() => {
    const part: ProjectPart = { body, gaits: { gait }, plans: { plan: { ...plan, gait: 'gait' } }, sets: { set: { ...set, gait: 'gait' } } };
    if (kind === 'plan') return stageMotion({ kind: 'plan', plan: 'plan' }, part);
    if (kind === 'cycle') return stageMotion({ kind: 'cycle', gait: 'gait' }, part);
    const members = setMembers(part.sets.set!, gait);
    const { directionDeg, twin } = members[memberIndex] ?? members[0]!;
    return stageMotion({ kind: 'member', set: 'set', directionDeg, twin }, part);
  }, [kind, body, plan, set, gait, memberIndex]);
}
