import type { Draft } from 'immer';
import { useCallback } from 'react';
import type { PlanSpec } from '@/core/steps/plan';
import { useDocumentStore } from '../document/context';
import { planIdOf } from '../document/selectors';
import { editItem } from '../document/store';

export type WalkChange = (label: string, recipe: (plan: Draft<PlanSpec>) => void, mark?: string | null) => void;

/** Changes the walk that is being laid out; edits of one drag share a mark. */
export function useWalkChange(): WalkChange {
  const store = useDocumentStore();
  return useCallback((label, recipe, mark = null) => editItem<'plan'>(store, planIdOf(store.getState()), label, recipe, mark), [store]);
}

/** Distance (m) of a gait that is gone over into from the one before, and over which that is done. */
const GAIT_APART_M = 4;
const GAIT_OVER_M = 2;

/** Goes over into a gait behind those the walk has. */
export function addGaitKey(plan: Draft<PlanSpec>, gait: string): void {
  plan.gaits.push({ at: (plan.gaits.at(-1)?.at ?? 0) + GAIT_APART_M, stretch: GAIT_OVER_M, gait });
}

/** A time (s) on a whole picture. */
export const onFrame = (t: number, fps: number): number => Math.round(t * fps) / fps;
