import type { Draft } from 'immer';
import { clamp } from '@/core/math/scalar';
import type { Foothold } from '@/core/motion/motion';
import { frameAt, timeOfFrame } from '@/core/steps/frame-numbers';
import { walkMotion } from '@/core/project/planned-walk';
import {
  addPrint,
  copyPrints,
  editOf,
  holdPrint,
  landAt,
  mirrorPrints,
  movePrint,
  pastePrints,
  removePrint,
  resetPrints,
  scaleTimes,
  type PrintMove,
} from '@/core/steps/edit-prints';
import { freed } from '@/core/steps/free';
import type { PlanSpec } from '@/core/steps/plan';
import { EDIT_RANGES, type PrintEditSpec } from '@/core/steps/print-spec';
import { Cancelled } from '@/workers/client';
import { idsOf, specOf, useDocumentStore } from '../document/context';
import { useWalk } from '../document/selectors';
import { usePlanner } from '../stage/measure';
import type { StageMotion } from '../stage/motion';
import { chosenPrints, useSession, useSessionStore, type Session } from '../stage/session';
import { useWalkChange } from './editing';

const WALK = { kind: 'plan', plan: 'plan' } as const;

/** Numbers of a print that are typed. */
export type PrintNumber = 'along' | 'aside' | 'turnDeg' | 'later' | 'longer' | 'tempo';
const LABELS: Record<PrintNumber, string> = {
  along: 'move a print',
  aside: 'move a print',
  turnDeg: 'turn a print',
  later: 'time of a print',
  longer: 'time of a print',
  tempo: 'time of a step',
};

const whole = (v: number): number => Math.round(v * 1000) / 1000;

/** What is chosen once a print was pressed: it, or those it belongs to; with Shift besides the others, or no more. */
export function chosenBy(step: number, chosen: Session['chosen'], shift: boolean): Session['chosen'] {
  const all = chosenPrints(chosen);
  if (!shift) return all.includes(step) ? chosen : { kind: 'print', key: step };
  const next = all.includes(step) ? all.filter((k) => k !== step) : [step, ...all];
  return next.length > 0 ? { kind: 'print', key: next[0]!, more: next.slice(1) } : null;
}

/** What can be done to the prints of the walk that is laid out; each is one step of undo, those of one drag share a mark. */
export function usePrintActions(motion: StageMotion) {
  const { id, spec: plan } = useWalk();
  const planner = usePlanner();
  const store = useDocumentStore();
  const session = useSessionStore();
  const change = useWalkChange();
  const copied = useSession((s) => s.copiedPrints);
  const { source } = motion;
  const holdOf = (step: number): Foothold | undefined => source.footholds(0, source.duration).find((h) => h.step === step);
  /** Heading of the course where each print lands: edits are told along it. */
  const headings = (steps: readonly number[]): Map<number, number> => {
    const place = new Float64Array(4);
    return new Map(
      source
        .footholds(0, source.duration)
        .filter((h) => steps.includes(h.step))
        .map((h) => {
          source.place(h.landing, place);
          return [h.step, place[3]!];
        }),
    );
  };
  return {
    /** From where they are in `before` (as they are now, if nothing is given) over the ground. */
    move(steps: readonly number[], by: PrintMove, mark: string | null = null, before: PlanSpec = plan, along = headings(steps)) {
      change(by.turnDeg === 0 ? 'move a print' : 'turn a print', (p) => steps.forEach((step) => movePrint(p, before, step, by, along.get(step) ?? 0)), mark);
    },
    /** By so much along the course and to its left. */
    nudge(steps: readonly number[], ahead: number, left: number, turnDeg: number) {
      const along = headings(steps);
      change(turnDeg === 0 ? 'move a print' : 'turn a print', (p) => {
        for (const step of steps) {
          const h = along.get(step) ?? 0;
          const [sin, cos] = [Math.sin(h), Math.cos(h)];
          movePrint(p, plan, step, { x: ahead * sin + left * cos, z: ahead * cos - left * sin, turnDeg }, h);
        }
      });
    },
    headings,
    /** A number of the first print typed; the others get the same time, or move along by the same. */
    setNumber(steps: readonly number[], field: PrintNumber, value: number) {
      change(LABELS[field], (p) => {
        const by = value - editOf(p, steps[0]!)[field];
        const [least, most] = EDIT_RANGES[field];
        for (const step of steps) {
          const edit = editOf(p, step);
          edit[field] = clamp(field === 'longer' || field === 'tempo' ? value : edit[field] + by, least, most);
        }
      });
    },
    setGait: (steps: readonly number[], gait: string | null) =>
      change('gait of a step', (p) => {
        for (const step of steps) {
          const free = p.free?.prints[step - 1];
          if (free) free.gait = gait;
          else editOf(p, step).gait = gait;
        }
      }),
    setHeld: (step: number, held: Partial<NonNullable<PrintEditSpec['held']>>) =>
      change('a mark to hit', (p) => void Object.assign(editOf(p, step).held ?? {}, held)),
    setFree: (step: number, recipe: (print: Draft<NonNullable<PlanSpec['free']>>['prints'][number]) => void) =>
      change('a free print', (p) => recipe(p.free!.prints[step - 1]!)),
    landAt: (step: number, time: number) => change('time of a print', (p) => landAt(p, step, time)),
    scaleTimes: (steps: readonly number[], factor: number) => change('times of prints', (p) => scaleTimes(p, steps, factor)),
    add: (step: number) => change('add a print', (p) => addPrint(p, step)),
    leaveOut(steps: readonly number[]) {
      change('leave a print out', (p) => [...steps].sort((a, b) => b - a).forEach((step) => removePrint(p, step)));
      session.getState().set({ chosen: null });
    },
    reset: (steps: readonly number[]) => change('reset prints', (p) => resetPrints(p, steps)),
    resetAll: () =>
      change('reset all prints', (p) =>
        resetPrints(
          p,
          p.edits.map((e) => e.step),
        ),
      ),
    hold(step: number) {
      const hold = holdOf(step);
      if (!hold) return;
      const { x, z, landing } = hold;
      // It is hit on a frame that is shown.
      const { fps } = session.getState();
      const frame = Math.round(frameAt(plan.shot, fps, landing));
      change('a mark to hit', (p) => holdPrint(p, { ...hold, x: whole(x), z: whole(z), landing: timeOfFrame(plan.shot, fps, frame) }));
    },
    release: (step: number) => change('let go of a mark', (p) => void (editOf(p, step).held = null)),
    mirror: (steps: readonly number[]) => change('mirror prints', (p) => mirrorPrints(p, steps)),
    copy: (steps: readonly number[]) =>
      session.getState().set({
        copiedPrints: copyPrints(plan, steps),
        notice: { text: `What was changed about ${steps.length === 1 ? 'one print' : `${steps.length} prints`} is copied`, undo: false },
      }),
    paste: copied && ((step: number) => change('paste prints', (p) => pastePrints(p, copied, step, (gait) => idsOf(store.getState(), 'gait').includes(gait)))),
    /** Frees all prints as they lie from standing to standing, whatever the clock and the ground's own velocity do. */
    async free() {
      const own = motion.settled ? motion.part.plans.plan! : plan;
      const part = { ...motion.part, plans: { plan: { ...own, clock: null, belt: null, opens: null, closes: null } } };
      const refuse = (why: string) => session.getState().set({ notice: { text: `The prints stay on the course: ${why}.`, undo: false } });
      try {
        const planned = await planner.call('free', 'walk', { spec: WALK, part, at: 0, quickly: true });
        if (planned.trouble !== null) return refuse(planned.trouble);
        if (specOf(store.getState(), 'plan', id) !== plan) return refuse('the walk was changed meanwhile');
        const prints = freed(walkMotion(WALK, part, planned).motion, plan.edits);
        change('free the prints', (p) => void (p.free = prints));
      } catch (error) {
        if (!(error instanceof Cancelled)) refuse(error instanceof Error ? error.message : String(error));
      }
    },
    tie: () => change('tie the prints to the course', (p) => void (p.free = null)),
  };
}
