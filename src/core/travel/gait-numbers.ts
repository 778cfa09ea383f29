import { isSplit, parameterAt, readValue, writeValue } from '../gait/access';
import { compileCurve, curveValue, defaultKeys, KEY_SLOPE_RANGE, KEY_VALUE_RANGE, type CurveKey } from '../gait/curve';
import { PARAMETER_LIST, type Channel, type ChannelParameter, type ParameterEntry, type ScalarParameter } from '../gait/parameters';
import type { GaitSpec } from '../gait/spec';
import { structuredCloneGait } from '../gait/timing';
import { clamp, TAU } from '../math/scalar';

/** What a fit may move. Props, follow-through, direction and what no pose of one stride shows stay as they are. */
const FIXED = new Set(['feet.landing', 'head.steadiness', 'head.lookAround', 'head.lookCycles', 'arms.clearance', 'trunk.shoulderLevel']);
const TIMES = new Set(['timing.dutyFactor', 'timing.rightLeg']);
/** What is in another way as soon as it is not 0: it stays 0 where it is. */
const MODES = new Set(['feet.heelUp']);
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
  readonly part: 'value' | 'offset' | 'cos' | 'sin' | 'key';
  /** Which key. */
  readonly key?: number;
  readonly step: number;
}

/** The numbers a fit moves, the right side's own where the gait has them. A channel's amount and delay go as the two parts of its wave. */
export const gaitNumbers = (gait: GaitSpec): GaitNumbers => numbersOf(waveNumbers(gait));

/** The values of the even keys that `withKeys` gives channels; of both sides where the gait has them apart. */
export const keyNumbers = (gait: GaitSpec, paths: readonly string[]): GaitNumbers =>
  numbersOf(
    paths.flatMap((path) => {
      const entry = parameterAt(path)!;
      return (isSplit(gait, path) ? (['left', 'right'] as const) : (['left'] as const)).flatMap((side) =>
        Array.from({ length: EVEN_KEYS }, (_, key): Number => ({ entry, side, part: 'key', key, step: KEY_STEP })),
      );
    }),
  );

/** Keys that a fitted curve has: three waves a stride. */
const EVEN_KEYS = 8;
const KEY_STEP = 0.1;
/** Least amount of a channel that is given keys, a part of its largest. */
const KEYED_AMOUNT = 0.3;

/** The gait with even keys in channels, which do what their waves did. */
export function withKeys(gait: GaitSpec, paths: readonly string[]): GaitSpec {
  const next = structuredCloneGait(gait);
  for (const path of paths) {
    const entry = parameterAt(path)!;
    const p = entry.parameter as ChannelParameter;
    for (const side of isSplit(gait, path) ? (['left', 'right'] as const) : (['left'] as const)) {
      const c = readValue(gait, entry, side) as Channel;
      const pieces = compileCurve(c.curve ?? defaultKeys(p.waves));
      const amount = Math.max(c.amount, KEYED_AMOUNT * p.amount[1]);
      const values = Array.from({ length: EVEN_KEYS }, (_, i) => (c.amount * curveValue(pieces, i / EVEN_KEYS + c.delay)) / amount);
      writeValue(next, entry, { offset: c.offset, amount, delay: 0, curve: evenKeys(values) }, side);
    }
  }
  return next;
}

/** Keys through values with the slopes of their neighbours' chords (Catmull and Rom 1974). */
const evenKeys = (values: readonly number[]): CurveKey[] =>
  values.map((value, i) => {
    const at = (k: number) => values[(k + values.length) % values.length]!;
    return {
      at: i / values.length,
      value: clamp(value, ...KEY_VALUE_RANGE),
      tangent: 'smooth' as const,
      slope: clamp(((at(i + 1) - at(i - 1)) * values.length) / 2, ...KEY_SLOPE_RANGE),
    };
  });

const waveNumbers = (gait: GaitSpec): Number[] =>
  PARAMETER_LIST.filter((e) => (GROUPS.has(e.group) && !FIXED.has(e.path)) || TIMES.has(e.path))
    .filter((e) => !MODES.has(e.path) || readValue(gait, e) !== 0)
    .flatMap((entry) =>
      (isSplit(gait, entry.path) ? (['left', 'right'] as const) : (['left'] as const)).flatMap((side): Number[] =>
        entry.parameter.kind === 'scalar'
          ? [{ entry, side, part: 'value', step: 0.02 * (entry.parameter.range[1] - entry.parameter.range[0]) }]
          : (['offset', 'cos', 'sin'] as const).map((part) => ({ entry, side, part, step: 0.03 * (entry.parameter as ChannelParameter).amount[1] })),
      ),
    );

function numbersOf(numbers: readonly Number[]): GaitNumbers {
  return {
    count: numbers.length,
    steps: Float64Array.from(numbers, (n) => n.step),
    read: (gait) => Float64Array.from(numbers, (n) => readNumber(gait, n)),
    write(gait, x) {
      const next = structuredCloneGait(gait);
      for (let i = 0; i < numbers.length; i++) {
        const { entry, side, part, key } = numbers[i]!;
        if (part === 'value') {
          const [lo, hi] = (entry.parameter as ScalarParameter).range;
          x[i] = clamp(x[i]!, lo, hi);
          writeValue(next, entry, x[i]!, side);
        } else if (part === 'key') {
          x[i] = clamp(x[i]!, ...KEY_VALUE_RANGE);
          // With the last of its keys the whole curve is known.
          if (key !== EVEN_KEYS - 1) continue;
          const curve = evenKeys(Array.from(x.subarray(i - key, i + 1)));
          writeValue(next, entry, { ...(readValue(next, entry, side) as Channel), curve }, side);
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

function readNumber(gait: GaitSpec, { entry, side, part, key }: Number): number {
  const value = readValue(gait, entry, side);
  if (part === 'value') return value as number;
  const c = value as Channel;
  if (part === 'offset') return c.offset;
  if (part === 'key') return c.curve![key!]!.value;
  const angle = c.delay * TAU * wavesOf(c, entry.parameter as ChannelParameter);
  return c.amount * (part === 'cos' ? Math.cos(angle) : Math.sin(angle));
}
