import { clamp, lerp, wrapPhase } from '../math/scalar';
import { isSplit, readValue, writeValue } from './access';
import { compileCurve, curveValue, defaultKeys, KEY_GAP, type CurveKey } from './curve';
import { DELAY_RANGE, PARAMETER_LIST, type Channel, type ChannelParameter, type ParameterEntry } from './parameters';
import { copyChannel, type GaitSpec } from './spec';
import { followWithin, structuredCloneGait } from './timing';

/** Even keys that a mixed curve gets besides those of the two curves it is mixed from. */
const EVEN_KEYS = 12;

/**
 * A gait between two others for the same legs: 0 is `a`, 1 is `b`; below and above it goes on, within the parameters'
 * ranges. Every number goes over evenly, phases the shorter way round, curves as what they do to the figure.
 */
export function mixGaits(a: GaitSpec, b: GaitSpec, u: number): GaitSpec {
  if (u === 0) return structuredCloneGait(a);
  const near = u < 0.5 ? a : b;
  const next = structuredCloneGait(near);
  next.name = a.name;
  next.about = a.about;
  next.tags = [...a.tags];
  next.right = {};
  for (const entry of PARAMETER_LIST) {
    const { path } = entry;
    writeValue(next, entry, mixValue(entry, readValue(a, entry), readValue(b, entry), u));
    if (isSplit(a, path) || isSplit(b, path)) next.right[path] = mixValue(entry, readValue(a, entry, 'right'), readValue(b, entry, 'right'), u);
  }
  followWithin(next.timing);
  return next;
}

function mixValue({ parameter: p }: ParameterEntry, a: number | Channel, b: number | Channel, u: number): number | Channel {
  if (p.kind === 'channel') return mixChannels(p, a as Channel, b as Channel, u);
  const mixed = p.unit === 'phase' ? wrapPhase(circular(a as number, b as number, u)) : lerp(a as number, b as number, u);
  return clamp(p.unit === 'count' ? Math.round(mixed) : mixed, ...p.range);
}

/** From a towards b the shorter way round a circle of 1. */
const circular = (a: number, b: number, u: number): number => a + u * (wrapPhase(b - a + 0.5) - 0.5);

function mixChannels(p: ChannelParameter, a: Channel, b: Channel, u: number): Channel {
  const offset = clamp(lerp(a.offset, b.offset, u), ...p.offset);
  const amount = clamp(lerp(a.amount, b.amount, u), ...p.amount);
  // A wave of no amount has no say in shape and delay.
  if (b.amount === 0) return { ...copyChannel(a), offset, amount };
  if (a.amount === 0) return { ...copyChannel(b), offset, amount };
  if (!a.curve && !b.curve) return { offset, amount, delay: clamp(wrapPhase(circular(a.delay, b.delay, u) + 0.5) - 0.5, ...DELAY_RANGE) };
  return { offset, amount, delay: 0, curve: mixCurves(p.waves, a, b, u) };
}

/** Keys of the shape between two channels' waves, each weighed by its amount. */
function mixCurves(waves: 1 | 2, a: Channel, b: Channel, u: number): CurveKey[] {
  const keysOf = (c: Channel) => c.curve ?? defaultKeys(waves);
  const shape = (c: Channel) => {
    const pieces = compileCurve(keysOf(c));
    return (phase: number) => c.amount * curveValue(pieces, phase + c.delay);
  };
  const [fa, fb] = [shape(a), shape(b)];
  const amount = lerp(a.amount, b.amount, u) || 1;
  const wanted = [a, b].flatMap((c) => keysOf(c).map((k) => wrapPhase(k.at - c.delay)));
  for (let i = 0; i < EVEN_KEYS; i++) wanted.push(i / EVEN_KEYS);
  const apart: number[] = [];
  for (const at of wanted.sort((x, y) => x - y)) if (apart.length === 0 || at - apart[apart.length - 1]! >= 2 * KEY_GAP) apart.push(at);
  if (apart.length > 1 && apart[0]! + 1 - apart[apart.length - 1]! < 2 * KEY_GAP) apart.pop();
  return apart.map((at) => ({ at, value: clamp(lerp(fa(at), fb(at), u) / amount, -2, 2), tangent: 'smooth' as const }));
}

/**
 * The gait moved by the difference between two others, number by number: how a walk of one's own is taken towards a run
 * without losing what makes it one's own. Values stay in their ranges; curves change only where they were `from`'s.
 */
export function shiftGait(gait: GaitSpec, from: GaitSpec, to: GaitSpec): GaitSpec {
  const next = structuredCloneGait(gait);
  for (const entry of PARAMETER_LIST)
    for (const side of isSplit(gait, entry.path) ? (['left', 'right'] as const) : (['left'] as const))
      writeValue(next, entry, shiftValue(entry, readValue(gait, entry, side), readValue(from, entry, side), readValue(to, entry, side)), side);
  followWithin(next.timing);
  return next;
}

function shiftValue({ parameter: p }: ParameterEntry, own: number | Channel, from: number | Channel, to: number | Channel): number | Channel {
  if (p.kind === 'scalar') {
    const moved = (own as number) + (to as number) - (from as number);
    if (p.unit === 'phase') return wrapPhase(moved);
    return clamp(p.unit === 'count' ? Math.round(moved) : moved, ...p.range);
  }
  const [o, f, t] = [own as Channel, from as Channel, to as Channel];
  const same = JSON.stringify(o.curve) === JSON.stringify(f.curve);
  const shaped = same ? copyChannel(t) : copyChannel(o);
  const delay = same ? o.delay + circularStep(f.delay, t.delay) : o.delay;
  return {
    ...shaped,
    offset: clamp(o.offset + t.offset - f.offset, ...p.offset),
    amount: clamp(o.amount + t.amount - f.amount, ...p.amount),
    delay: clamp(wrapPhase(delay + 0.5) - 0.5, ...DELAY_RANGE),
  };
}

const circularStep = (from: number, to: number): number => wrapPhase(to - from + 0.5) - 0.5;
