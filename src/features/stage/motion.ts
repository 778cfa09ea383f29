import { useMemo } from 'react';
import type { BodySpec } from '@/core/body/spec';
import { setMembers } from '@/core/directions/set';
import type { GaitSpec } from '@/core/gait/spec';
import { own } from '@/core/math/own';
import type { ProjectPart } from '@/core/project/motion-spec';
import { otherGaits } from '@/core/steps/names';
import { LONGEST, type PlanSpec } from '@/core/steps/plan';
import { useDocument } from '../document/context';
import { gaitFor, gaitIdOf, planIdOf, useBody, useGait, usePlan, useSet, useSpecs } from '../document/selectors';
import { stationOf, type Station, type StationMotion } from '../shell/stations';
import { useClip } from '../travel/use-clip';
import type { Clock } from './clock';
import { usePlannedWalk } from './planned';
import { useSession } from './session';
import { NONE, stageMotion, type StageMotion } from './stage-motion';

export { stageMotion, type StageMotion } from './stage-motion';

/** The part a walk is built from: its own gait as `gait`, the others and all bodies by their ids; a gait that is gone is its own. */
function walkPart(plan: PlanSpec, gait: GaitSpec, gaits: ProjectPart['gaits'], body: BodySpec, bodies: NonNullable<ProjectPart['bodies']>): ProjectPart {
  return {
    body,
    bodies,
    gaits: { ...Object.fromEntries(otherGaits(plan).map((id) => [id, own(gaits, id) ?? gait])), gait },
    plans: { plan: { ...plan, gait: 'gait' } },
    sets: {},
  };
}

/** The part of the walk chosen to be seen beside the one that is laid out; null where there is none. */
function useBesidePart(on: boolean, gaits: ProjectPart['gaits'], body: BodySpec, bodies: NonNullable<ProjectPart['bodies']>): ProjectPart | null {
  const chosen = useSession((s) => s.beside);
  const plan = useDocument((s) =>
    on && chosen !== null && s.meta[chosen]?.kind === 'plan' && planIdOf(s) !== chosen ? ((s.specs[chosen] as PlanSpec | undefined) ?? null) : null,
  );
  const gaitId = useDocument((s) => (plan ? gaitFor(s, plan.gait) : null));
  return useMemo(() => {
    const gait = gaitId === null ? undefined : gaits[gaitId];
    return plan && gait ? walkPart(plan, gait, gaits, body, bodies) : null;
  }, [plan, gaitId, gaits, body, bodies]);
}

/** The motion of a station, made again whenever the document changes: a walk by a worker, all else as soon as it is asked for. */
export function useStageMotion(station: Station, clock: Clock): StageMotion {
  const kind: StationMotion = stationOf(station).motion;
  const body = useBody().spec;
  const plan = usePlan();
  const set = useSet();
  const gaitId = useDocument((s) => (kind === 'plan' ? gaitFor(s, plan.gait) : kind === 'member' ? gaitFor(s, set.gait) : gaitIdOf(s)));
  const gait = useGait(gaitId);
  const memberIndex = useSession((s) => s.member);
  const gaits = useSpecs('gait');
  const bodies = useSpecs('body');
  const beside = usePlannedWalk(useBesidePart(kind === 'plan', gaits, body, bodies), clock, 'walk beside');
  const part = useMemo(() => (kind === 'plan' ? walkPart(plan, gait, gaits, body, bodies) : null), [kind, plan, gait, gaits, body, bodies]);
  const alone = usePlannedWalk(part, clock, 'walk');
  const walked = useMemo(() => (alone && beside && !beside.arriving ? { ...alone, beside: [beside.source] } : alone), [alone, beside]);
  const other = useMemo(() => {
    if (kind === 'plan') return null;
    const part: ProjectPart = { body, gaits: { gait }, plans: {}, sets: { set: { ...set, gait: 'gait' } } };
    if (kind === 'cycle' || kind === 'clip') return stageMotion({ kind: 'cycle', gait: 'gait' }, part);
    const members = setMembers(part.sets.set!, gait);
    const { directionDeg, twin } = members[memberIndex] ?? members[0]!;
    return stageMotion({ kind: 'member', set: 'set', directionDeg, twin }, part);
  }, [kind, body, set, gait, memberIndex]);
  const led = useSession((s) => s.led);
  const ledOn = useMemo(
    () => (walked && led ? { ...walked, body: led.motion.body, source: led.motion, duration: LONGEST.time, beside: NONE, trouble: null, led } : walked),
    [walked, led],
  );
  const clip = useClip(kind === 'clip');
  const shown = useMemo((): StageMotion | null => {
    if (!clip || !other) return null;
    // Until it is read the figure of the project stands in.
    if (!clip.motion) return { ...other, clip };
    const { motion } = clip;
    return {
      ...other,
      gait: { ...other.gait, carry: 'nothing' },
      body: motion.body,
      source: motion,
      endless: motion.repeat !== null,
      duration: motion.duration,
      beside: clip.beside,
      own: clip.own,
      clip,
    };
  }, [clip, other]);
  return ledOn ?? shown ?? other!;
}
