import { finish } from '../math/finish';
import type { ClipContact } from '../clip/clip';
import { GRAVITY } from '../math/scalar';
import { jointsAt, TRACE_MARGIN, type ClipTrace } from '../travel/trace';
import { centreOfMassHeight } from '../body/centre-of-mass';

/** Measures of a whole clip at its frames. */
export interface BodyMeasures {
  /** Deepest sole point under the ground, mm. */
  readonly sinkMm: number;
  /** Largest height of a standing foot's lowest point over the ground, mm. */
  readonly floatMm: number;
  /** Largest hip-ankle distance as part of the leg's length. */
  readonly stretch: number;
  /** Largest angular acceleration of a knee, rad/s². */
  readonly kneeSnap: number;
  /** Largest linear acceleration of any joint, m/s², and which joint has it. */
  readonly acceleration: { readonly mps2: number; readonly joint: string };
  /** Least and largest vertical acceleration of the hips (the legs' common parent), m/s². */
  readonly hipsAcceleration: readonly [number, number];
  /** Least and largest vertical load, as parts of the weight; null for a skeleton without the roles it takes. */
  readonly load: readonly [number, number] | null;
}

/** Measures a traced clip; level ground at height `ground` (m). Accelerations are central second differences of frames. */
export function measureBody(trace: ClipTrace, contacts: readonly ClipContact[], ground = 0): BodyMeasures {
  return finish(measuringBody(trace, contacts, ground));
}

/** The same bit by bit. */
export function* measuringBody(trace: ClipTrace, contacts: readonly ClipContact[], ground: number): Generator<undefined, BodyMeasures> {
  const { clip, soles } = trace;
  const stands = soles.map(({ foot }) => contacts.filter((c) => c.foot === foot.name));
  let sink = 0,
    float = 0,
    stretch = 0,
    snap = 0;
  for (const [i, { foot, lowest }] of soles.entries()) {
    for (let f = -1; f <= clip.frames; f++) {
      const height = lowest[f + TRACE_MARGIN]! - ground;
      sink = Math.max(sink, -height);
      if (height > float && stands[i]!.some((c) => f >= c.from && f <= c.to)) float = height;
      stretch = Math.max(stretch, legStretch(trace, f, foot));
    }
    yield undefined;
    snap = secondDifferences(trace, (f) => kneeBend(trace, f, foot)).reduce((most, v) => Math.max(most, Math.abs(v)), snap);
    yield undefined;
  }
  const hips = soles[0] ? clip.skeleton.parents[soles[0].foot.hip]! : 0;
  const heights = secondDifferences(trace, (f) => trace.positions[jointsAt(trace, f) + Math.max(0, hips) * 3 + 1]!);
  yield undefined;
  const com = centreOfMassHeight(clip.skeleton);
  const loads = com ? secondDifferences(trace, (f) => com(trace.positions, jointsAt(trace, f))).map((a) => 1 + a / GRAVITY) : null;
  yield undefined;
  return {
    sinkMm: sink * 1000,
    floatMm: float * 1000,
    stretch,
    kneeSnap: snap,
    acceleration: largestAcceleration(trace),
    hipsAcceleration: span(heights),
    load: loads && loads.length > 0 ? span(loads) : null,
  };
}

type Leg = { readonly hip: number; readonly knee: number; readonly ankle: number };

function distance({ positions }: ClipTrace, o: number, a: number, b: number): number {
  const x = positions[o + a * 3]! - positions[o + b * 3]!,
    y = positions[o + a * 3 + 1]! - positions[o + b * 3 + 1]!,
    z = positions[o + a * 3 + 2]! - positions[o + b * 3 + 2]!;
  return Math.sqrt(x * x + y * y + z * z);
}

function legStretch(trace: ClipTrace, f: number, { hip, knee, ankle }: Leg): number {
  const o = jointsAt(trace, f);
  return distance(trace, o, hip, ankle) / (distance(trace, o, hip, knee) + distance(trace, o, knee, ankle));
}

/** Bend (rad) of a knee, 0 straight. */
function kneeBend(trace: ClipTrace, f: number, { hip, knee, ankle }: Leg): number {
  const o = jointsAt(trace, f);
  const thigh = distance(trace, o, hip, knee),
    shank = distance(trace, o, knee, ankle),
    whole = distance(trace, o, hip, ankle);
  return Math.PI - Math.acos(Math.min(1, Math.max(-1, (thigh * thigh + shank * shank - whole * whole) / (2 * thigh * shank))));
}

/** Second differences (per s²) of a number at every frame that has neighbours: all of a loop, the inner ones of others. */
function secondDifferences({ clip }: ClipTrace, value: (f: number) => number): number[] {
  const first = clip.loop ? 0 : 1,
    end = clip.loop ? clip.frames : clip.frames - 1;
  const out: number[] = [];
  if (end <= first) return out;
  let [a, b] = [value(first - 1), value(first)];
  for (let f = first; f < end; f++) {
    const c = value(f + 1);
    out.push((c - 2 * b + a) * clip.rate * clip.rate);
    [a, b] = [b, c];
  }
  return out;
}

function span(values: readonly number[]): [number, number] {
  let [lo, hi] = [0, 0];
  values.forEach((v, i) => {
    lo = i === 0 ? v : Math.min(lo, v);
    hi = i === 0 ? v : Math.max(hi, v);
  });
  return [lo, hi];
}

function largestAcceleration(trace: ClipTrace): { mps2: number; joint: string } {
  const { clip, positions } = trace;
  const { names } = clip.skeleton;
  let most = 0,
    joint = names[0] ?? '';
  const first = clip.loop ? 0 : 1,
    end = clip.loop ? clip.frames : clip.frames - 1;
  for (let f = first; f < end; f++) {
    const [a, b, c] = [jointsAt(trace, f - 1), jointsAt(trace, f), jointsAt(trace, f + 1)];
    for (let j = 0; j < names.length; j++) {
      let square = 0;
      for (let k = j * 3; k < j * 3 + 3; k++) square += (positions[c + k]! - 2 * positions[b + k]! + positions[a + k]!) ** 2;
      if (square > most) {
        most = square;
        joint = names[j]!;
      }
    }
  }
  return { mps2: Math.sqrt(most) * clip.rate * clip.rate, joint };
}
