import { bodyOf } from '@/core/body/body';
import { isSplit, readValue, writeValue } from '@/core/gait/access';
import type { CurveKey } from '@/core/gait/curve';
import { fitGait } from '@/core/gait/fit';
import { PARAMETERS, type Channel, type ParameterEntry } from '@/core/gait/parameters';
import { copyChannel, HELD, type Carry, type GaitSpec, type Held } from '@/core/gait/spec';
import { reachableTiming, setTiming } from '@/core/gait/timing';
import { clamp } from '@/core/math/scalar';
import { limitWords } from '../channel/words';
import { bodyIdOf, bodySpecOf } from '../document/selectors';
import { edit, editItem, type DocumentStore } from '../document/store';

export const SIDE_CHOICES = ['left', 'right'] as const;
export type SideChoice = (typeof SIDE_CHOICES)[number];
/** The plain numbers of a channel. */
export type ChannelPart = 'offset' | 'amount' | 'delay';

/**
 * Changes a gait as one undoable step. Gaits are stored for their own legs and fitted when read; what is edited is what is
 * seen, so the first edit on another body makes the gait one for its legs.
 */
function editGait(store: DocumentStore, gaitId: string, label: string, recipe: (gait: GaitSpec) => void, mark: string | null = null): void {
  const { legLength } = bodyOf(bodySpecOf(store.getState()));
  edit(
    store,
    label,
    (specs) => {
      const was = specs[gaitId] as GaitSpec;
      if (was.legLength !== legLength) specs[gaitId] = fitGait(JSON.parse(JSON.stringify(was)) as GaitSpec, legLength);
      recipe(specs[gaitId] as GaitSpec);
    },
    mark,
  );
}

/** A gait as it is seen: fitted to the body in use. */
const seen = (store: DocumentStore, gaitId: string): GaitSpec =>
  fitGait(store.getState().specs[gaitId] as GaitSpec, bodyOf(bodySpecOf(store.getState())).legLength);

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
  editGait(
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

/** Sets when limbs begin their round, all as one step. */
export function setPhases(
  store: DocumentStore,
  gaitId: string,
  phases: Partial<Record<'leftLeg' | 'rightLeg' | 'leftArm' | 'rightArm', number>>,
  mark: string,
): void {
  editGait(store, gaitId, Object.keys(phases).join(' and '), (gait) => void Object.assign(gait.timing, phases), mark);
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
  editGait(
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
  editGait(store, gaitId, `reset ${entry.path}`, (gait) => writeValue(gait, entry, typeof value === 'number' ? value : copyChannel(value), side));
}

/** Gives the right side a value of its own, or joins it to the left again. */
export function setSplit(store: DocumentStore, gaitId: string, entry: ParameterEntry, split: boolean): void {
  editGait(store, gaitId, split ? `split ${entry.path}` : `join ${entry.path}`, (gait) => {
    if (!split) delete gait.right[entry.path];
    else if (!isSplit(gait, entry.path)) {
      const value = readValue(gait, entry);
      gait.right[entry.path] = typeof value === 'number' ? value : (JSON.parse(JSON.stringify(value)) as Channel);
    }
  });
}

/**
 * Sets stride length, speed or stride time; the one that is neither edited nor held follows. A value that would drive either
 * out of its range is taken to the nearest that does not. Returns why in words, or null where the value was taken as it is.
 */
export function setTimingValue(store: DocumentStore, gaitId: string, which: Held, value: number, mark: string | null): string | null {
  const gait = seen(store, gaitId);
  const reach = reachableTiming(gait, which);
  const taken = clamp(value, reach.range[0], reach.range[1]);
  const next = setTiming(gait, which, taken).timing;
  for (const k of HELD) next[k] = clamp(next[k], ...PARAMETERS.timing[k].range);
  editGait(store, gaitId, `timing.${which}`, (g) => void Object.assign(g.timing, next), mark);
  return taken === value ? null : limitWords(which, reach, value > taken);
}

export const setHeld = (store: DocumentStore, gaitId: string, held: Held): void => editGait(store, gaitId, 'held', (gait) => void (gait.held = held));

export const setCarry = (store: DocumentStore, gaitId: string, carry: Carry): void => editGait(store, gaitId, 'carry', (gait) => void (gait.carry = carry));

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

/** Puts another body on the walkway. Gaits stay as they are stored and are fitted to it when read. */
export function chooseBody(store: DocumentStore, bodyId: string): void {
  const state = store.getState();
  if (bodyIdOf(state) === bodyId) return;
  editItem<'project'>(store, state.projectId, 'body', (p) => void (p.body = bodyId));
}
