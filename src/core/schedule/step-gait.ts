import type { Side } from '../body/roles';
import { beatsOf, stepsOf, type Beat, type StepBeats } from '../gait/beats';
import { mixGaits } from '../gait/mix';
import { sidedGait, type SidedGait } from '../gait/sides';
import type { GaitSpec } from '../gait/spec';
import { smoothstep, wrapPhase } from '../math/scalar';
import { mergeIntervals } from './flight';
import { swingStyle, type SwingStyle } from './foothold';
import type { GaitTrack } from './gait-track';

/** Phases closer than this are the same. */
const SAME_PHASE = 1e-6;
/** Parts of a mix that are told apart. */
const MIX_PARTS = 64;

/** A gait as steps of a walk take it. Times in s, lengths in m. */
export interface StepGait {
  readonly spec: GaitSpec;
  readonly sided: SidedGait;
  /** The stride's steps in order. */
  readonly steps: readonly StepBeats[];
  readonly strideTime: number;
  readonly strideLength: number;
  readonly speed: number;
  /** Whether it leaves the ground. */
  readonly flies: boolean;
  readonly swings: readonly [SwingStyle, SwingStyle];
  /** Part of the stride for which each side's foot is in the air. */
  readonly airborne: readonly [number, number];
}

function stepGait(gait: GaitSpec): StepGait {
  const sided = sidedGait(gait);
  const { strideTime, strideLength, speed } = sided.gait.timing;
  const beats = beatsOf(sided);
  return {
    spec: gait,
    sided,
    steps: stepsOf(beats),
    strideTime,
    strideLength,
    speed,
    flies: mergeIntervals([-1, 0, 1].flatMap((k) => beats.map((b) => ({ from: b.start + k, to: b.start + b.duration + k })))).length > 1,
    swings: [swingStyle(sided.sides[0], strideLength), swingStyle(sided.sides[1], strideLength)],
    airborne: [swingPart(beats, 0), swingPart(beats, 1)],
  };
}

/** Part of the stride for which a side's foot is in the air between its last contact and its next. */
function swingPart(beats: readonly Beat[], side: Side): number {
  const own = beats.filter((b) => b.side === side);
  const start = own.find((b) => !b.hopped)!.start;
  const end = Math.max(...own.map((b) => (b.hopped && b.start < start ? b.start + 1 : b.start) + b.duration));
  return 1 - (end - start);
}

/** Whether a foot lands more than once a step. */
const hops = ({ steps }: StepGait): boolean => steps.flat().some((b) => b.hopped);

/** A step's gait: from one of the track's to another by a part of the way. */
export interface GaitMix {
  readonly from: number;
  readonly to: number;
  readonly part: number;
}

/** What a step takes of the own gait of the one beside it. */
const BESIDE_PART = 0.5;

/** A step's mix beside one with a gait of its own (or null): half way towards that, where both land their feet alike. */
export function besideOwn(mix: GaitMix, own: number | null, { all, of }: StepGaits): GaitMix {
  const alike = (a: StepGait, b: StepGait) => a.steps.length === b.steps.length && hops(a) === hops(b);
  return own === null || mix.part > 0 || !alike(all[own]!, of(mix)) ? mix : { from: mix.from, to: own, part: BESIDE_PART };
}

/** The gaits of a walk, each made once. */
export interface StepGaits {
  readonly all: readonly StepGait[];
  mixAt(time: number, distance: number): GaitMix;
  of(mix: GaitMix): StepGait;
}

/** `own`: gaits single steps have for themselves; they come behind the track's. */
export function createStepGaits({ over, keys }: GaitTrack, own: readonly GaitSpec[] = []): StepGaits {
  const specs = [...keys.map((k) => k.gait), ...own];
  const all = specs.map(stepGait);
  const mixed = new Map<string, StepGait>();
  return {
    all,
    mixAt(time, distance) {
      const at = over === 'time' ? time : distance;
      let i = keys.length - 1;
      while (i > 0 && keys[i]!.at > at) i--;
      const { at: begins, stretch } = keys[i]!;
      if (i === 0 || at >= begins + stretch) return { from: i, to: i, part: 0 };
      // A gait of another pattern comes at once: there is nothing between two landings and one.
      if (all[i]!.steps.length !== all[i - 1]!.steps.length) return { from: i, to: i, part: 0 };
      // Nor is there between one landing a step and two: it changes half way.
      if (hops(all[i]!) !== hops(all[i - 1]!)) return at < begins + stretch / 2 ? { from: i - 1, to: i - 1, part: 0 } : { from: i, to: i, part: 0 };
      const part = Math.round(smoothstep(begins, begins + stretch, at) * MIX_PARTS) / MIX_PARTS;
      return part === 0 ? { from: i - 1, to: i - 1, part } : part === 1 ? { from: i, to: i, part: 0 } : { from: i - 1, to: i, part };
    },
    of({ from, to, part }) {
      if (part === 0) return all[from]!;
      const key = `${from}:${to}:${part}`;
      const known = mixed.get(key) ?? stepGait(mixGaits(specs[from]!, specs[to]!, part));
      mixed.set(key, known);
      return known;
    },
  };
}

/** Phase of a beat of the step at `index` (any whole number) in a stride's pattern, counted on from the stride in which the walk begins. */
export function phaseOf({ steps }: StepGait, index: number, first: number, beat?: Beat): number {
  const n = steps.length;
  const stride = Math.floor(index / n);
  const lead = steps[index - stride * n]![0]!.start;
  let start = beat?.start ?? lead;
  if (start < lead - SAME_PHASE) start += 1;
  else if (start > lead + 1 - 2 * SAME_PHASE) start -= 1;
  // The first left landing is a whole number of strides, and the walk begins in the stride before it at the earliest.
  return start + stride - (steps[first % n]![0]!.start > 0 ? 1 : 0);
}

/** Landings of the step at `index`, its leading one first. */
export const beatsAt = ({ steps }: StepGait, index: number): StepBeats => steps[((index % steps.length) + steps.length) % steps.length]!;

/** Part of the stride from a beat's lift-off to the next landing, where nothing stands meanwhile; below 0 where the other foot does. 0 for a gait that hops within a step. */
export function airAfter({ steps }: StepGait, beat: Beat): number {
  const all = steps.flat();
  if (all.some((b) => b.hopped)) return 0;
  const next = Math.min(1, ...all.map((b) => wrapPhase(b.start - beat.start)).filter((d) => d > SAME_PHASE));
  return next - beat.duration;
}

/** The pattern's first step that lands `side`. */
export const firstStepOf = ({ steps }: StepGait, side: Side): number => steps.findIndex((s) => s.some((b) => b.side === side));
