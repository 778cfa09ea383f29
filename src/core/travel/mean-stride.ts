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
  /** The strides it is the mean of, s. */
  readonly strides: readonly { readonly from: number; readonly to: number }[];
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

/** Strides that differ by more than this part are others; those that turn by more (rad) are left out, as are those that go another way (rad). */
const ALIKE = 0.15;
const TURNS = 1.2;
const ONE_WAY = 0.5;
/** Less way (m) than this goes nowhere. */
const NO_WAY_M = 0.05;
/** Travel within this (rad) of the facing is straight ahead, its rest the facing's own unevenness. */
const AHEAD = 0.2;

/** From a landing of a foot to its next: when the left one lands in it, and how long after that the right one, parts of it. */
interface Span {
  readonly from: number;
  readonly time: number;
  readonly left: number;
  readonly right: number;
}

/** A stride as a way: where it begins and faces, its direction against that, its length along an arc of even turn. */
interface Way extends Span {
  readonly x: number;
  readonly z: number;
  readonly facing: number;
  readonly aside: number;
  readonly length: number;
  readonly turn: number;
}

/**
 * The mean of a clip's strides, each from a landing of a foot to its next with one of the other between, of those that are about
 * alike and go farthest; an even turn is taken out. `view`: the clip on the body measured on it. Null where there is none.
 */
export function meanStride(view: Motion, clip: Clip, contacts: readonly ClipContact[]): MeanStride | null {
  const spans = spansOf(clip, contacts);
  if (spans.length === 0) return null;
  const place = (t: number) => {
    const p = new Float64Array(4);
    view.place(t, p);
    return p;
  };
  const ways = spans.map((s): Way => {
    const [a, b] = [place(s.from), place(s.from + s.time)];
    const turn = wrapAngle(b[3]! - a[3]!);
    const chord = Math.hypot(b[0]! - a[0]!, b[2]! - a[2]!);
    const aside = chord < NO_WAY_M ? 0 : wrapAngle(Math.atan2(b[0]! - a[0]!, b[2]! - a[2]!) - a[3]! - turn / 2);
    // Along an arc of even turn.
    const length = Math.abs(turn) < 1e-6 ? chord : (chord * (turn / 2)) / Math.sin(turn / 2);
    return { ...s, x: a[0]!, z: a[2]!, facing: a[3]!, aside, length, turn };
  });
  const straight = ways.filter((w) => Math.abs(w.turn) < TURNS);
  if (straight.length === 0) return null;
  const likes = straight.map((w) =>
    straight.filter(
      (o) =>
        Math.abs(o.time / w.time - 1) < ALIKE &&
        Math.abs(o.length - w.length) < ALIKE * Math.max(w.length, 0.3) &&
        Math.abs(wrapAngle(o.aside - w.aside)) < ONE_WAY,
    ),
  );
  // Whoever walks goes far, straight, and along the facing; who shifts the feet does not.
  const worth = (own: readonly Way[]) =>
    own.reduce((sum, w) => sum + (NO_WAY_M + w.length) ** 2 * Math.cos(w.turn) ** 2 * (1 + Math.abs(Math.cos(w.aside))), 0);
  const alike = likes.reduce((best, own) => (worth(own) > worth(best) ? own : best));
  const mean = (of: (w: (typeof alike)[number]) => number) => alike.reduce((sum, w) => sum + of(w), 0) / alike.length;
  const direction = Math.atan2(
    mean((w) => Math.sin(w.aside)),
    mean((w) => Math.cos(w.aside)),
  );
  const strideTime = mean((w) => w.time);
  const ahead = Math.abs(direction) < AHEAD;
  const looks = new Float64Array(LOOKS * LOOK);
  for (const w of alike) addStride(looks, view, w, ahead ? w.aside : 0);
  finish(looks, alike.length);
  return {
    strides: alike.map((w) => ({ from: w.from, to: w.from + w.time })),
    strideTime,
    strideLength: mean((w) => w.length),
    direction: ahead ? 0 : direction,
    stands: [standsOf(clip, contacts, 'left', strideTime), standsOf(clip, contacts, 'right', strideTime)],
    rightLands: mean((w) => w.right),
    looks,
  };
}

/** Stretches from a landing of a foot to its next with just one of the other between. */
function spansOf({ rate, loop, frames }: Clip, contacts: readonly ClipContact[]): Span[] {
  const landings = (foot: string) => {
    const own = contacts.filter((c) => c.foot === foot).map((c) => c.from / rate);
    return (loop ? own.flatMap((t) => [-1, 0, 1, 2].map((round) => t + (round * frames) / rate)) : own.filter((t) => t > 2 / rate)).sort((a, b) => a - b);
  };
  const feet = [landings('left'), landings('right')] as const;
  const spans: Span[] = [];
  feet.forEach((own, side) => {
    for (let i = 0; i + 1 < own.length; i++) {
      const [from, to] = [own[i]!, own[i + 1]!];
      const time = to - from;
      if ((loop && (from < -1e-9 || from >= frames / rate - 1e-9)) || time < 0.25 || time > 3) continue;
      // Both feet may land at once: a hop.
      const between = feet[1 - side]!.filter((t) => t > from - 0.02 && t < to - 0.02);
      if (between.length !== 1) continue;
      const other = Math.max(0, (between[0]! - from) / time);
      // Of a loop, or of a hop, strides of the left foot tell all.
      if (side === 0) spans.push({ from, time, left: 0, right: other });
      else if (!loop && other > 0) spans.push({ from, time, left: other, right: 1 - other });
    }
  });
  return spans;
}

/** Part of the stride a foot stands, by the middle one of its contacts. */
function standsOf({ rate }: Clip, contacts: readonly ClipContact[], foot: string, time: number): number {
  const parts = contacts.filter((c) => c.foot === foot).map((c) => (c.to - c.from) / rate / time);
  const usual = parts.filter((p) => p > 0.1 && p < 0.9).sort((a, b) => a - b);
  return usual[usual.length >> 1] ?? 0.6;
}

/** Adds a stride's looks, its turn taken out, rotations on the side of those that are there; `aside`: from the facing to what counts as ahead. */
function addStride(looks: Float64Array, view: Motion, { from, time, left, x, z, facing, aside: way, length, turn }: Way, aside: number): void {
  const reader = createLookReader(view);
  const look = new Float64Array(LOOK);
  const h = facing + way;
  for (let i = 0; i < LOOKS; i++) {
    const u = (i / LOOKS + left) % 1;
    const [dx, dz] =
      Math.abs(turn) < 1e-6
        ? [length * u * Math.sin(h), length * u * Math.cos(h)]
        : [(length / turn) * (Math.cos(h) - Math.cos(h + turn * u)), (length / turn) * (Math.sin(h + turn * u) - Math.sin(h))];
    reader(from + u * time, x + dx, z + dz, facing + turn * u + aside, look);
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
