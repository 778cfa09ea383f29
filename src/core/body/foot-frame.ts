import type { FootModel } from './foot-model';
import { restWorld, type Skeleton } from './skeleton';
import { setYxz } from '../math/euler';
import { multiply, rotate, rotateFrom, setFromAxesAt } from '../math/quaternion';

/**
 * The sole of a foot as a frame (left, up, forward) fixed in its ankle's frame, and the same for its toes; places of heel,
 * toe hinge, ball and tip seen from these frames' joints, in the frames. Lengths in metres.
 */
export interface FootFrame {
  /** Rotation from the sole's frame to the ankle's, and from the toes' sole to the toes'. */
  readonly sole: Float64Array;
  readonly toes: Float64Array;
  /** In the sole's frame from the ankle. */
  readonly heel: Float64Array;
  readonly hinge: Float64Array;
  /** In the toes' sole frame from the hinge. */
  readonly ball: Float64Array;
  readonly tip: Float64Array;
  /** True where the toes bend by themselves. */
  readonly bends: boolean;
}

export function footFrame(skeleton: Skeleton, foot: FootModel): FootFrame {
  const rest = restWorld(skeleton);
  const bends = foot.toes !== foot.ankle;
  const to = [0, 1, 2].map((k) => rest.positions[foot.toes * 3 + k]! - rest.positions[foot.ankle * 3 + k]!);
  const inAnkle = into(rest.rotations, foot.ankle * 4, to);
  const hinge = bends ? inAnkle : [...foot.ball];
  const ahead = [0, 1, 2].map((k) => hinge[k]! - foot.heel[k]!);
  const sole = axesFrame(foot.up, ahead);
  const toes = bends
    ? axesFrame(
        foot.toesUp,
        [0, 1, 2].map((k) => foot.tip[k]! - foot.ball[k]!),
      )
    : sole;
  const from = bends ? [0, 0, 0] : foot.ball;
  return {
    sole,
    toes,
    heel: Float64Array.from(into(sole, 0, foot.heel)),
    hinge: Float64Array.from(into(sole, 0, hinge)),
    ball: Float64Array.from(
      into(
        toes,
        0,
        [0, 1, 2].map((k) => foot.ball[k]! - from[k]!),
      ),
    ),
    tip: Float64Array.from(
      into(
        toes,
        0,
        [0, 1, 2].map((k) => foot.tip[k]! - from[k]!),
      ),
    ),
    bends,
  };
}

/** A vector of the world seen from a rotated frame. */
function into(q: Float64Array, i: number, v: ArrayLike<number>): number[] {
  const out = [0, 0, 0];
  rotate(out, 0, [-q[i]!, -q[i + 1]!, -q[i + 2]!, q[i + 3]!], 0, v[0]!, v[1]!, v[2]!);
  return out;
}

/** Frame whose Y is `up` and whose Z points along `ahead` as far as it is square to it. */
function axesFrame(up: ArrayLike<number>, ahead: ArrayLike<number>): Float64Array {
  const along = ahead[0]! * up[0]! + ahead[1]! * up[1]! + ahead[2]! * up[2]!;
  const z = [0, 1, 2].map((k) => ahead[k]! - along * up[k]!);
  const l = Math.hypot(...z);
  const f = l > 1e-9 ? z.map((v) => v / l) : [0, 0, 1];
  const x = [up[1]! * f[2]! - up[2]! * f[1]!, up[2]! * f[0]! - up[0]! * f[2]!, up[0]! * f[1]! - up[1]! * f[0]!];
  const out = new Float64Array(4);
  setFromAxesAt(out, 0, [...x, up[0]!, up[1]!, up[2]!], 0);
  return out;
}

/** Heading, pitch (toes up positive) and roll (left side up positive) of a sole frame in the world, rad: Y(heading) X(−pitch) Z(roll). */
export function soleAngles(world: Float64Array, i: number, frame: Float64Array, out: Float64Array, o: number): void {
  multiply(Q, 0, world, i, frame, 0);
  rotateFrom(V, 0, Q, 0, FORWARD, 0);
  rotateFrom(V, 3, Q, 0, LEFT, 0);
  rotateFrom(V, 6, Q, 0, UP, 0);
  out[o] = Math.atan2(V[0]!, V[2]!);
  out[o + 1] = Math.asin(Math.min(1, Math.max(-1, V[1]!)));
  out[o + 2] = Math.atan2(V[4]!, V[7]!);
}
const Q = new Float64Array(4);
const V = new Float64Array(9);
const FORWARD = Float64Array.of(0, 0, 1);
const LEFT = Float64Array.of(1, 0, 0);
const UP = Float64Array.of(0, 1, 0);

/** The sole frame with these angles, as a rotation. */
export function soleRotation(heading: number, pitch: number, roll: number, out: Float64Array, o: number): void {
  ANGLES[0] = heading;
  ANGLES[1] = -pitch;
  ANGLES[2] = roll;
  setYxz(out, o, ANGLES, 0);
}
const ANGLES = new Float64Array(3);
