import type { Channel } from '@/core/gait/parameters';
import { fitGait } from '@/core/gait/fit';
import type { GaitSpec, Held } from '@/core/gait/spec';
import { setTiming } from '@/core/gait/timing';
import { createBody } from '@/core/body/body';
import { idsOf, specOf } from '../document/context';
import { bodyIdOf } from '../document/selectors';
import { edit, editItem, type DocumentStore } from '../document/store';

type Groups = Record<string, Record<string, number | Channel>>;

/** Sets one number of a gait: a scalar, or the offset, amount or delay of a channel. */
export function setParameter(
  store: DocumentStore,
  gaitId: string,
  group: string,
  key: string,
  part: keyof Channel | null,
  value: number,
  mark: string | null,
): void {
  editItem<'gait'>(
    store,
    gaitId,
    `${group}.${key}`,
    (gait) => {
      const values = (gait as unknown as Groups)[group]!;
      if (part === null) values[key] = value;
      else (values[key] as Channel)[part] = value;
    },
    mark,
  );
}

/** Sets stride length, speed or stride time; the one that is neither edited nor held follows. Out-of-range followers are refused. */
export function setTimingValue(store: DocumentStore, gaitId: string, which: Held, value: number, mark: string | null): void {
  const next = setTiming(store.getState().specs[gaitId] as GaitSpec, which, value).timing;
  if (next.strideLength < 0.05 || next.strideLength > 6 || next.speed < 0.02 || next.speed > 12 || next.strideTime < 0.2 || next.strideTime > 6) return;
  editItem<'gait'>(store, gaitId, `timing.${which}`, (gait) => void Object.assign(gait.timing, next), mark);
}

export const setHeld = (store: DocumentStore, gaitId: string, held: Held): void => editItem<'gait'>(store, gaitId, 'held', (gait) => void (gait.held = held));

/** Lays a whole gait over another, keeping its name. */
export function replaceGait(store: DocumentStore, gaitId: string, gait: GaitSpec): void {
  edit(store, `start from ${gait.name}`, (specs) => {
    specs[gaitId] = { ...gait, name: specs[gaitId]!.name };
  });
}

export const chooseGait = (store: DocumentStore, gaitId: string): void =>
  editItem<'project'>(store, store.getState().projectId, 'gait', (p) => void (p.gait = gaitId));

/** Puts another body on the walkway and fits every gait to it at equal Froude number, as one step. */
export function chooseBody(store: DocumentStore, bodyId: string): void {
  const state = store.getState();
  if (bodyIdOf(state) === bodyId) return;
  const { legLength } = createBody(specOf(state, 'body', bodyId));
  edit(store, 'body', (specs) => {
    (specs[state.projectId] as { body: string }).body = bodyId;
    for (const id of idsOf(state, 'gait')) specs[id] = fitGait(specOf(state, 'gait', id), legLength);
  });
}
