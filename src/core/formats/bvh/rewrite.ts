import { poseSize } from '../../body/skeleton';
import type { Clip } from '../../clip/clip';
import { rotateFrom, multiply } from '../../math/quaternion';
import { toDegrees } from '../../math/scalar';
import { channelCount, type BvhPackage } from './package';
import { bvhSkeleton } from './to-clip';

/** Where each picture of a new clip comes from in the file, by its rows; null where it comes from none. */
export type RowOf = (frame: number) => number | null;

/** Joints that turn from what the file has by less than this (chord of the quaternion), or move by less (m), are unchanged. */
const SAME_TURN = 1e-9;
const SAME_M = 1e-9;

/**
 * A package with the motion of `clip` on the file's own hierarchy: names, offsets, channel orders and unit as they were, and
 * every channel of a joint that did not change as the file has it. `unit` and `turn` are what brought the clip in.
 */
export function rewrittenBvh(pkg: BvhPackage, clip: Clip, unit: number, turn: Float64Array, rowOf: RowOf): BvhPackage {
  const { joints } = pkg;
  const width = channelCount(joints);
  const skeleton = bvhSkeleton(joints, 1);
  const size = poseSize(clip.skeleton);
  const quats = clip.skeleton.moving.length * 3;
  const values = new Float64Array(clip.frames * width);
  const back = [-turn[0]!, -turn[1]!, -turn[2]!, turn[3]!];
  const [q, own, v] = [new Float64Array(4), new Float64Array(4), new Float64Array(3)];
  const before = new Float64Array(width);
  for (let f = 0; f < clip.frames; f++) {
    const row = rowOf(f);
    // What a row without its like in the file stays near to: the one before it.
    const near = row === null ? before : pkg.values.subarray(row * width, (row + 1) * width);
    let c = 0;
    joints.forEach((joint, j) => {
      const at = f * size + quats + j * 4;
      for (let k = 0; k < 4; k++) q[k] = clip.poses[at + k]!;
      if (joint.parent < 0) multiply(q, 0, back, 0, q, 0);
      const m = skeleton.moving.indexOf(j);
      if (m >= 0) {
        for (let k = 0; k < 3; k++) v[k] = clip.poses[f * size + m * 3 + k]! / unit;
        if (joint.parent < 0) rotateFrom(v, 0, back, 0, v, 0);
      }
      const rotations = joint.channels.filter((x) => x.endsWith('rotation')).map((x) => 'XYZ'.indexOf(x[0]!));
      const angles = rotations.map(
        (_, i) =>
          near[
            c +
              joint.channels.findIndex(
                (x, n) => x.endsWith('rotation') && joint.channels.slice(0, n + 1).filter((y) => y.endsWith('rotation')).length === i + 1,
              )
          ]!,
      );
      fromAngles(own, rotations, angles);
      const same = row !== null && chord(own, q) < SAME_TURN;
      const fresh = same ? angles : eulerNear(q, rotations, angles);
      let r = 0;
      for (const channel of joint.channels) {
        if (channel.endsWith('rotation')) values[f * width + c] = fresh[r++]!;
        else {
          const axis = 'XYZ'.indexOf(channel[0]!);
          values[f * width + c] = row !== null && Math.abs(near[c]! - v[axis]!) * unit < SAME_M ? near[c]! : v[axis]!;
        }
        c++;
      }
    });
    before.set(values.subarray(f * width, (f + 1) * width));
  }
  return { joints, frameTime: clip.rate === Math.round(1 / pkg.frameTime) ? pkg.frameTime : 1 / clip.rate, frames: clip.frames, values };
}

const chord = (a: Float64Array, b: Float64Array): number => {
  let [plus, minus] = [0, 0];
  for (let k = 0; k < 4; k++) {
    plus += (a[k]! + b[k]!) ** 2;
    minus += (a[k]! - b[k]!) ** 2;
  }
  return Math.sqrt(Math.min(plus, minus));
};

function fromAngles(out: Float64Array, axes: readonly number[], degrees: readonly number[]): void {
  out.set([0, 0, 0, 1]);
  const one = new Float64Array(4);
  axes.forEach((axis, i) => {
    const half = (degrees[i]! * Math.PI) / 360;
    one.fill(0);
    one[axis] = Math.sin(half);
    one[3] = Math.cos(half);
    multiply(out, 0, out, 0, one, 0);
  });
}

/** Below this (cosine of the middle angle) the outer two angles turn about one axis. */
const LOCKED = 1e-7;

/**
 * Angles (degrees) about three axes in this order whose rotation is q, of all there are those nearest to `near`. With fewer than
 * three axes the nearest there is.
 */
export function eulerNear(q: Float64Array, axes: readonly number[], near: readonly number[]): number[] {
  if (axes.length < 3) return fewerAngles(q, axes, near);
  const [i, j, k] = axes as [number, number, number];
  const m = matrixOf(q);
  const s = (j - i + 3) % 3 === 1 ? 1 : -1;
  const sine = Math.min(1, Math.max(-1, s * m[i * 3 + k]!));
  const b = Math.asin(sine);
  let candidates: number[][];
  if (Math.cos(b) < LOCKED) {
    // The last angle stays; the first does what is then left.
    const c = ((near[2] ?? 0) * Math.PI) / 180;
    const back = [0, 0, 0, Math.cos(c / 2)];
    back[k] = -Math.sin(c / 2);
    const left = new Float64Array(4);
    multiply(left, 0, q, 0, back, 0);
    const n = matrixOf(left);
    candidates = [[Math.atan2(s * n[k * 3 + j]!, n[j * 3 + j]!), b, c]];
  } else {
    const a = Math.atan2(-s * m[j * 3 + k]!, m[k * 3 + k]!),
      c = Math.atan2(-s * m[i * 3 + j]!, m[i * 3 + i]!);
    candidates = [
      [a, b, c],
      [a + Math.PI, Math.PI - b, c + Math.PI],
    ];
  }
  const placed = candidates.map((angles) => angles.map((x, n) => nearestTurn(toDegrees(x), near[n] ?? 0)));
  const far = (angles: readonly number[]) => angles.reduce((sum, x, n) => sum + Math.abs(x - (near[n] ?? 0)), 0);
  return placed.reduce((best, x) => (far(x) < far(best) ? x : best));
}

/** The same angle, whole turns aside, nearest to another. */
const nearestTurn = (angle: number, near: number): number => angle - 360 * Math.round((angle - near) / 360);

function fewerAngles(q: Float64Array, axes: readonly number[], near: readonly number[]): number[] {
  // Each axis takes what it can of what is left, as a twist about it.
  const rest = q.slice();
  return axes.map((axis, n) => {
    const angle = 2 * Math.atan2(rest[axis]!, rest[3]!);
    const one = [0, 0, 0, Math.cos(angle / 2)];
    one[axis] = -Math.sin(angle / 2);
    multiply(rest, 0, one, 0, rest, 0);
    return nearestTurn(toDegrees(angle), near[n] ?? 0);
  });
}

/** Rows of the rotation matrix of q. */
function matrixOf([x, y, z, w]: Float64Array): number[] {
  const [a, b, c, d] = [x!, y!, z!, w!];
  return [
    1 - 2 * (b * b + c * c),
    2 * (a * b - c * d),
    2 * (a * c + b * d),
    2 * (a * b + c * d),
    1 - 2 * (a * a + c * c),
    2 * (b * c - a * d),
    2 * (a * c - b * d),
    2 * (b * c + a * d),
    1 - 2 * (a * a + b * b),
  ];
}
