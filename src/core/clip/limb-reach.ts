import { poseSize, rotationAt, type Skeleton, type WorldPose } from '../body/skeleton';
import { multiply, multiplyConjugate, rotateFrom } from '../math/quaternion';

/** A limb of two long bones: the joints at its root, its hinge and its end. */
export interface Limb {
  readonly root: number;
  readonly hinge: number;
  readonly end: number;
}

/** A limb nearer to straight than this (part of its length) is not stretched farther. */
const STRAIGHT = 1 - 1e-9;
/** How much the hinge's usual axis counts where the limb is nearly straight and shows none of its own. */
const USUAL = 0.08;

/**
 * Returns what bends one limb of a pose so that its end comes to a place, the recording's own bend and twist kept as they are:
 * the far bone turns about the limb's own hinge, then the whole limb about its root. `usual` is the hinge's usual axis in the
 * far bone's frame. `world` must hold the pose; only the locals of root and hinge are changed.
 */
export function createLimbReach(skeleton: Skeleton, { root, hinge, end }: Limb, usual: Float64Array) {
  const rootAt = rotationAt(skeleton, root),
    hingeAt = rotationAt(skeleton, hinge);
  const a = new Float64Array(3),
    b = new Float64Array(3),
    c = new Float64Array(3),
    n = new Float64Array(3),
    to = new Float64Array(3),
    q = new Float64Array(12);
  /** Writes rotation of the far bone about n by `angle` into q[0..3] and where the end then is, seen from the root, into c. */
  const bend = (angle: number) => {
    const s = Math.sin(angle / 2);
    for (let k = 0; k < 3; k++) q[k] = n[k]! * s;
    q[3] = Math.cos(angle / 2);
    rotateFrom(c, 0, q, 0, b, 0);
    for (let k = 0; k < 3; k++) c[k] = c[k]! + a[k]!;
  };
  return (pose: Float64Array, at: number, { positions: p, rotations }: WorldPose, target: Float64Array, t: number): void => {
    for (let k = 0; k < 3; k++) {
      a[k] = p[hinge * 3 + k]! - p[root * 3 + k]!;
      b[k] = p[end * 3 + k]! - p[hinge * 3 + k]!;
      to[k] = target[t + k]! - p[root * 3 + k]!;
    }
    const near = length(a),
      far = length(b);
    const wished = Math.min(STRAIGHT * (near + far), Math.max(Math.abs(near - far) * (2 - STRAIGHT) + 1e-9, length(to)));
    hingeAxis(n, a, b, near * far, rotations, hinge, usual, q);
    // |a + b turned by x about n| as long as wished: P cos x + Q sin x = R.
    const P = dot(a, b),
      Q = n[0]! * (b[1]! * a[2]! - b[2]! * a[1]!) + n[1]! * (b[2]! * a[0]! - b[0]! * a[2]!) + n[2]! * (b[0]! * a[1]! - b[1]! * a[0]!),
      R = (wished * wished - near * near - far * far) / 2;
    bend(Math.atan2(Q, P) + Math.acos(Math.min(1, Math.max(-1, R / Math.sqrt(P * P + Q * Q)))));
    // Hinge first, seen from its parent: the root's turn takes it along.
    const parent = skeleton.parents[hinge]!;
    multiply(q, 8, q, 0, rotations, hinge * 4);
    multiplyConjugate(pose, at + hingeAt, rotations, parent * 4, q, 8);
    // The shortest turn from where the end is to where it goes.
    if (length(to) > 0 && length(c) > 0) shortest(q, 4, c, to);
    else q.set([0, 0, 0, 1], 4);
    multiply(q, 8, q, 4, rotations, root * 4);
    const above = skeleton.parents[root]!;
    if (above >= 0) multiplyConjugate(pose, at + rootAt, rotations, above * 4, q, 8);
    else for (let k = 0; k < 4; k++) pose[at + rootAt + k] = q[8 + k]!;
  };
}

const dot = (v: Float64Array, w: Float64Array): number => v[0]! * w[0]! + v[1]! * w[1]! + v[2]! * w[2]!;
const length = (v: Float64Array): number => Math.sqrt(v[0]! * v[0]! + v[1]! * v[1]! + v[2]! * v[2]!);

/** Axis about which the far bone bends (unit, square to it): the limb's own plane, and the usual axis where that is none. */
function hingeAxis(
  n: Float64Array,
  a: Float64Array,
  b: Float64Array,
  size: number,
  rotations: Float64Array,
  hinge: number,
  usual: Float64Array,
  scratch: Float64Array,
): void {
  rotateFrom(scratch, 8, rotations, hinge * 4, usual, 0);
  for (let k = 0; k < 3; k++) {
    const [i, j] = [(k + 1) % 3, (k + 2) % 3];
    n[k] = (a[i]! * b[j]! - a[j]! * b[i]!) / size + USUAL * scratch[8 + k]!;
  }
  const square = b[0]! * b[0]! + b[1]! * b[1]! + b[2]! * b[2]!;
  const along = (n[0]! * b[0]! + n[1]! * b[1]! + n[2]! * b[2]!) / square;
  for (let k = 0; k < 3; k++) n[k] = n[k]! - along * b[k]!;
  const l = length(n);
  for (let k = 0; k < 3; k++) n[k] = n[k]! / l;
}

/** out = the shortest rotation that takes the direction of `from` to that of `to`. */
function shortest(out: Float64Array, o: number, from: Float64Array, to: Float64Array): void {
  const scale = length(from) * length(to);
  const dot = (from[0]! * to[0]! + from[1]! * to[1]! + from[2]! * to[2]!) / scale;
  out[o] = (from[1]! * to[2]! - from[2]! * to[1]!) / scale;
  out[o + 1] = (from[2]! * to[0]! - from[0]! * to[2]!) / scale;
  out[o + 2] = (from[0]! * to[1]! - from[1]! * to[0]!) / scale;
  out[o + 3] = 1 + dot;
  let l = Math.hypot(out[o]!, out[o + 1]!, out[o + 2]!, out[o + 3]!);
  if (l < 1e-9) {
    // Straight against it: about any axis square to it.
    const k = Math.abs(from[0]!) < Math.abs(from[1]!) ? 0 : 1;
    out[o] = k === 0 ? 0 : -from[2]!;
    out[o + 1] = k === 0 ? from[2]! : 0;
    out[o + 2] = k === 0 ? -from[1]! : from[0]!;
    out[o + 3] = 0;
    l = Math.hypot(out[o]!, out[o + 1]!, out[o + 2]!);
  }
  for (let k = 0; k < 4; k++) out[o + k] = out[o + k]! / l;
}

/** Pictures looked at for the usual axis, at most. */
const LOOKS = 500;

/**
 * The axis (unit, in the far bone's frame) about which a limb bends over a clip: its own plane, the more the more it is bent.
 * Of a limb that is never bent the axis square to it that lies most to the side.
 */
export function usualHinge(skeleton: Skeleton, poses: Float64Array, { root, hinge, end }: Limb, kinematics: (at: number) => WorldPose): Float64Array {
  const size = poseSize(skeleton);
  const frames = poses.length / size;
  const step = Math.max(1, Math.floor(frames / LOOKS));
  const sum = new Float64Array(3),
    n = new Float64Array(3),
    v = new Float64Array(3),
    q = new Float64Array(4);
  for (let f = 0; f < frames; f += step) {
    const { positions: p, rotations } = kinematics(f * size);
    const a = [0, 1, 2].map((k) => p[hinge * 3 + k]! - p[root * 3 + k]!),
      b = [0, 1, 2].map((k) => p[end * 3 + k]! - p[hinge * 3 + k]!);
    for (let k = 0; k < 3; k++) n[k] = a[(k + 1) % 3]! * b[(k + 2) % 3]! - a[(k + 2) % 3]! * b[(k + 1) % 3]!;
    for (let k = 0; k < 3; k++) q[k] = -rotations[hinge * 4 + k]!;
    q[3] = rotations[hinge * 4 + 3]!;
    rotateFrom(v, 0, q, 0, n, 0);
    for (let k = 0; k < 3; k++) sum[k] = sum[k]! + v[k]!;
  }
  const l = length(sum);
  if (l > 0) return sum.map((x) => x / l);
  return Float64Array.of(1, 0, 0);
}
