import { readValue, writeValue } from '../gait/access';
import { PARAMETER_LIST, type Channel, type ChannelParameter, type ParameterEntry, type ScalarParameter } from '../gait/parameters';
import type { GaitSpec } from '../gait/spec';
import { structuredCloneGait } from '../gait/timing';
import { clamp, TAU } from '../math/scalar';

/** What a fit may move. Props, follow-through, direction and what no pose of one stride shows stay as they are. */
const FIXED = new Set(['feet.landing', 'hips.sway', 'head.steadiness', 'head.lookAround', 'head.lookCycles', 'arms.clearance', 'trunk.shoulderLevel']);
const GROUPS = new Set(['feet', 'hips', 'legs', 'trunk', 'arms', 'head']);

/** Some numbers of a gait as a vector: how they are read, written, and how far one step of each is. */
export interface GaitNumbers {
  readonly count: number;
  /** A step of each that a motion shows about alike. */
  readonly steps: Float64Array;
  read(gait: GaitSpec): Float64Array;
  /** The gait with these numbers, within their ranges; the numbers are brought within them, too. */
  write(gait: GaitSpec, x: Float64Array): GaitSpec;
}

interface Number {
  readonly entry: ParameterEntry;
  readonly side: 'left' | 'right';
  readonly part: 'value' | 'offset' | 'cos' | 'sin';
  readonly step: number;
}

/** The numbers a fit moves; with `split` the right side's own, too. A channel's amount and delay go as the two parts of its wave. */
export function gaitNumbers(split: boolean): GaitNumbers {
  const numbers = PARAMETER_LIST.filter((e) => (GROUPS.has(e.group) && !FIXED.has(e.path)) || e.path === 'timing.dutyFactor').flatMap((entry) =>
    (split && entry.parameter.perSide ? (['left', 'right'] as const) : (['left'] as const)).flatMap((side): Number[] =>
      entry.parameter.kind === 'scalar'
        ? [{ entry, side, part: 'value', step: 0.02 * (entry.parameter.range[1] - entry.parameter.range[0]) }]
        : (['offset', 'cos', 'sin'] as const).map((part) => ({ entry, side, part, step: 0.03 * (entry.parameter as ChannelParameter).amount[1] })),
    ),
  );
  return {
    count: numbers.length,
    steps: Float64Array.from(numbers, (n) => n.step),
    read: (gait) => Float64Array.from(numbers, (n) => readNumber(gait, n)),
    write(gait, x) {
      const next = structuredCloneGait(gait);
      for (let i = 0; i < numbers.length; i++) {
        const { entry, side, part } = numbers[i]!;
        if (part === 'value') {
          const [lo, hi] = (entry.parameter as ScalarParameter).range;
          x[i] = clamp(x[i]!, lo, hi);
          writeValue(next, entry, x[i]!, side);
        } else if (part === 'offset') {
          const p = entry.parameter as ChannelParameter;
          const c = readValue(next, entry, side) as Channel;
          x[i] = clamp(x[i]!, ...p.offset);
          const amount = Math.hypot(x[i + 1]!, x[i + 2]!);
          const down = amount > p.amount[1] ? p.amount[1] / amount : 1;
          x[i + 1] = x[i + 1]! * down;
          x[i + 2] = x[i + 2]! * down;
          writeValue(
            next,
            entry,
            { ...c, offset: x[i]!, amount: amount * down, delay: amount > 0 ? Math.atan2(x[i + 2]!, x[i + 1]!) / TAU / wavesOf(c, p) : c.delay },
            side,
          );
        }
      }
      return next;
    },
  };
}

/** A curve through keys repeats once a stride, a plain wave as often as its channel says. */
const wavesOf = (c: Channel, p: ChannelParameter): number => (c.curve ? 1 : p.waves);

function readNumber(gait: GaitSpec, { entry, side, part }: Number): number {
  const value = readValue(gait, entry, side);
  if (part === 'value') return value as number;
  const c = value as Channel;
  if (part === 'offset') return c.offset;
  const angle = c.delay * TAU * wavesOf(c, entry.parameter as ChannelParameter);
  return c.amount * (part === 'cos' ? Math.cos(angle) : Math.sin(angle));
}
