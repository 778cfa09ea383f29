import { poseSize, type Skeleton } from '../body/skeleton';
import type { Clip } from '../clip/clip';
import { trimmed } from '../clip/edits';
import type { ClipFigure } from '../clip/figure';
import { inversePlacement, placeRoot, type Placement } from '../math/placement';
import { multiply } from '../math/quaternion';
import { fromRotationVector, toRotationVector } from '../math/rotation-vector';
import { seamPlacement } from './find-loops';

/**
 * Frames `from` up to and without `to` as a loop: what is missing at the seam, in place and in speed, is made up evenly from both
 * sides over `span` frames each. The picture at the end is the first again and not there twice. Throws RangeError where there is
 * no such stretch.
 */
export function closedLoop(figure: ClipFigure, from: number, to: number, span: number): Clip {
  const { clip } = figure;
  if (!(from >= 0 && to - from >= 4 && to < clip.frames))
    throw new RangeError(`closedLoop: need 0 <= from, from + 4 <= to < ${clip.frames}; got ${from} to ${to}`);
  const travel = seamPlacement(figure, from, to);
  const cut = trimmed(clip, from, to - 1);
  const n = cut.frames;
  const reach = Math.max(1, Math.min(Math.floor(n / 2), Math.round(span)));
  const missing = seamMissing(clip, from, to, travel);
  const poses = cut.poses.slice();
  const { skeleton } = clip;
  const size = poseSize(skeleton);
  const places = skeleton.moving.length * 3;
  const [v, q] = [new Float64Array(3), new Float64Array(4)];
  const atEnd = { value: turnedRoots(skeleton, missing.value, travel[3]!), speed: turnedRoots(skeleton, missing.speed, travel[3]!) };
  const correct = (at: number, value: number, slope: number, by: Missing): void => {
    for (let k = 0; k < places; k++) poses[at + k] = poses[at + k]! + value * by.value[k]! + slope * by.speed[k]!;
    for (let j = 0, o = places; o < by.value.length; j++, o += 3) {
      for (let k = 0; k < 3; k++) v[k] = value * by.value[o + k]! + slope * by.speed[o + k]!;
      fromRotationVector(q, 0, v, 0);
      const r = at + places + j * 4;
      multiply(poses, r, q, 0, poses, r);
    }
  };
  for (let i = 0; i < n; i++) {
    const start = i < reach ? i / reach : 1,
      end = n - i < reach ? (n - i) / reach : 1;
    if (start === 1 && end === 1) continue;
    // Half of what is missing on either side; its speed, too. What is near the end is seen from where the end is.
    if (start < 1) correct(i * size, -valueShape(start) / 2, (-reach * slopeShape(start)) / 2, missing);
    if (end < 1) correct(i * size, valueShape(end) / 2, (-reach * slopeShape(end)) / 2, atEnd);
  }
  return { ...cut, poses, loop: true, loopTravel: travel };
}

/** 1 at the seam, 0 at the end of the span, flat at both; and 0 at both with slope 1 at the seam. */
const valueShape = (u: number): number => 1 - u * u * u * (10 - 15 * u + 6 * u * u);
const slopeShape = (u: number): number => u * (1 - u) ** 3 * (1 + 3 * u);

/** Translations of the moving joints, then a rotation vector a joint; and the same of their speeds a frame. */
interface Missing {
  readonly value: Float64Array;
  readonly speed: Float64Array;
}

/** The same with what stands in the world, that of the roots, turned by `yaw` about the vertical. */
function turnedRoots({ parents, moving }: Skeleton, values: Float64Array, yaw: number): Float64Array {
  const out = values.slice();
  const [s, c] = [Math.sin(yaw), Math.cos(yaw)];
  const places = moving.length * 3;
  parents.forEach((p, j) => {
    if (p >= 0) return;
    for (const o of [moving.indexOf(j) * 3, places + j * 3]) {
      out[o] = c * values[o]! + s * values[o + 2]!;
      out[o + 2] = -s * values[o]! + c * values[o + 2]!;
    }
  });
  return out;
}

/** What the end, seen from where it is, is short of the start. */
function seamMissing({ skeleton, poses, frames }: Clip, from: number, to: number, travel: Placement): Missing {
  const size = poseSize(skeleton);
  const places = skeleton.moving.length * 3;
  const numbers = places + skeleton.names.length * 3;
  const back = travel.slice();
  inversePlacement(back, 0, travel, 0);
  const roots = [...skeleton.parents].flatMap((p, j) => (p < 0 ? [j] : []));
  const read = (f: number, seen: boolean): Float64Array => {
    const at = Math.min(frames - 1, Math.max(0, f));
    const pose = poses.slice(at * size, (at + 1) * size);
    if (seen) for (const j of roots) placeRoot(pose, skeleton.moving.indexOf(j) * 3, places + j * 4, back, 0);
    return pose;
  };
  const less = (a: Float64Array, b: Float64Array): Float64Array => {
    const out = new Float64Array(numbers);
    for (let k = 0; k < places; k++) out[k] = a[k]! - b[k]!;
    const q = new Float64Array(4);
    for (let j = 0, o = places; o < numbers; j++, o += 3) {
      const r = places + j * 4;
      multiply(q, 0, a, r, [-b[r]!, -b[r + 1]!, -b[r + 2]!, b[r + 3]!], 0);
      toRotationVector(out, o, q, 0);
    }
    return out;
  };
  const value = less(read(from, false), read(to, true));
  const [start, end] = [less(read(from + 1, false), read(from - 1, false)), less(read(to + 1, true), read(to - 1, true))];
  const steps = [Math.min(frames - 1, from + 1) - Math.max(0, from - 1), Math.min(frames - 1, to + 1) - Math.max(0, to - 1)];
  return { value, speed: value.map((_, k) => start[k]! / steps[0]! - end[k]! / steps[1]!) };
}
