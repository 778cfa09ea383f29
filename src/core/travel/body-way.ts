import { createWorldPose, forwardKinematics, poseSize, rotationAt, withAncestors, type Skeleton } from '../body/skeleton';
import type { Clip } from '../clip/clip';
import { rotate } from '../math/quaternion';
import type { ClipFigure } from '../clip/figure';
import { lowPass } from '../math/low-pass';
import { createPlacement } from '../math/placement';
import { wrapAngle } from '../math/scalar';
import type { Track } from './track';

/** Hz above which a body's way is sway, surge and shaking, not travel; and of its heading. */
const WAY_HZ = 0.9;
const TURN_HZ = 0.7;

/**
 * The way of a body through a clip, as placements on the ground: what moves it along, without the sway of its steps. The place is
 * the hips', the heading square to the line from hip to hip, both smoothed; y is the hips' smoothed height less their first.
 * A loop's way is the straight line (or arc) from its start to its end. Where a joint over the hips carries the travel, the way is
 * that joint's own.
 */
export function bodyWay({ clip, feet, legLength }: Pick<ClipFigure, 'clip' | 'feet' | 'legLength'>, first = 0): Track {
  const rooted = rootWay(clip, feet[0]!.hip);
  if (rooted) return rooted;
  const { skeleton, frames, rate, loop, loopTravel } = clip;
  const size = poseSize(skeleton);
  const world = createWorldPose(skeleton);
  const hips = overBoth(skeleton, feet[0]!.hip, feet[1]!.hip);
  const only = withAncestors(skeleton, [hips, feet[0]!.hip, feet[1]!.hip]);
  const places = new Float64Array(frames * 4);
  for (let f = 0; f < frames; f++) {
    forwardKinematics(skeleton, clip.poses, f * size, world, only);
    const p = world.positions;
    for (let k = 0; k < 3; k++) places[f * 4 + k] = p[hips * 3 + k]!;
    const [l, r] = [feet[0]!.hip * 3, feet[1]!.hip * 3];
    // Forward is left turned right by a quarter.
    const yaw = Math.atan2(-(p[l + 2]! - p[r + 2]!), p[l]! - p[r]!);
    places[f * 4 + 3] = f === 0 ? yaw : places[f * 4 - 1]! + wrapAngle(yaw - places[f * 4 - 1]!);
  }
  if (loop) return evenWay(places, frames, loopTravel);
  const ground = places[first * 4 + 1]!;
  for (let f = 0; f < frames; f++) places[f * 4 + 1] = places[f * 4 + 1]! - ground;
  for (let k = 0; k < 4; k++) lowPass(places, first * 4 + k, 4, frames - first, k === 3 ? TURN_HZ : WAY_HZ, rate);
  stayPut(places, first, frames, legLength);
  return { places, round: createPlacement() };
}

/** The joint both legs hang on. */
function overBoth({ parents }: Skeleton, left: number, right: number): number {
  const over = new Set<number>();
  for (let j = left; j >= 0; j = parents[j]!) over.add(j);
  let j = right;
  while (j >= 0 && !over.has(j)) j = parents[j]!;
  return Math.max(0, j);
}

/** A joint over the hips that goes at least so far (m) carries the travel. */
const CARRIES_M = 0.05;

/** The way of the joint that carries a clip's travel over the hips; null where none does. `hip`: a joint of a leg. */
function rootWay({ skeleton, poses, frames, loop, loopTravel }: Clip, hip: number): Track | null {
  const root = skeleton.moving[0]!;
  let below = -1;
  for (let j = skeleton.parents[hip]!; j >= 0; j = skeleton.parents[j]!) if (j !== root && skeleton.moving.includes(j)) below = j;
  if (below < 0 || skeleton.parents[root]! >= 0) return null;
  const size = poseSize(skeleton);
  const q = rotationAt(skeleton, root);
  const places = new Float64Array(frames * 4);
  const ahead = [0, 0, 0];
  let length = 0;
  for (let f = 0; f < frames; f++) {
    const [at, o] = [f * size, f * 4];
    rotate(ahead, 0, poses, at + q, 0, 0, 1);
    const yaw = Math.atan2(ahead[0]!, ahead[2]!);
    places.set([poses[at]!, poses[at + 1]! - poses[1]!, poses[at + 2]!, f === 0 ? yaw : places[o - 1]! + wrapAngle(yaw - places[o - 1]!)], o);
    if (f > 0) length += Math.hypot(places[o]! - places[o - 4]!, places[o + 2]! - places[o - 2]!);
  }
  return length < CARRIES_M ? null : { places, round: loop ? loopTravel : createPlacement() };
}

/** A way that stays within this (part of ℓ), and a heading within this (rad), is sway: the body stays where it is. */
const STAYS = 0.14;
const FACES = 0.25;

/** Takes out of a way what is only sway: of a body that stays put its ends would be taken for travel. */
function stayPut(places: Float64Array, first: number, frames: number, legLength: number): void {
  const even = (k: number, within: number) => {
    let [least, most, sum] = [Infinity, -Infinity, 0];
    for (let f = first; f < frames; f++) {
      const v = places[f * 4 + k]!;
      least = Math.min(least, v);
      most = Math.max(most, v);
      sum += v;
    }
    return { still: most - least < within, mean: sum / Math.max(1, frames - first) };
  };
  const put = (k: number, mean: number) => {
    for (let f = first; f < frames; f++) places[f * 4 + k] = mean;
  };
  const [x, z, yaw] = [even(0, STAYS * legLength), even(2, STAYS * legLength), even(3, FACES)];
  if (x.still && z.still) {
    put(0, x.mean);
    put(2, z.mean);
  }
  if (yaw.still) put(3, yaw.mean);
}

/** An even way: the mean place and heading carried along by an even part of the round at each picture. */
function evenWay(places: Float64Array, frames: number, round: Float64Array): Track {
  const turn = round[3]!;
  const [way, at] = [new Float64Array(frames * 4), createPlacement()];
  // Mean of the places seen from how far the round has come.
  let [x, z, yaw] = [0, 0, 0];
  const carried = (u: number) => arc(round, u);
  for (let f = 0; f < frames; f++) {
    const c = carried(f / frames);
    const [s, o] = [Math.sin(-c[3]!), Math.cos(-c[3]!)];
    const dx = places[f * 4]! - c[0]!,
      dz = places[f * 4 + 2]! - c[2]!;
    x += (o * dx + s * dz) / frames;
    z += (-s * dx + o * dz) / frames;
    yaw += (places[f * 4 + 3]! - turn * (f / frames)) / frames;
  }
  at.set([x, 0, z, yaw]);
  for (let f = 0; f < frames; f++) {
    const c = carried(f / frames);
    const [s, o] = [Math.sin(c[3]!), Math.cos(c[3]!)];
    way.set([c[0]! + o * x + s * z, c[1]!, c[2]! - s * x + o * z, yaw + c[3]!], f * 4);
  }
  return { places: way, round };
}

/** Part u of a round, along an arc of even curvature. */
function arc(round: Float64Array, u: number): Float64Array {
  const turn = round[3]!;
  if (Math.abs(turn) < 1e-9) return Float64Array.of(round[0]! * u, round[1]! * u, round[2]! * u, turn * u);
  // The velocity seen from the body whose arc ends where the round does.
  const k = Math.sin(turn) / turn,
    m = (1 - Math.cos(turn)) / turn;
  const d = k * k + m * m;
  const vx = (k * round[0]! - m * round[2]!) / d,
    vz = (m * round[0]! + k * round[2]!) / d;
  const a = turn * u;
  const ku = Math.sin(a) / turn,
    mu = (1 - Math.cos(a)) / turn;
  return Float64Array.of(ku * vx + mu * vz, round[1]! * u, -mu * vx + ku * vz, a);
}
