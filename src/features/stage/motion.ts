import { useMemo } from 'react';
import type { Body } from '@/core/body/body';
import type { BodySpec } from '@/core/body/spec';
import { setMembers } from '@/core/directions/set';
import type { GaitSpec } from '@/core/gait/spec';
import type { Motion } from '@/core/motion/motion';
import type { Shown } from '@/core/motion/laid';
import { build, type MotionSpec, type ProjectPart } from '@/core/project/motion-spec';
import { otherGaits } from '@/core/steps/names';
import { defaultPlan, LONGEST, type PlanSpec } from '@/core/steps/plan';
import { useDocument } from '../document/context';
import { gaitFor, gaitIdOf, planIdOf, useBody, useGait, usePlan, useSet, useSpecs } from '../document/selectors';
import { stationOf, type Station, type StationMotion } from '../shell/stations';
import type { OwnFigure } from '../travel/own-figure';
import { useClip, type ClipOnStage } from '../travel/use-clip';
import { useSession, type Session } from './session';

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
  /** Others at the same time, on the same ground: another walk, or what a clip is held against. */
  readonly beside: readonly Shown[];
  /** Why what was asked for cannot be walked, in words; then something plain is shown. */
  readonly trouble: string | null;
  /** Who leads it, where nothing of it is laid out beforehand. */
  readonly led: Session['led'];
  /** A clip's own skeleton as it moves, and the skins that hang on it. */
  readonly own: OwnFigure | null;
  /** The clip it is, where it was brought in. */
  readonly clip: ClipOnStage | null;
}

const NONE: readonly Shown[] = [];

/** A spec built for the walkway; nothing is solved before a picture asks for it. */
export function stageMotion(spec: MotionSpec, part: ProjectPart): StageMotion {
  const { motion, body, gait } = build(spec, part);
  return {
    body,
    gait,
    source: motion,
    endless: motion.repeat !== null,
    duration: motion.duration,
    spec,
    part,
    beside: NONE,
    trouble: null,
    led: null,
    own: null,
    clip: null,
  };
}

/** The part a walk is built from: its own gait as `gait`, the others and all bodies by their ids; a gait that is gone is its own. */
function walkPart(plan: PlanSpec, gait: GaitSpec, gaits: ProjectPart['gaits'], body: BodySpec, bodies: NonNullable<ProjectPart['bodies']>): ProjectPart {
  return {
    body,
    bodies,
    gaits: { ...Object.fromEntries(otherGaits(plan).map((id) => [id, gaits[id] ?? gait])), gait },
    plans: { plan: { ...plan, gait: 'gait' } },
    sets: {},
  };
}

/** A walk built for the walkway; where it cannot be walked, the figure makes a few steps straight on and the reason is told. */
function walkMotion(part: ProjectPart): StageMotion {
  const spec: MotionSpec = { kind: 'plan', plan: 'plan' };
  try {
    return stageMotion(spec, part);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    const plan = part.plans.plan!;
    const plain: PlanSpec = { ...defaultPlan(), gait: 'gait', name: plan.name, body: plan.body, steps: 2 };
    return { ...stageMotion(spec, { ...part, plans: { plan: plain } }), trouble: error.message.replace(/^\w+: /, '') };
  }
}

/** The walk chosen to be seen beside the one that is laid out. */
function useBeside(on: boolean, gaits: ProjectPart['gaits'], body: BodySpec, bodies: NonNullable<ProjectPart['bodies']>): Motion | null {
  const chosen = useSession((s) => s.beside);
  const plan = useDocument((s) =>
    on && chosen !== null && s.meta[chosen]?.kind === 'plan' && planIdOf(s) !== chosen ? ((s.specs[chosen] as PlanSpec | undefined) ?? null) : null,
  );
  const own = useDocument((s) => (plan ? gaitFor(s, plan.gait) : null));
  return useMemo(() => {
    const gait = own === null ? undefined : gaits[own];
    return plan && gait ? walkMotion(walkPart(plan, gait, gaits, body, bodies)).source : null;
  }, [plan, own, gaits, body, bodies]);
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
  const gaits = useSpecs('gait');
  const bodies = useSpecs('body');
  const beside = useBeside(kind === 'plan', gaits, body, bodies);
  const alone = useMemo(() => (kind === 'plan' ? walkMotion(walkPart(plan, gait, gaits, body, bodies)) : null), [kind, plan, gait, gaits, body, bodies]);
  const walked = useMemo(() => (alone && beside ? { ...alone, beside: [beside] } : alone), [alone, beside]);
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
