import { PARAMETER_LIST, type Channel, type ParameterEntry } from './parameters';
import type { GaitSpec } from './spec';

const BY_PATH = new Map(PARAMETER_LIST.map((e) => [e.path, e]));

/** The table entry of a dotted path, or undefined. */
export const parameterAt = (path: string): ParameterEntry | undefined => BY_PATH.get(path);

type Side = 'left' | 'right';
const groupOf = (gait: GaitSpec, entry: ParameterEntry) => gait[entry.group] as unknown as Record<string, number | Channel>;

/** Whether the right side has a value of its own. */
export const isSplit = (gait: GaitSpec, path: string): boolean => path in gait.right;

/** Value of a parameter; the right side's own where it is split. */
export function readValue(gait: GaitSpec, entry: ParameterEntry, side: Side = 'left'): number | Channel {
  return side === 'right' && isSplit(gait, entry.path) ? gait.right[entry.path]! : groupOf(gait, entry)[entry.key]!;
}

/** Sets a parameter in place; the right side only where it is split, otherwise both. */
export function writeValue(gait: GaitSpec, entry: ParameterEntry, value: number | Channel, side: Side = 'left'): void {
  if (side === 'right' && isSplit(gait, entry.path)) gait.right[entry.path] = value;
  else groupOf(gait, entry)[entry.key] = value;
}
