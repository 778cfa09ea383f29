import type { Draft } from 'immer';
import { useSyncExternalStore } from 'react';
import type { Role } from '@/core/body/roles';
import type { Layer, LayerKey } from '@/core/travel/layer-spec';
import type { Clock } from '../stage/clock';
import type { ClipOnStage } from './use-clip';

/** Two keys nearer than this (s) are one. */
export const SAME_S = 1e-3;

/** Whether a layer's target is turned alone. */
export const turnsOnly = ({ target }: Layer): boolean => target.startsWith('joint ') || target === 'chest' || target === 'look';

/** The joint a layer's target is seen at. */
export function jointOf({ target }: Layer): Role {
  if (target.startsWith('joint ')) return target.slice(6) as Role;
  return target === 'chest' ? 'upperChest' : target === 'look' ? 'head' : (target as Role);
}

/** The key of a layer at a time; where there is none one is put in with the value that is there. */
export function keyOf(layer: Draft<Layer>, time: number, here: Float64Array): Draft<LayerKey> {
  const found = layer.keys.find((x) => Math.abs(x.at - time) < SAME_S);
  if (found) return found;
  layer.keys.push({ at: time, move: [here[0]!, here[1]!, here[2]!], turn: [here[3]!, here[4]!, here[5]!] });
  layer.keys.sort((a, b) => a.at - b.at);
  return layer.keys.find((x) => x.at === time)!;
}

/** A clip's rate, how long it lasts (s), and whether it loops. */
export function clipSeconds({ answer }: ClipOnStage): { rate: number; duration: number; loop: boolean } {
  const { rate, frames, loop } = answer?.clip ?? { rate: 30, frames: 1, loop: false };
  return { rate, duration: (loop ? frames : Math.max(1, frames - 1)) / rate, loop };
}

/** The playhead's time in a clip, rounded to its pictures. */
export function timeIn({ time }: Clock, rate: number, duration: number, loop: boolean): number {
  const t = loop ? time - Math.floor(time / duration) * duration : Math.min(time, duration);
  return Math.round(t * rate) / rate;
}

/** The same, rendered anew only while the playhead stands still. */
export const useTimeAtRest = (clock: Clock, rate: number, duration: number, loop: boolean): number =>
  useSyncExternalStore(
    (heard) => clock.subscribe(() => !clock.playing && heard()),
    () => timeIn(clock, rate, duration, loop),
    () => 0,
  );
