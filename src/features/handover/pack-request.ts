import type { HandoverSpec } from '@/core/handover/spec';
import type { ClipSpec } from '@/core/travel/clip-spec';
import type { WorkerCalls } from '@/workers/protocol';
import { useDocument } from '../document/context';
import { gaitIdOf, useBody, useGait, useGaitFor, usePlan, useSet, useSpecs } from '../document/selectors';

type Request = WorkerCalls['pack']['request'];

/** Returns what asks for files of the project's cycle, walk, directions and clips, as it is now. */
export function usePackRequest(): (handover: HandoverSpec & { readonly rate: number }, clips: readonly ClipSpec[]) => Request {
  const plan = usePlan();
  const set = useSet();
  const body = useBody();
  const gaits = useSpecs('gait');
  const bodies = useSpecs('body');
  const gait = useGait(useDocument(gaitIdOf));
  const planGait = useGait(useGaitFor(plan.gait));
  const setGait = useGait(useGaitFor(set.gait));
  return (handover, clips) => ({
    gait: 'cycle',
    plan: 'plan',
    set: 'set',
    part: {
      body: body.spec,
      bodies,
      gaits: { ...Object.fromEntries(plan.gaits.map((k) => [k.gait, gaits[k.gait] ?? planGait])), cycle: gait, plan: planGait, set: setGait },
      plans: { plan: { ...plan, gait: 'plan' } },
      sets: { set: { ...set, twins: false, gait: 'set' } },
    },
    handover,
    clips,
  });
}
