import type { Clip, ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { lowPass } from '../math/low-pass';
import { composePlacement, createPlacement } from '../math/placement';
import { wrapAngle } from '../math/scalar';
import { bodyWay } from './body-way';
import { contactTravel, lackingTravel } from './from-contacts';
import type { TravelKind } from './names';
import { stayingTrack, type Track } from './track';

/** How a kind of travel is found. */
export interface TravelQuery {
  readonly contacts: readonly ClipContact[];
  /** The first frame that belongs to the motion. */
  readonly first: number;
  /** Hz above which a foot's shaking is none of its motion; Infinity where nothing shakes. */
  readonly calm: number;
  /** Hz up to which a smoothed travel follows. */
  readonly smooth: number;
}

/** The ways a clip can travel: its own, and those its feet ask for. */
export interface Travels {
  /** The clip's own way, which is taken out. */
  readonly own: Track;
  of(kind: TravelKind): Track;
}

/** Finds what a clip travels and what its feet say it should; each kind when it is asked for. */
export function travelsOf(figure: ClipFigure, query: TravelQuery): Travels {
  const own = bodyWay(figure, query.first);
  let found: { measured: Track; weights: Float64Array } | null = null;
  const measured = () => {
    if (!found) {
      const lacking = lackingTravel(figure, query.contacts, query);
      found = { measured: contactTravel(figure, own, lacking, query.first), weights: lacking.weights };
    }
    return found;
  };
  return {
    own,
    of(kind) {
      if (kind === 'asIs') return own;
      if (kind === 'none') return stayingTrack(own);
      if (kind === 'contacts') return measured().measured;
      if (kind === 'constant') return constantTravel(measured().measured, measured().weights, figure.clip, query.first);
      return smoothedTravel(measured().measured, query.smooth, figure.clip, query.first);
    },
  };
}

/** A turn of less than this (rad) over a whole clip is the unevenness of its steps. */
const NO_TURN = 0.09;

/**
 * One velocity for the whole clip, seen from the body, and one turn rate: the mean of what standing feet ask for, which is the
 * least-squares answer for even weights. A turn that is no more than unevenness is none, and the way then straight.
 */
function constantTravel({ places, round }: Track, weights: Float64Array, { frames, loop }: Clip, first: number): Track {
  const last = loop ? frames : frames - 1;
  const yawAt = (f: number) => (f < frames ? places[f * 4 + 3]! : places[3]! + round[3]!);
  const whole = yawAt(last) - yawAt(first);
  const turn = Math.abs(whole) < NO_TURN ? 0 : whole / (last - first);
  let [vx, vz, sum] = [0, 0, 0];
  const next = createPlacement();
  composePlacement(next, 0, round, 0, places, 0);
  for (let f = first; f < last; f++) {
    const to = f + 1 < frames ? places.subarray((f + 1) * 4, (f + 1) * 4 + 4) : next;
    const w = weights[f]!;
    // Seen from the even heading, half way.
    const yaw = turn === 0 ? 0 : turn * (f + 0.5 - first);
    const [s, c] = [Math.sin(yaw), Math.cos(yaw)];
    const dx = to[0]! - places[f * 4]!,
      dz = to[2]! - places[f * 4 + 2]!;
    vx += w * (c * dx - s * dz);
    vz += w * (s * dx + c * dz);
    sum += w;
  }
  if (sum > 0) [vx, vz] = [vx / sum, vz / sum];
  const even = places.slice();
  const at = createPlacement(places[first * 4], 0, places[first * 4 + 2], 0);
  for (let f = first; f <= last; f++) {
    if (f > first) {
      const yaw = turn * (f - 0.5 - first);
      const [s, c] = [Math.sin(yaw), Math.cos(yaw)];
      at[0] = at[0]! + c * vx + s * vz;
      at[2] = at[2]! - s * vx + c * vz;
    }
    at[3] = turn * (f - first);
    if (f < frames) even.set([at[0]!, places[f * 4 + 1]!, at[2]!, yawAt(first) + at[3]], f * 4);
  }
  const gone = createPlacement();
  if (loop) {
    // What one round adds, seen from the world: the end's placement after the start's was undone.
    const [s, c] = [Math.sin(at[3]!), Math.cos(at[3]!)];
    const [x, z] = [even[0]!, even[2]!];
    gone.set([at[0]! - (c * x + s * z), round[1]!, at[2]! - (-s * x + c * z), at[3]!]);
  }
  return { places: even, round: gone };
}

function smoothedTravel({ places, round }: Track, hz: number, { frames, rate, loop }: Clip, first: number): Track {
  const smooth = places.slice();
  if (!loop) for (const k of [0, 2, 3]) lowPass(smooth, first * 4 + k, 4, frames - first, hz, rate);
  return { places: smooth, round };
}

/**
 * A travel of the same shape whose distance is `distance` (m, along its own way; below 0 backwards): each step by the same part
 * longer, so that who stands still goes on standing. One that goes nowhere goes evenly along its heading.
 */
export function stretchedTo(track: Track, distance: number, { frames, loop }: Clip, first: number): Track {
  const { places, round } = track;
  const steps = stepsOf(track, frames, loop, first);
  const length = lengthOf(steps);
  const goes = length > LEAST_WAY_M;
  const [times, even] = [goes ? distance / length : 0, goes ? 0 : distance / Math.max(1, steps.length / 2)];
  const stretched = places.slice();
  let [x, z] = [places[first * 4]!, places[first * 4 + 2]!];
  for (let i = 0; i * 2 < steps.length; i++) {
    const yaw = places[(first + i) * 4 + 3]!;
    x += times * steps[i * 2]! + even * Math.sin(yaw);
    z += times * steps[i * 2 + 1]! + even * Math.cos(yaw);
    const f = first + i + 1;
    if (f < frames) stretched.set([x, places[f * 4 + 1]!, z], f * 4);
  }
  const whole = round.slice();
  if (loop) {
    // What takes the first place to where the way ends, turned by the round.
    const [s, c] = [Math.sin(round[3]!), Math.cos(round[3]!)];
    const [px, pz] = [stretched[0]!, stretched[2]!];
    whole[0] = x - (c * px + s * pz);
    whole[2] = z - (-s * px + c * pz);
  }
  return { places: stretched, round: whole };
}

/** A shorter way (m) has no direction. */
const LEAST_WAY_M = 1e-4;

/** A travel's steps from picture to picture, x and z; a loop's last one leads to the first place of its next round. */
function stepsOf({ places, round }: Track, frames: number, loop: boolean, first: number): Float64Array {
  const count = Math.max(0, (loop ? frames : frames - 1) - first);
  const steps = new Float64Array(count * 2);
  const next = createPlacement();
  if (loop) composePlacement(next, 0, round, 0, places, first * 4);
  for (let i = 0; i < count; i++) {
    const [a, b] = [(first + i) * 4, (first + i + 1) * 4];
    const [x, z] = first + i + 1 < frames ? [places[b]!, places[b + 2]!] : [next[0]!, next[2]!];
    steps.set([x - places[a]!, z - places[a + 2]!], i * 2);
  }
  return steps;
}

function lengthOf(steps: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < steps.length; i += 2) sum += Math.hypot(steps[i]!, steps[i + 1]!);
  return sum;
}

/**
 * What a travel amounts to: its distance (m, along its way), its displacement (m, from start to end as the crow flies) and the
 * direction of that against the first heading (rad, left positive), mean speed (m/s, along the way), turn (rad) and turn rate.
 */
export interface TravelFacts {
  readonly distance: number;
  readonly displacement: number;
  readonly speed: number;
  readonly direction: number;
  readonly turn: number;
  readonly turnRate: number;
}

/** Measures a travel over a clip, or over one round of a loop. */
export function travelFacts(track: Track, { frames, rate, loop }: Pick<Clip, 'frames' | 'rate' | 'loop'>, first: number): TravelFacts {
  const { places, round } = track;
  const steps = stepsOf(track, frames, loop, first);
  let [x, z] = [0, 0];
  for (let i = 0; i < steps.length; i += 2) {
    x += steps[i]!;
    z += steps[i + 1]!;
  }
  const seconds = Math.max(1, steps.length / 2) / rate;
  const distance = lengthOf(steps),
    displacement = Math.hypot(x, z);
  const turn = loop ? round[3]! : places[(frames - 1) * 4 + 3]! - places[first * 4 + 3]!;
  const direction = displacement > LEAST_WAY_M ? wrapAngle(Math.atan2(x, z) - places[first * 4 + 3]!) : 0;
  return { distance, displacement, speed: distance / seconds, direction, turn, turnRate: turn / seconds };
}
