import { JOINT, JOINT_COUNT } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import type { Clip, ClipContact } from '../clip/clip';
import { multiply, rotate } from '../math/quaternion';
import { wrapAngle } from '../math/scalar';
import type { Motion } from '../motion/motion';

/** Looks at one stride. */
export const LOOKS = 24;
/** Numbers a look: the hips' place (m) and turn against the steady travel, then every joint's local rotation, in the order of JOINT. */
export const LOOK = 7 + JOINT_COUNT * 4;

/** One stride of a figure: what all its strides have in common. Times in s, lengths in m, angles in rad, parts of the stride. */
export interface MeanStride {
  readonly strides: number;
  readonly strideTime: number;
  readonly strideLength: number;
  /** Direction of travel against the facing, left positive. */
  readonly direction: number;
  /** Part of the stride each foot stands, left and right, and when in it the right one lands. */
  readonly stands: readonly [number, number];
  readonly rightLands: number;
  /** LOOKS × LOOK numbers from a landing of the left foot on. */
  readonly looks: Float64Array;
}

/** Strides that differ by more than this part from the middle one are others; so are those that turn by more (rad). */
const ALIKE = 0.15;
const STRAIGHT = 0.35;
/** Travel within this (rad) of the facing is straight ahead, its rest the facing's own unevenness. */
const AHEAD = 0.2;

interface Span {
  readonly from: number;
  readonly time: number;
  readonly right: number;
}

/**
 * The mean of a clip's strides, each from a landing of the left foot to its next with one of the right between, of those that
 * are about as long as most and go straight. `view`: the clip on the body measured on it. Null where there is none.
 */
export function meanStride(view: Motion, clip: Clip, contacts: readonly ClipContact[]): MeanStride | null {
  const spans = spansOf(clip, contacts);
  if (spans.length === 0) return null;
  const middle = (values: number[]) => values.sort((a, b) => a - b)[values.length >> 1]!;
  const place = (t: number) => {
    const p = new Float64Array(4);
    view.place(t, p);
    return p;
  };
  const ways = spans.map((s) => {
    const [a, b] = [place(s.from), place(s.from + s.time)];
    const [dx, dz] = [b[0]! - a[0]!, b[2]! - a[2]!];
    const facing = a[3]! + wrapAngle(b[3]! - a[3]!) / 2;
    return { ...s, a, dx, dz, length: Math.hypot(dx, dz), turned: Math.abs(wrapAngle(b[3]! - a[3]!)), facing };
  });
  const time = middle(ways.map((w) => w.time)),
    length = middle(ways.map((w) => w.length));
  const alike = ways.filter((w) => Math.abs(w.time / time - 1) < ALIKE && Math.abs(w.length - length) < ALIKE * Math.max(length, 0.3) && w.turned < STRAIGHT);
  if (alike.length === 0) return null;
  const mean = (of: (w: (typeof alike)[number]) => number) => alike.reduce((sum, w) => sum + of(w), 0) / alike.length;
  const direction = Math.atan2(
    mean((w) => Math.sin(aside(w))),
    mean((w) => Math.cos(aside(w))),
  );
  const ahead = Math.abs(direction) < AHEAD;
  const looks = new Float64Array(LOOKS * LOOK);
  for (const w of alike) addStride(looks, view, w.from, w.time, w.a, w.dx, w.dz, ahead ? Math.atan2(w.dx, w.dz) : w.facing);
  finish(looks, alike.length);
  return {
    strides: alike.length,
    strideTime: mean((w) => w.time),
    strideLength: mean((w) => w.length),
    direction: ahead ? 0 : direction,
    stands: [
      standsOf(
        clip,
        contacts,
        'left',
        mean((w) => w.time),
      ),
      standsOf(
        clip,
        contacts,
        'right',
        mean((w) => w.time),
      ),
    ],
    rightLands: mean((w) => w.right),
    looks,
  };
}

const aside = (w: { dx: number; dz: number; length: number; facing: number }): number => (w.length < 0.05 ? 0 : wrapAngle(Math.atan2(w.dx, w.dz) - w.facing));

/** Stretches from a landing of the left foot to its next, the right one's landing between as a part of it. */
function spansOf({ rate, loop, frames }: Clip, contacts: readonly ClipContact[]): Span[] {
  const landings = (foot: string) => {
    const own = contacts.filter((c) => c.foot === foot).map((c) => c.from / rate);
    return (loop ? own.flatMap((t) => [-1, 0, 1, 2].map((round) => t + (round * frames) / rate)) : own.filter((t) => t > 2 / rate)).sort((a, b) => a - b);
  };
  const [left, right] = [landings('left'), landings('right')];
  const spans: Span[] = [];
  for (let i = 0; i + 1 < left.length; i++) {
    const [from, to] = [left[i]!, left[i + 1]!];
    if (loop && (from < -1e-9 || from >= frames / rate - 1e-9)) continue;
    // Both feet may land at once: a hop.
    const between = right.filter((t) => t > from - 0.02 && t < to - 0.02);
    if (between.length === 1 && to - from > 0.25 && to - from < 3)
      spans.push({ from, time: to - from, right: Math.max(0, (between[0]! - from) / (to - from)) });
  }
  return spans;
}

/** Part of the stride a foot stands, by the middle one of its contacts. */
function standsOf({ rate }: Clip, contacts: readonly ClipContact[], foot: string, time: number): number {
  const parts = contacts.filter((c) => c.foot === foot).map((c) => (c.to - c.from) / rate / time);
  const usual = parts.filter((p) => p > 0.1 && p < 0.9).sort((a, b) => a - b);
  return usual[usual.length >> 1] ?? 0.6;
}

/** Adds a stride's looks, rotations on the side of those that are there. */
function addStride(looks: Float64Array, view: Motion, from: number, time: number, start: Float64Array, dx: number, dz: number, facing: number): void {
  const reader = createLookReader(view);
  const look = new Float64Array(LOOK);
  for (let i = 0; i < LOOKS; i++) {
    const u = i / LOOKS;
    reader(from + u * time, start[0]! + dx * u, start[2]! + dz * u, facing, look);
    const o = i * LOOK;
    for (let k = 0; k < 3; k++) looks[o + k] = looks[o + k]! + look[k]!;
    for (let q = 3; q < LOOK; q += 4) {
      let dot = 0;
      for (let k = 0; k < 4; k++) dot += looks[o + q + k]! * look[q + k]!;
      const sign = dot < 0 ? -1 : 1;
      for (let k = 0; k < 4; k++) looks[o + q + k] = looks[o + q + k]! + sign * look[q + k]!;
    }
  }
}

function finish(looks: Float64Array, strides: number): void {
  for (let o = 0; o < looks.length; o += LOOK) {
    for (let k = 0; k < 3; k++) looks[o + k] = looks[o + k]! / strides;
    for (let q = o + 3; q < o + LOOK; q += 4) {
      const l = Math.hypot(looks[q]!, looks[q + 1]!, looks[q + 2]!, looks[q + 3]!);
      for (let k = 0; k < 4; k++) looks[q + k] = looks[q + k]! / l;
    }
  }
}

/** Reads a motion at a time as it is seen from a place that goes along steadily. */
export function createLookReader(motion: Motion): (t: number, x: number, z: number, facing: number, out: Float64Array) => void {
  const { skeleton } = motion.body;
  const pose = new Float64Array(poseSize(skeleton));
  const world = createWorldPose(skeleton);
  return (t, x, z, facing, out) => {
    motion.pose(t, pose, 0);
    forwardKinematics(skeleton, pose, 0, world);
    const back = [0, -Math.sin(facing / 2), 0, Math.cos(facing / 2)];
    const h = JOINT.hips;
    rotate(out, 0, back, 0, world.positions[h * 3]! - x, world.positions[h * 3 + 1]!, world.positions[h * 3 + 2]! - z);
    multiply(out, 3, back, 0, world.rotations, h * 4);
    for (let j = 0; j < JOINT_COUNT * 4; j++) out[7 + j] = pose[6 + j]!;
    // Of the trunk what counts is where chest and head are turned to, however its joints share it.
    for (const j of [JOINT.upperChest, JOINT.head]) multiply(out, 7 + j * 4, back, 0, world.rotations, j * 4);
  };
}
