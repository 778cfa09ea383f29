import { JOINT } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize, rotationAt, withAncestors, type Skeleton } from '../body/skeleton';
import type { Clip, ClipContact, ContactPart } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { createLimbReach, usualHinge, type Limb } from '../clip/limb-reach';
import { smootherstep } from '../math/scalar';
import { multiplyConjugate, rotateFrom } from '../math/quaternion';
import { fromRotationVector } from '../math/rotation-vector';
import { footSeries, RAW, type FootSeries } from './foot-series';
import { giveWay, type LegAsk } from './give-way';
import { goAlong, type Blend } from './go-along';
import { SHIFT, turnBetween, turnBy } from './foot-shift';
import { arrival, heldNear, type FootHold } from './hold-foot';
import { keepBend, STEADY_HZ } from './keep-bend';
import type { Hold } from './names';
import { NEAR, TWISTS } from './recorded-parts';
import { standingExactly } from './standing-exactly';
import { HIPS, hipsNoise, overHips, turnHips } from './steady-hips';

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
  /** Hz above which what the lock moves is taken for shaking and left out; Infinity where nothing shakes. */
  readonly calm: number;
}

/** Time (s) inside a contact over which the slope of the lock at its ends is taken. */
const SLOPE_S = 0.03;

/** A contact as it is held, with what the foot turns about when. */
interface HeldContact extends ClipContact {
  readonly parts: readonly ContactPart[];
}

/** Feet locked to where they stand: hips' and feet's shifts, found once; poses made as they are asked for. */
export interface Lock {
  /** How the hips move, 3 numbers a picture, m, world. */
  readonly hips: Float64Array;
  /** Contacts as they are held: a foot that has little time to come to its place gets some of theirs. */
  readonly contacts: readonly HeldContact[];
  /** Writes frame f with its feet locked to out[at..]. Frames without a lock near them are the source's, bit for bit. */
  pose(f: number, out: Float64Array, at: number): void;
}

/** A foot as a lock moves it, by picture: from as recorded to without shaking, from there to where it stands (SHIFT numbers each). */
interface LockedLeg {
  readonly series: FootSeries;
  readonly shift: Float64Array;
  readonly noise: Float64Array;
  /** How much of the shaking is taken out, and how much the foot is held, 0 to 1. */
  readonly calmed: Float64Array;
  readonly held: Float64Array;
  /** How it goes into each contact and out of it. */
  readonly blends: Blend[];
}

/** Rounds in which free feet go along with the hips, and hips are found anew. */
const ALONG_ROUNDS = 1;

/** Finds the lock of a clip for the contacts it has. */
export function createLock(figure: ClipFigure, contacts: readonly ClipContact[], options: LockOptions): Lock {
  const { clip, feet } = figure;
  const { frames, rate } = clip;
  const kept: HeldContact[] = [];
  const seen = new Map(feet.map((foot) => [foot.name as string, footSeries(clip, foot, options.first, options.calm)]));
  const exact = options.calm === Infinity ? standingExactly(figure, contacts, seen, options.floor) : null;
  const legs = feet.map((foot): LockedLeg => {
    const series = seen.get(foot.name)!;
    const leg: LockedLeg = {
      series,
      blends: [],
      shift: new Float64Array(frames * SHIFT),
      noise: noiseOf(series, frames),
      calmed: new Float64Array(frames),
      held: new Float64Array(frames),
    };
    const own = contacts
      .filter((c) => c.foot === foot.name)
      .map((c) => [Math.max(options.first, Math.ceil(c.from - 1e-6)), Math.min(frames - 1, Math.floor(c.to + 1e-6)), exact?.get(c)] as const)
      .filter(([a, b]) => b >= a);
    const lock = { hold: options.hold, blend: options.blend, floor: options.floor, near: NEAR * figure.legLength };
    const holds = own.map(([a, b, parts]) => (parts ? { from: a, to: b, parts, turns: 0 } : heldNear(series, a, b, lock, rate, leg.shift)));
    for (const hold of blendBetween(holds, leg, options, rate, frames))
      kept.push({ foot: foot.name, from: hold.from, to: hold.to, parts: hold.parts, manner: hold.turns > TWISTS ? 'twists' : 'stands', sure: 1 });
    return leg;
  });
  // What shakes, shakes together: a swinging foot is calmed with the hips, or its knee would shake instead.
  for (let f = 0; f < frames; f++) {
    const share = Math.max(...legs.map((l) => l.calmed[f]!));
    for (const leg of legs) leg.calmed[f] = share;
  }
  const steady = steadyHips(figure, legs, options);
  const asks = legs.map((l) => legAsk(clip, l, steady));
  const hipsWay = () => giveWay(frames, asks, { reach: options.reach, rate, first: options.first, shakes: options.calm !== Infinity });
  let given: Float64Array = new Float64Array(frames * 3);
  for (let round = 0; round <= ALONG_ROUNDS; round++) {
    legs.forEach((leg, i) => goAlong(leg, asks[i]!.moved, given, options.floor, rate));
    given = hipsWay();
  }
  const steadyHz = options.calm === Infinity ? Infinity : STEADY_HZ;
  legs.forEach((leg, i) => keepBend(leg, asks[i]!, given, options.first, steadyHz, rate));
  const hips = given.map((g, i) => g + steady.moves[2 * i - (i % 3)]!);
  return { hips, contacts: kept, pose: createLockedPose(figure, legs, hips, steady) };
}

/** Hips without shaking where a foot is held: how they are moved and turned, HIPS numbers a picture. */
interface SteadyHips {
  readonly joint: number;
  readonly over: readonly number[];
  readonly moves: Float64Array;
}

function steadyHips({ clip, roles }: ClipFigure, legs: readonly LockedLeg[], { first, calm }: LockOptions): SteadyHips {
  const joint = carrierOf(clip.skeleton, roles);
  const moves = hipsNoise(clip, joint, first, calm);
  for (let f = 0; f < clip.frames; f++) {
    const share = legs[0]!.calmed[f]!;
    for (let k = f * HIPS; k < (f + 1) * HIPS; k++) moves[k] = moves[k]! * share;
  }
  const over = overHips(
    clip.skeleton,
    joint,
    legs.map((l) => l.series.foot.hip),
  );
  return { joint, over, moves };
}

/** From as recorded to without shaking: of the ankle's place, of ankle's and toes' turns; SHIFT numbers a picture. */
function noiseOf({ raw, calm }: FootSeries, frames: number): Float64Array {
  const noise = new Float64Array(frames * SHIFT);
  for (let f = 0; f < frames; f++) {
    const o = f * SHIFT,
      i = f * RAW;
    for (let k = 0; k < 3; k++) noise[o + k] = calm[i + k]! - raw[i + k]!;
    turnBetween(noise, o + 3, raw, i + 3, calm, i + 3);
    turnBetween(noise, o + 6, raw, i + 7, calm, i + 7);
  }
  return noise;
}

/** A foot is not moved more suddenly than this (m/s²) into a lock: where the way is short, the lock gives some of its time. */
const SUDDEN = 15;
/** Largest second derivative of the way in, times the square of its time, per unit of its length. */
const QUINTIC_PEAK = 5.78;
/** Most of a contact that is given at either end. */
const GIVEN = 0.3;

/**
 * Takes a foot into each contact and out of it, over no more than half of the way to the next; writes how much each picture is
 * held, and returns the contacts as they are held.
 */
function blendBetween(
  own: readonly FootHold[],
  { shift, calmed, held, blends }: LockedLeg,
  { blend, first }: LockOptions,
  rate: number,
  frames: number,
): FootHold[] {
  const longest = Math.max(2, Math.round(blend * rate));
  const inside = Math.max(2, Math.round(SLOPE_S * rate));
  const needed = (f: number) =>
    Math.ceil(rate * Math.sqrt((QUINTIC_PEAK * Math.hypot(shift[f * SHIFT]!, shift[f * SHIFT + 1]!, shift[f * SHIFT + 2]!)) / SUDDEN));
  return own.map((hold, i) => {
    const { from: a, to: b } = hold;
    const before = a - (i > 0 ? own[i - 1]!.to : first),
      after = (i + 1 < own.length ? own[i + 1]!.from : frames) - b;
    const lead = Math.min(longest, i > 0 ? before >> 1 : before),
      tail = Math.min(longest, i + 1 < own.length ? after >> 1 : after);
    const most = Math.floor(GIVEN * (b - a));
    const arrived = a === first ? a : arrival(shift, a, b, rate);
    const from = a === first ? a : arrived + Math.min(most, Math.max(0, needed(arrived) - lead - (arrived - a))),
      to = b === frames - 1 ? b : b - Math.min(most, Math.max(0, needed(b) - tail));
    const [into, out] = [lead + from - a, tail + b - to];
    const span = Math.min(inside, to - from);
    shift.fill(0, a * SHIFT, from * SHIFT);
    shift.fill(0, (to + 1) * SHIFT, (b + 1) * SHIFT);
    blends.push({ from, to, into, out, inside: span });
    for (let f = from; f <= to; f++) held[f] = calmed[f] = 1;
    for (const [edge, count, step] of [
      [from, into, -1],
      [to, out, 1],
    ] as const)
      for (let k = 1; k < count; k++) {
        const f = edge + step * k;
        if (f < first || f >= frames) break;
        held[f] = Math.max(held[f]!, 1 - k / count);
        calmed[f] = Math.max(calmed[f]!, smootherstep(count, 0, k));
      }
    return { ...hold, from, to, parts: partsWithin(hold.parts, from, to) };
  });
}

/** Parts cut to a stretch. */
const partsWithin = (parts: readonly ContactPart[], from: number, to: number): ContactPart[] =>
  parts.map((p) => ({ ...p, from: Math.max(from, p.from), to: Math.min(to, p.to) })).filter((p) => p.to >= p.from);

function legAsk({ skeleton, poses, frames }: Clip, { series: { foot, raw }, noise, calmed, held }: LockedLeg, steady: SteadyHips): LegAsk {
  const world = createWorldPose(skeleton);
  const only = withAncestors(skeleton, [foot.ankle]);
  const size = poseSize(skeleton);
  const reach = new Float64Array(frames * 3),
    moved = new Float64Array(frames * 3),
    recorded = new Float64Array(frames);
  const q = new Float64Array(4),
    arm = new Float64Array(6);
  const { positions: p } = world;
  const length = (a: number, b: number) => Math.hypot(...[0, 1, 2].map((k) => p[a * 3 + k]! - p[b * 3 + k]!));
  let thigh = 0,
    shank = 0;
  for (let f = 0; f < frames; f++) {
    forwardKinematics(skeleton, poses, f * size, world, only);
    // Hips that are turned take the leg's root along.
    for (let k = 0; k < 3; k++) arm[k] = p[foot.hip * 3 + k]! - p[steady.joint * 3 + k]!;
    fromRotationVector(q, 0, steady.moves, f * HIPS + 3);
    rotateFrom(arm, 3, q, 0, arm, 0);
    for (let k = 0; k < 3; k++) {
      const recorded = raw[f * RAW + k]! - p[foot.hip * 3 + k]!;
      reach[f * 3 + k] = recorded + calmed[f]! * noise[f * SHIFT + k]! - steady.moves[f * HIPS + k]! - (arm[3 + k]! - arm[k]!);
    }
    recorded[f] = length(foot.hip, foot.ankle);
    if (f > 0) continue;
    thigh = length(foot.hip, foot.knee);
    shank = length(foot.knee, foot.ankle);
  }
  return { reach, moved, recorded, held, thigh, shank };
}

/** The joint that carries the body: where the hips move, else the root. */
export function carrierOf({ moving }: Skeleton, roles: Int32Array): number {
  const hips = roles[JOINT.hips]!;
  return moving.includes(hips) ? hips : moving[0]!;
}

/** Smaller shifts (m, rad) are none. */
const NONE = 1e-12;

function createLockedPose({ clip }: ClipFigure, legs: readonly LockedLeg[], hips: Float64Array, steady: SteadyHips): Lock['pose'] {
  const { skeleton, poses } = clip;
  const size = poseSize(skeleton);
  const world = createWorldPose(skeleton);
  const joints = withAncestors(skeleton, [...legs.flatMap(({ series }) => [series.foot.ankle, series.foot.toes]), ...steady.over]);
  const carrier = steady.joint;
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
    const shifted = legs.some(({ shift, calmed }) => {
      if (calmed[f]! > 0) return true;
      for (let k = f * SHIFT; k < (f + 1) * SHIFT; k++) if (Math.abs(shift[k]!) > NONE) return true;
      return false;
    });
    if (!moves && !shifted) return;
    forwardKinematics(skeleton, out, at, world, joints);
    moveCarrier(skeleton, carrier, at3, world.rotations, hips, f * 3, out, at, v);
    turnHips(skeleton, carrier, steady.over, world, steady.moves, f * HIPS + 3, 1, out, at);
    legs.forEach(({ series: { foot, raw }, shift, noise, calmed }, i) => {
      forwardKinematics(skeleton, out, at, world, joints);
      for (let k = 0; k < 3; k++) target[k] = raw[f * RAW + k]! + calmed[f]! * noise[f * SHIFT + k]! + shift[f * SHIFT + k]!;
      reaches[i]!(out, at, world, target, 0);
      forwardKinematics(skeleton, out, at, world, joints);
      turnBy(q, 0, raw, f * RAW + 3, noise, f * SHIFT + 3, calmed[f]);
      turnBy(q, 0, q, 0, shift, f * SHIFT + 3);
      multiplyConjugate(out, at + rotationAt(skeleton, foot.ankle), world.rotations, skeleton.parents[foot.ankle]! * 4, q, 0);
      if (foot.toes === foot.ankle) return;
      forwardKinematics(skeleton, out, at, world, joints);
      turnBy(q, 0, raw, f * RAW + 7, noise, f * SHIFT + 6, calmed[f]);
      turnBy(q, 0, q, 0, shift, f * SHIFT + 6);
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
