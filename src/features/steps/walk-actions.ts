import type { ProjectSpec } from '@/core/project/kinds';
import { defaultPlan, type PlanSpec } from '@/core/steps/plan';
import { idsOf, specOf } from '../document/context';
import { gaitIdOf, walkIds } from '../document/selectors';
import { addItem, edit, type DocumentStore } from '../document/store';
import { freeName } from '../library/actions';

const names = (store: DocumentStore): string[] => idsOf(store.getState(), 'plan').map((id) => specOf(store.getState(), 'plan', id).name);

/** Adds a walk and takes it up, as one step. */
export function addWalk(store: DocumentStore, spec: PlanSpec, label: string): void {
  const id: string = crypto.randomUUID();
  const { projectId } = store.getState();
  addItem(store, 'plan', id, { ...spec, name: freeName(spec.name, names(store)) }, label, (specs) => void ((specs[projectId] as ProjectSpec).plan = id));
}

/** A new walk goes to the end of its course. */
export const newWalk = (store: DocumentStore, name: string): void =>
  addWalk(store, { ...defaultPlan(), name, steps: null, gait: gaitIdOf(store.getState()) }, `new walk ${name}`);

export function chooseWalk(store: DocumentStore, id: string): void {
  const { projectId } = store.getState();
  edit(store, `take up ${store.getState().specs[id]!.name}`, (specs) => void ((specs[projectId] as ProjectSpec).plan = id));
}

/** Puts a walk earlier (−1) or later (1) in the list. */
export function moveWalk(store: DocumentStore, id: string, by: -1 | 1): void {
  const { projectId } = store.getState();
  const ids = walkIds(store.getState());
  const at = ids.indexOf(id);
  const other = ids[at + by];
  if (at < 0 || other === undefined) return;
  [ids[at], ids[at + by]] = [other, id];
  edit(store, 'order of walks', (specs) => void ((specs[projectId] as ProjectSpec).walks = ids));
}

/** Takes a walk out; the last one stays. */
export function removeWalk(store: DocumentStore, id: string): void {
  const state = store.getState();
  const left = idsOf(state, 'plan').filter((p) => p !== id);
  if (left.length === 0) return;
  edit(store, `remove ${state.specs[id]!.name}`, (specs) => {
    delete specs[id];
    const project = specs[state.projectId] as ProjectSpec;
    if (project.plan === id) project.plan = left[0]!;
  });
}
