import { clamp } from '../math/scalar';
import { parameterAt, readValue, writeValue } from './access';
import { copyChannel, HELD, REFERENCE_LEG_M, type GaitSpec } from './spec';
import type { Channel } from './parameters';
import { followWithin, structuredCloneGait } from './timing';

/** One change of a macro: a dotted path of a number and what is added to it at full strength (lengths for 1.72 m bodies). */
export interface MacroChange {
  readonly path: string;
  readonly add: number;
}

/** A named set of channel changes. It does nothing that the channels cannot. */
export interface Macro {
  readonly key: string;
  readonly label: string;
  readonly less: string;
  readonly more: string;
  readonly changes: readonly MacroChange[];
}

const macro = (key: string, label: string, less: string, more: string, changes: Readonly<Record<string, number>>): Macro => ({
  key,
  label,
  less,
  more,
  changes: Object.entries(changes).map(([path, add]) => ({ path, add })),
});

export const MACROS: readonly Macro[] = [
  macro('weight', 'Weight', 'light', 'heavy', {
    'timing.strideTime': 0.14,
    'timing.dutyFactor': 0.03,
    'feet.stepWidth': 0.05,
    'feet.toeOut': 0.08,
    'feet.landing': 0.25,
    'hips.crouch': 0.02,
    'hips.sway': 0.5,
    'trunk.lean.offset': 0.05,
    'trunk.sideLean.amount': 0.03,
    'arms.out.offset': 0.12,
  }),
  macro('energy', 'Energy', 'tired', 'lively', {
    'timing.strideTime': -0.12,
    'timing.strideLength': 0.12,
    'feet.lift': 0.03,
    'hips.rise.amount': 0.008,
    'hips.turn.amount': 0.03,
    'trunk.lean.offset': -0.05,
    'trunk.counterTurn.amount': 0.06,
    'arms.swing.amount': 0.22,
    'arms.elbow.offset': 0.2,
    'head.nod.offset': -0.08,
  }),
  macro('age', 'Age', 'young', 'old', {
    'timing.strideLength': -0.34,
    'timing.strideTime': 0.08,
    'timing.dutyFactor': 0.05,
    'feet.landingPitch': -0.16,
    'feet.liftOffPitch': -0.3,
    'feet.clearance': -0.005,
    'hips.crouch': 0.035,
    'hips.rise.amount': -0.008,
    'trunk.lean.offset': 0.2,
    'trunk.bend.offset': 0.22,
    'arms.swing.amount': -0.16,
    'arms.elbow.offset': 0.35,
    'head.nod.offset': -0.12,
    'head.steadiness': -0.15,
  }),
  macro('caution', 'Caution', 'careless', 'careful', {
    'timing.strideTime': 0.3,
    'timing.dutyFactor': 0.05,
    'feet.lift': 0.05,
    'feet.landingPitch': -0.3,
    'hips.crouch': 0.05,
    'trunk.lean.offset': 0.14,
    'arms.swing.amount': -0.15,
    'arms.out.offset': 0.12,
    'arms.elbow.offset': 0.5,
  }),
  macro('pride', 'Pride', 'humble', 'proud', {
    'feet.toeOut': 0.08,
    'feet.lift': 0.02,
    'hips.crouch': -0.01,
    'hips.tilt.offset': -0.05,
    'trunk.lean.offset': -0.1,
    'trunk.bend.offset': -0.12,
    'arms.swing.amount': 0.12,
    'arms.out.offset': 0.08,
    'head.nod.offset': -0.1,
  }),
];

/** Splits a macro's path into the table entry and, for a channel, the part of it. */
function targetOf(path: string) {
  const direct = parameterAt(path);
  if (direct) return { entry: direct, part: null };
  const dot = path.lastIndexOf('.');
  const entry = parameterAt(path.slice(0, dot));
  if (!entry) throw new RangeError(`macro: no parameter ${path}`);
  return { entry, part: path.slice(dot + 1) as 'offset' | 'amount' };
}

/** Lays the chosen changes of a macro over a gait, `strength` times (−1 … 1). Values stay in their ranges. */
export function applyMacro(gait: GaitSpec, changes: readonly MacroChange[], strength: number, sizes = gait.legLength / REFERENCE_LEG_M): GaitSpec {
  const next = structuredCloneGait(gait);
  for (const { path, add } of changes) {
    const { entry, part } = targetOf(path);
    const { parameter: p } = entry;
    const k = p.scales === 'length' ? sizes : p.scales === 'rate' ? 1 / Math.sqrt(sizes) : p.scales ? Math.sqrt(sizes) : 1;
    const value = readValue(next, entry);
    if (p.kind === 'scalar') writeValue(next, entry, clamp((value as number) + add * strength * k, ...p.range));
    else if (part) {
      const channel = copyChannel(value as Channel);
      channel[part] = clamp(channel[part] + add * strength * k, ...p[part]);
      writeValue(next, entry, channel);
    }
  }
  if (changes.some((c) => HELD.some((h) => c.path === `timing.${h}`))) followWithin(next.timing);
  return next;
}

/** Label and part of a change, as a person reads it. */
export function describeChange({ path }: MacroChange): { label: string; part: string | null; unit: string } {
  const { entry, part } = targetOf(path);
  return { label: entry.parameter.label, part: part === 'offset' ? 'around' : part, unit: entry.parameter.unit };
}
