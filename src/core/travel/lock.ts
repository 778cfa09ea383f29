import { JOINT } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize, rotationAt, withAncestors, type Skeleton } from '../body/skeleton';
import type { Clip, ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { createLimbReach, usualHinge, type Limb } from '../clip/limb-reach';
import { lowPass } from '../math/low-pass';
import { multiplyConjugate, rotateFrom } from '../math/quaternion';
import { footSeries, RAW, type FootSeries } from './foot-series';
import { giveWay, type LegAsk } from './give-way';
import { blendShift, holdFoot, SHIFT, turnBy } from './lock-foot';
import type { Hold } from './names';

/** How feet are locked. */
export interface LockOptions {
  readonly hold: Hold;
  /** Longest time (s) over which a foot goes into a lock and out of it. */
  readonly blend: number;
  /** Farthest (part of the leg's length) a locked leg is stretched, where the recording itself does not go farther. */
  readonly reach: number;
  /** The floor's level, m. */
  readonly floor: number;
  /** First frame that belongs to the motion; a rest pose before it is left as it is. */
  readonly first: number;
}

/** Within this (parts of ℓ) of the floor a foot stands on it. */
const NEAR = 0.04;
/** Time (s) inside a contact over which the slope of the lock at its ends is taken. */
const SLOPE_S = 0.03;

/** Feet locked to where they stand: hips' and feet's shifts, found once; poses made as they are asked for. */
export interface Lock {
  /** How the hips move, 3 numbers a picture, m, world. */
  readonly hips: Float64Array;
  /** Contacts as they are held: a foot that has little time to come to its place gets some of theirs. */
  readonly contacts: readonly ClipContact[];
  /** Writes frame f with its feet locked to out[at..]. Frames without a lock near them are the source's, bit for bit. */
  pose(f: number, out: Float64Array, at: number): void;
}

/** Finds the lock of a clip for the contacts it has. */
export function createLock(figure: ClipFigure, contacts: readonly ClipContact[], options: LockOptions): Lock {
  const { clip, feet } = figure;
  const { frames, rate } = clip;
  const series = feet.map((foot) => footSeries(clip, foot, options.first));
  const legs = series.map((s) => {
    const shift = new Float64Array(frames * SHIFT),
      held = new Float64Array(frames);
    const own = contacts
      .filter((c) => c.foot === s.foot.name)
      .map((c) => [Math.max(options.first, Math.ceil(c.from)), Math.min(frames - 1, Math.floor(c.to))] as const);
    const lock = { hold: options.hold, blend: options.blend, floor: options.floor, near: NEAR * figure.legLength };
    const stands = own.map(([a, b]) => holdFoot(s, a, b, lock, rate, shift));
    const kept = blendBetween(stands, shift, held, options, rate, frames);
    return { series: s, shift, held, kept };
  });
  const hips = giveWay(
    frames,
    legs.map((l) => legAsk(clip, l.series, l.shift, l.held)),
    hipsJitter(clip, carrierOf(clip.skeleton, figure.roles), options.first),
    { reach: options.reach, rate },
  );
  const held = legs.flatMap(({ series: { foot }, kept }) => kept.map(([from, to]): ClipContact => ({ foot: foot.name, from, to })));
  return { hips, contacts: held, pose: createLockedPose(figure, legs, hips) };
}

/** A foot is not moved more suddenly than this (m/s²) into a lock: where the way is short, the lock gives some of its time. */
const SUDDEN = 9;
/** Largest second derivative of the way in, times the square of its time, per unit of its length. */
const QUINTIC_PEAK = 5.78;
/** Most of a contact that is given at either end. */
const GIVEN = 0.3;

/**
 * Takes a foot into each contact and out of it, over no more than half of the way to the next; writes how much each picture is
 * held, and returns the contacts as they are held.
 */
function blendBetween(
  own: readonly (readonly [number, number])[],
  shift: Float64Array,
  held: Float64Array,
  { blend, first }: LockOptions,
  rate: number,
  frames: number,
): [number, number][] {
  const longest = Math.max(2, Math.round(blend * rate));
  const inside = Math.max(1, Math.round(SLOPE_S * rate));
  const needed = (f: number) =>
    Math.ceil(rate * Math.sqrt((QUINTIC_PEAK * Math.hypot(shift[f * SHIFT]!, shift[f * SHIFT + 1]!, shift[f * SHIFT + 2]!)) / SUDDEN));
  return own.map(([a, b], i) => {
    const before = a - (i > 0 ? own[i - 1]![1] : first),
      after = (i + 1 < own.length ? own[i + 1]![0] : frames) - b;
    const lead = Math.min(longest, i > 0 ? before >> 1 : before),
      tail = Math.min(longest, i + 1 < own.length ? after >> 1 : after);
    const most = Math.floor(GIVEN * (b - a));
    const from = a === first ? a : a + Math.min(most, Math.max(0, needed(a) - lead)),
      to = b === frames - 1 ? b : b - Math.min(most, Math.max(0, needed(b) - tail));
    blendShift(shift, from, lead + from - a, -1, Math.min(inside, to - from));
    blendShift(shift, to, tail + b - to, 1, Math.min(inside, to - from));
    for (let f = from; f <= to; f++) held[f] = 1;
    for (let k = 1; k < lead + from - a; k++) held[from - k] = Math.max(held[from - k]!, 1 - k / (lead + from - a));
    for (let k = 1; k < tail + b - to && to + k < frames; k++) held[to + k] = Math.max(held[to + k]!, 1 - k / (tail + b - to));
    return [from, to];
  });
}

function legAsk({ skeleton, poses, frames }: Clip, { foot, raw }: FootSeries, shift: Float64Array, held: Float64Array): LegAsk {
  const world = createWorldPose(skeleton);
  const only = withAncestors(skeleton, [foot.ankle]);
  const size = poseSize(skeleton);
  const reach = new Float64Array(frames * 3);
  const length = (a: number, b: number) => Math.hypot(...[0, 1, 2].map((k) => world.positions[a * 3 + k]! - world.positions[b * 3 + k]!));
  let thigh = 0,
    shank = 0;
  for (let f = 0; f < frames; f++) {
    forwardKinematics(skeleton, poses, f * size, world, only);
    for (let k = 0; k < 3; k++) reach[f * 3 + k] = raw[f * RAW + k]! - world.positions[foot.hip * 3 + k]!;
    if (f > 0) continue;
    thigh = length(foot.hip, foot.knee);
    shank = length(foot.knee, foot.ankle);
  }
  return { reach, moved: (f, k) => shift[f * SHIFT + k]!, held, thigh, shank };
}

/** The joint that carries the body: where the hips move, else the root. */
export function carrierOf({ moving }: Skeleton, roles: Int32Array): number {
  const hips = roles[JOINT.hips]!;
  return moving.includes(hips) ? hips : moving[0]!;
}

/** Hz above which the body's way is taken for shaking. */
const STEADY_HZ = 6;

/** What of the body's way is shaking, 3 numbers a picture, m: a foot that stands still has it all in its knee otherwise. */
function hipsJitter({ skeleton, poses, frames, rate }: Clip, carrier: number, first: number): Float64Array {
  const world = createWorldPose(skeleton);
  const only = withAncestors(skeleton, [carrier]);
  const size = poseSize(skeleton);
  const way = new Float64Array(frames * 3);
  for (let f = 0; f < frames; f++) {
    forwardKinematics(skeleton, poses, f * size, world, only);
    for (let k = 0; k < 3; k++) way[f * 3 + k] = world.positions[carrier * 3 + k]!;
  }
  const steady = way.slice();
  for (let k = 0; k < 3; k++) lowPass(steady, first * 3 + k, 3, frames - first, STEADY_HZ, rate);
  for (let i = 0; i < way.length; i++) way[i] = way[i]! - steady[i]!;
  return way;
}

interface LockedLeg {
  readonly series: FootSeries;
  readonly shift: Float64Array;
}

/** Smaller shifts (m, rad) are none. */
const NONE = 1e-12;

function createLockedPose({ clip, roles }: ClipFigure, legs: readonly LockedLeg[], hips: Float64Array): Lock['pose'] {
  const { skeleton, poses } = clip;
  const size = poseSize(skeleton);
  const world = createWorldPose(skeleton);
  const joints = withAncestors(
    skeleton,
    legs.flatMap(({ series }) => [series.foot.ankle, series.foot.toes]),
  );
  const carrier = carrierOf(skeleton, roles);
  const at3 = skeleton.moving.indexOf(carrier) * 3;
  const limbs = legs.map(({ series: { foot } }): Limb => ({ root: foot.hip, hinge: foot.knee, end: foot.ankle }));
  const looked = (at: number) => {
    forwardKinematics(skeleton, poses, at, world, joints);
    return world;
  };
  const reaches = limbs.map((limb) => createLimbReach(skeleton, limb, usualHinge(skeleton, poses, limb, looked)));
  const target = new Float64Array(3),
    q = new Float64Array(4),
    v = new Float64Array(3);
  return (f, out, at) => {
    for (let k = 0; k < size; k++) out[at + k] = poses[f * size + k]!;
    const moves = Math.abs(hips[f * 3]!) + Math.abs(hips[f * 3 + 1]!) + Math.abs(hips[f * 3 + 2]!) > NONE;
    const shifted = legs.some(({ shift }) => {
      for (let k = f * SHIFT; k < (f + 1) * SHIFT; k++) if (Math.abs(shift[k]!) > NONE) return true;
      return false;
    });
    if (!moves && !shifted) return;
    forwardKinematics(skeleton, out, at, world, joints);
    moveCarrier(skeleton, carrier, at3, world.rotations, hips, f * 3, out, at, v);
    legs.forEach(({ series: { foot, raw }, shift }, i) => {
      forwardKinematics(skeleton, out, at, world, joints);
      for (let k = 0; k < 3; k++) target[k] = raw[f * RAW + k]! + shift[f * SHIFT + k]!;
      reaches[i]!(out, at, world, target, 0);
      forwardKinematics(skeleton, out, at, world, joints);
      turnBy(q, 0, raw, f * RAW + 3, shift, f * SHIFT + 3);
      multiplyConjugate(out, at + rotationAt(skeleton, foot.ankle), world.rotations, skeleton.parents[foot.ankle]! * 4, q, 0);
      if (foot.toes === foot.ankle) return;
      forwardKinematics(skeleton, out, at, world, joints);
      turnBy(q, 0, raw, f * RAW + 7, shift, f * SHIFT + 6);
      multiplyConjugate(out, at + rotationAt(skeleton, foot.toes), world.rotations, skeleton.parents[foot.toes]! * 4, q, 0);
    });
  };
}

/** Moves a joint's translation by a vector of the world at by[i..]. */
export function moveCarrier(
  { parents }: Skeleton,
  joint: number,
  translation: number,
  rotations: Float64Array,
  by: Float64Array,
  i: number,
  out: Float64Array,
  at: number,
  v: Float64Array,
): void {
  const parent = parents[joint]!;
  if (parent >= 0) rotateFrom(v, 0, [-rotations[parent * 4]!, -rotations[parent * 4 + 1]!, -rotations[parent * 4 + 2]!, rotations[parent * 4 + 3]!], 0, by, i);
  else for (let k = 0; k < 3; k++) v[k] = by[i + k]!;
  for (let k = 0; k < 3; k++) out[at + translation + k] = out[at + translation + k]! + v[k]!;
}

/** The whole clip with its feet locked. */
export function lockedClip(clip: Clip, lock: Lock): Clip {
  const size = poseSize(clip.skeleton);
  const poses = new Float64Array(clip.poses.length);
  for (let f = 0; f < clip.frames; f++) lock.pose(f, poses, f * size);
  return { ...clip, poses, contacts: lock.contacts };
}
