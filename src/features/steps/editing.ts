import type { Draft } from 'immer';
import type { PlanSpec } from '@/core/steps/plan';
import { plainPrintEdit } from '@/core/steps/print-spec';
import { useDocumentStore } from '../document/context';
import { planIdOf } from '../document/selectors';
import { editItem } from '../document/store';

export type WalkChange = (label: string, recipe: (plan: Draft<PlanSpec>) => void, mark?: string | null) => void;

/** Changes the walk that is being laid out; edits of one drag share a mark. */
export function useWalkChange(): WalkChange {
  const store = useDocumentStore();
  return (label, recipe, mark = null) => editItem<'plan'>(store, planIdOf(store.getState()), label, recipe, mark);
}

/** The edit of a print in a draft; made where there is none yet. */
export function editOf(plan: Draft<PlanSpec>, step: number): Draft<PlanSpec['edits'][number]> {
  const known = plan.edits.find((e) => e.step === step);
  if (known) return known;
  plan.edits.push(plainPrintEdit(step));
  return plan.edits[plan.edits.length - 1]!;
}
