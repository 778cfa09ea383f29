import { wrapPhase } from '../math/scalar';

/** How a curve leaves a key: rounded without overshoot, level, straight to the next key, or held until just before it. */
export const TANGENTS = ['smooth', 'flat', 'linear', 'held'] as const;
export type Tangent = (typeof TANGENTS)[number];

/** A key of a channel's curve: part of the stride in [0, 1), value in amounts, and how the curve leaves it. */
export interface CurveKey {
  at: number;
  value: number;
  tangent: Tangent;
  /** Slope at a smooth or flat key, amounts per stride, where a person set one of their own. It may take the curve past its keys. */
  slope?: number | undefined;
}

/** Range of a key's slope, amounts per stride. */
export const KEY_SLOPE_RANGE = [-30, 30] as const;
/** Range of a key's value; 1 is the channel's whole amount. */
export const KEY_VALUE_RANGE = [-2, 2] as const;
export const MOST_KEYS = 32;
/** Keys of one curve stay this far apart, parts of the stride. */
export const KEY_GAP = 0.005;
/** Corners and holds are eased over at most this part of the stride, so that every curve is C1. */
const CORNER = 0.012;
const HOLD_EASE = 0.03;

/** A compiled curve: pieces of 5 numbers, start phase and the cubic's c0..c3 in (phase − start). */
export interface CurvePieces {
  readonly data: Float64Array;
  readonly count: number;
}
export const PIECE = 5;

interface Segment {
  from: number;
  readonly to: number;
  readonly c: readonly [number, number, number, number];
}

/** Cubic in x = phase − from through values and slopes (per stride) at both ends. */
function hermite(from: number, to: number, p0: number, m0: number, p1: number, m1: number): Segment {
  const h = to - from,
    d = (p1 - p0) / h;
  return { from, to, c: [p0, m0, (3 * d - 2 * m0 - m1) / h, (m0 + m1 - 2 * d) / (h * h)] };
}

const valueAt = ({ from, c }: Segment, p: number): number => {
  const x = p - from;
  return c[0] + x * (c[1] + x * (c[2] + x * c[3]));
};
const slopeAt = ({ from, c }: Segment, p: number): number => {
  const x = p - from;
  return c[1] + x * (2 * c[2] + x * 3 * c[3]);
};

/** Slope at a smooth key: weighted harmonic mean of its neighbours' chords. Source: Fritsch & Butland 1984. */
function smoothSlope(h0: number, d0: number, h1: number, d1: number): number {
  if (!(d0 * d1 > 0)) return 0;
  const w0 = 2 * h1 + h0,
    w1 = h1 + 2 * h0;
  return (w0 + w1) / (w0 / d0 + w1 / d1);
}

/** A slope as far as a cubic along `chord` may have it at an end without passing that end: same sign, at most three chords. */
const inside = (slope: number, chord: number): number => (slope * chord > 0 ? Math.sign(slope) * Math.min(Math.abs(slope), 3 * Math.abs(chord)) : 0);

/**
 * Prepares a periodic curve through keys (any order, phases in [0, 1)): C1 everywhere, the seam included, and not past
 * its keys (by at most a thousandth where a corner is rounded). Straight corners and the ends of holds are eased over a few hundredths of the stride. Needs at least one key.
 */
export function compileCurve(keys: readonly CurveKey[]): CurvePieces {
  if (keys.length === 0) throw new RangeError('compileCurve: a curve needs at least one key');
  const k = [...keys].sort((a, b) => a.at - b.at);
  const n = k.length;
  if (n === 1) return { data: Float64Array.of(k[0]!.at, k[0]!.value, 0, 0, 0), count: 1 };
  const at = (i: number) => k[((i % n) + n) % n]!;
  const gap = (i: number) => wrapPhase(at(i + 1).at - at(i).at) || 1;
  const chord = (i: number) => (at(i + 1).value - at(i).value) / gap(i);
  const own = (i: number): number => {
    const { tangent } = at(i);
    if (tangent === 'linear') return chord(i);
    if (tangent !== 'held' && at(i).slope !== undefined) return at(i).slope!;
    if (tangent !== 'smooth' || at(i - 1).tangent === 'held') return 0;
    if (at(i - 1).tangent === 'linear') return inside(chord(i - 1), chord(i));
    return smoothSlope(gap(i - 1), chord(i - 1), gap(i), chord(i));
  };
  // A slope a person set is kept from both sides; any other is held back where it would take the curve past the key.
  const set = (i: number) => at(i).slope !== undefined && at(i).tangent !== 'linear' && at(i).tangent !== 'held';
  const end = (i: number, along: number) => (set(i) ? at(i).slope! : inside(own(i), along));
  const segments: Segment[] = [];
  for (let i = 0; i < n; i++) {
    const from = k[i]!.at,
      to = from + gap(i);
    if (k[i]!.tangent === 'held') {
      const ease = to - Math.min(HOLD_EASE, gap(i) / 2);
      const climb = (at(i + 1).value - k[i]!.value) / (to - ease);
      segments.push({ from, to: ease, c: [k[i]!.value, 0, 0, 0] }, hermite(ease, to, k[i]!.value, 0, at(i + 1).value, end(i + 1, climb)));
    } else segments.push(hermite(from, to, k[i]!.value, own(i), at(i + 1).value, k[i]!.tangent === 'linear' ? chord(i) : end(i + 1, chord(i))));
  }
  return flatten(roundCorners(segments));
}

/** Replaces what lies around a corner by a cubic with the slopes on both of its sides. */
function roundCorners(segments: readonly Segment[]): Segment[] {
  const n = segments.length;
  const corner = segments.map((s, i) => Math.abs(slopeAt(segments[(i + n - 1) % n]!, segments[(i + n - 1) % n]!.to) - s.c[1]) > 1e-9);
  // Equally far to both sides: between straight pieces the blend then is a parabola, which passes neither.
  const reach = (i: number) => {
    const short = (s: Segment) => (s.to - s.from) / 3;
    return Math.min(CORNER, short(segments[(i + n - 1) % n]!), short(segments[i % n]!));
  };
  return segments.flatMap((s, i) => {
    const next = segments[(i + 1) % n]!;
    const start = corner[i] ? s.from + reach(i) : s.from;
    const last = corner[(i + 1) % n]!;
    const r = reach(i + 1);
    const end = last ? s.to - r : s.to;
    const c = [valueAt(s, start), slopeAt(s, start), s.c[2] + 3 * s.c[3] * (start - s.from), s.c[3]] as const;
    const kept: Segment = { from: start, to: end, c };
    if (!last) return [kept];
    return [kept, hermite(end, s.to + r, valueAt(s, end), slopeAt(s, end), valueAt(next, next.from + r), slopeAt(next, next.from + r))];
  });
}

function flatten(segments: readonly Segment[]): CurvePieces {
  const data = new Float64Array(segments.length * PIECE);
  // Ascending from the first start; a start may lie past 1 only at the seam, where it is brought back.
  const sorted = segments.map((s) => ({ ...s, from: wrapPhase(s.from) })).sort((a, b) => a.from - b.from);
  sorted.forEach((s, i) => data.set([s.from, ...s.c], i * PIECE));
  return { data, count: sorted.length };
}

/** Index of the piece under a phase in [0, 1): the last one before the first piece's start. */
export function curvePieceAt({ data, count }: CurvePieces, phase: number): number {
  let i = count - 1;
  if (phase < data[0]!) return i;
  while (i > 0 && data[i * PIECE]! > phase) i--;
  return i;
}

/** Value of a compiled curve at any phase (strides). */
export function curveValue(pieces: CurvePieces, phase: number): number {
  const p = wrapPhase(phase);
  const o = curvePieceAt(pieces, p) * PIECE;
  const x = wrapPhase(p - pieces.data[o]!);
  return pieces.data[o + 1]! + x * (pieces.data[o + 2]! + x * (pieces.data[o + 3]! + x * pieces.data[o + 4]!));
}

/** Keys of the shape a channel has by itself: a cosine (once), or minus a cosine twice a stride, through its extremes. */
export function defaultKeys(waves: 1 | 2): CurveKey[] {
  const sign = waves === 1 ? 1 : -1;
  return Array.from({ length: 2 * waves }, (_, i) => ({ at: i / (2 * waves), value: i % 2 === 0 ? sign : -sign, tangent: 'flat' as const }));
}

/** The curve moved by a part of the stride. */
export const shiftKeys = (keys: readonly CurveKey[], by: number): CurveKey[] => keys.map((k) => ({ ...k, at: wrapPhase(k.at + by) }));

/** The slope of a key the other way, where it has one of its own. */
const turned = ({ slope }: CurveKey): Pick<CurveKey, 'slope'> => (slope === undefined ? {} : { slope: -slope });

/** The curve run backwards; what a key leaves towards is what it was reached from, so tangents move on by one key. */
export function reverseKeys(keys: readonly CurveKey[]): CurveKey[] {
  const k = [...keys].sort((a, b) => a.at - b.at);
  return k
    .map((key, i) => ({ at: wrapPhase(-key.at), value: key.value, tangent: k[(i + k.length - 1) % k.length]!.tangent, ...turned(key) }))
    .sort((a, b) => a.at - b.at);
}

/** The curve upside down. */
export const flipKeys = (keys: readonly CurveKey[]): CurveKey[] => keys.map((k) => ({ ...k, value: -k.value, ...turned(k) }));

/** The first half of the stride repeated in the second: as it is, or upside down (what the other side does). */
export function repeatFirstHalf(keys: readonly CurveKey[], opposite: boolean): CurveKey[] {
  const pieces = compileCurve(keys);
  const half = keys.filter((k) => k.at <= 0.5 - KEY_GAP).slice(0, MOST_KEYS / 2);
  const first = half.length > 0 ? half : [{ at: 0, value: curveValue(pieces, 0), tangent: 'smooth' as const }];
  return [...first, ...first.map((k) => ({ ...k, at: k.at + 0.5, ...(opposite ? { value: -k.value, ...turned(k) } : {}) }))];
}
