import { bodyOf } from '@/core/body/body';
import { isSplit, readValue, writeValue } from '@/core/gait/access';
import type { CurveKey } from '@/core/gait/curve';
import { fitGait } from '@/core/gait/fit';
import { PARAMETERS, type Channel, type ParameterEntry } from '@/core/gait/parameters';
import { copyChannel, type Carry, type GaitSpec, type Held } from '@/core/gait/spec';
import { setTiming } from '@/core/gait/timing';
import { idsOf, specOf } from '../document/context';
import { bodyIdOf } from '../document/selectors';
import { edit, editItem, type DocumentStore } from '../document/store';

export type SideChoice = 'left' | 'right';
/** The plain numbers of a channel. */
export type ChannelPart = 'offset' | 'amount' | 'delay';

/** Sets one number of a gait: a scalar, or the offset, amount or delay of a channel; of one side where the value is split. */
export function setParameter(
  store: DocumentStore,
  gaitId: string,
  entry: ParameterEntry,
  part: ChannelPart | null,
  value: number,
  mark: string | null,
  side: SideChoice = 'left',
): void {
  editItem<'gait'>(
    store,
    gaitId,
    entry.path,
    (gait) => {
      if (part === null) writeValue(gait, entry, value, side);
      else (readValue(gait, entry, side) as Channel)[part] = value;
    },
    mark,
  );
}

/** Gives a channel a curve of its own, or with null takes it back to its plain shape. */
export function setCurve(
  store: DocumentStore,
  gaitId: string,
  entry: ParameterEntry,
  keys: readonly CurveKey[] | null,
  mark: string | null,
  side: SideChoice = 'left',
): void {
  editItem<'gait'>(
    store,
    gaitId,
    `${entry.path} curve`,
    (gait) => {
      const channel = readValue(gait, entry, side) as Channel;
      if (keys) channel.curve = [...keys].map((k) => ({ ...k })).sort((a, b) => a.at - b.at);
      else delete channel.curve;
    },
    mark,
  );
}

/** Lays a whole value over a parameter: what a reset does. */
export function setWhole(store: DocumentStore, gaitId: string, entry: ParameterEntry, value: number | Channel, side: SideChoice = 'left'): void {
  editItem<'gait'>(store, gaitId, `reset ${entry.path}`, (gait) => writeValue(gait, entry, typeof value === 'number' ? value : copyChannel(value), side));
}

/** Gives the right side a value of its own, or joins it to the left again. */
export function setSplit(store: DocumentStore, gaitId: string, entry: ParameterEntry, split: boolean): void {
  editItem<'gait'>(store, gaitId, split ? `split ${entry.path}` : `join ${entry.path}`, (gait) => {
    if (!split) delete gait.right[entry.path];
    else if (!isSplit(gait, entry.path)) {
      const value = readValue(gait, entry);
      gait.right[entry.path] = typeof value === 'number' ? value : (JSON.parse(JSON.stringify(value)) as Channel);
    }
  });
}

const inRange = (v: number, [min, max]: readonly [number, number]): boolean => v >= min && v <= max;

/** Sets stride length, speed or stride time; the one that is neither edited nor held follows. Out-of-range followers are refused. */
export function setTimingValue(store: DocumentStore, gaitId: string, which: Held, value: number, mark: string | null): void {
  const next = setTiming(store.getState().specs[gaitId] as GaitSpec, which, value).timing;
  if (!(['strideLength', 'speed', 'strideTime'] as const).every((k) => inRange(next[k], PARAMETERS.timing[k].range))) return;
  editItem<'gait'>(store, gaitId, `timing.${which}`, (gait) => void Object.assign(gait.timing, next), mark);
}

export const setHeld = (store: DocumentStore, gaitId: string, held: Held): void => editItem<'gait'>(store, gaitId, 'held', (gait) => void (gait.held = held));

export const setCarry = (store: DocumentStore, gaitId: string, carry: Carry): void =>
  editItem<'gait'>(store, gaitId, 'carry', (gait) => void (gait.carry = carry));

/** Lays a whole gait over another, keeping its name. */
export function replaceGait(store: DocumentStore, gaitId: string, gait: GaitSpec, label = `start from ${gait.name}`, mark: string | null = null): void {
  edit(
    store,
    label,
    (specs) => {
      const was = specs[gaitId] as GaitSpec;
      specs[gaitId] = { ...gait, name: was.name };
    },
    mark,
  );
}

/** Names, describes and tags a gait. */
export const setGaitCard = (store: DocumentStore, gaitId: string, card: Pick<GaitSpec, 'name' | 'about' | 'tags'>): void =>
  editItem<'gait'>(store, gaitId, 'name and tags', (gait) => void Object.assign(gait, card));

export const chooseGait = (store: DocumentStore, gaitId: string): void =>
  editItem<'project'>(store, store.getState().projectId, 'gait', (p) => void (p.gait = gaitId));

/** Puts another body on the walkway and fits every gait to it at equal Froude number, as one step. */
export function chooseBody(store: DocumentStore, bodyId: string): void {
  const state = store.getState();
  if (bodyIdOf(state) === bodyId) return;
  const { legLength } = bodyOf(specOf(state, 'body', bodyId));
  edit(store, 'body', (specs) => {
    (specs[state.projectId] as { body: string }).body = bodyId;
    for (const id of idsOf(state, 'gait')) specs[id] = fitGait(specOf(state, 'gait', id), legLength);
  });
}
