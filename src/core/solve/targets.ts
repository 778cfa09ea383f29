import type { Side } from '../body/roles';
import { composePlacement, composePoint, composeTurn } from '../math/placement';
import { slerp } from '../math/quaternion';
import { wrapAngle } from '../math/scalar';
import { threadWeights } from '../math/thread';

/**
 * What a pose is asked to be, before the body has its say: one buffer with these offsets. `aim` decides it, `read` takes
 * any pose to it, `reach` makes a pose of it; corrections, mixes and joins act on it. World frame, metres, radians.
 */
export const TARGET = {
  /** Placement of the root: x, y, z, yaw. */
  root: 0,
  /** Wished place of the hips, 3, and their orientation, 4. */
  hips: 4,
  hipsTurn: 7,
  /**
   * Orientation of the chest, 4, and how spine and chest joints leave the even thirds of the way to it, 4 each: spine = third
   * after spineShare, chest = chestBefore after third after chestShare (the last named is applied first).
   */
  chest: 11,
  spineShare: 15,
  chestBefore: 19,
  chestShare: 23,
  /** Orientation of the head, 4, and how the neck leaves the even half of the way to it, 4. */
  head: 27,
  neckShare: 31,
  /** Straightest knee, and sharpness (1/m) with which hips give way to legs; 0: their height is planned for the legs. */
  straightest: 35,
  sharpness: 36,
  /** Left foot; the right one follows. */
  feet: 37,
  /** Left arm; the right one follows. */
  arms: 59,
} as const;

/** Per foot: point of the ground under the ankle of the flat foot, 3; frame, pitch, bend, roll; heading of the knee; whether it stands. */
export const FOOT_TARGET = { x: 0, y: 1, z: 2, heading: 3, slopeX: 4, slopeZ: 5, pitch: 6, bend: 7, roll: 8, knee: 9, planted: 10 } as const;
const FOOT_TARGET_SIZE = 11;
/** Per arm: local rotations of shoulder, upper arm, forearm and hand; a place for its palm, the facing its elbow minds, and the weight of that place. */
export const ARM_TARGET = { rotations: 0, palm: 16, facing: 19, weight: 20 } as const;
const ARM_TARGET_SIZE = 21;
export const TARGETS_SIZE = TARGET.arms + 2 * ARM_TARGET_SIZE;

export type Targets = Float64Array;
export const footAt = (side: Side): number => TARGET.feet + side * FOOT_TARGET_SIZE;
export const armAt = (side: Side): number => TARGET.arms + side * ARM_TARGET_SIZE;

/** Quaternions that stand in the world, and those that stand in the figure. */
const WORLD_TURNS = [TARGET.hipsTurn, TARGET.chest, TARGET.head];
const LOCAL_TURNS = [
  TARGET.spineShare,
  TARGET.chestBefore,
  TARGET.chestShare,
  TARGET.neckShare,
  ...([0, 1] as const).flatMap((s) => [0, 4, 8, 12].map((k) => armAt(s) + k)),
];
/** Headings, which have wound up as they may: they go over the shorter way round. */
const HEADINGS = [
  TARGET.root + 3,
  ...([0, 1] as const).flatMap((s) => [footAt(s) + FOOT_TARGET.heading, footAt(s) + FOOT_TARGET.knee, armAt(s) + ARM_TARGET.facing]),
];
const IS_TURN = new Uint8Array(TARGETS_SIZE);
for (const q of [...WORLD_TURNS, ...LOCAL_TURNS]) IS_TURN.fill(1, q, q + 4);

/** Targets of a figure whose joints are all unturned; places are zero. */
export function createTargets(): Targets {
  const targets = new Float64Array(TARGETS_SIZE);
  for (const q of [...WORLD_TURNS, ...LOCAL_TURNS]) targets[q + 3] = 1;
  return targets;
}

/**
 * out = a, taken towards b by u: numbers evenly, rotations along the shorter arc. Two feet that stand on the same foothold
 * stay on it at any u, since a sole is told by its place on the ground and how far it is rolled. `out` may be either.
 */
export function blendTargets(a: Targets, b: Targets, u: number, out: Targets): void {
  for (let k = 0; k < TARGETS_SIZE; k++)
    if (IS_TURN[k] === 0) out[k] = HEADINGS.includes(k) ? a[k]! + wrapAngle(b[k]! - a[k]!) * u : a[k]! + (b[k]! - a[k]!) * u;
  for (let i = 0; i < WORLD_TURNS.length; i++) slerp(out, WORLD_TURNS[i]!, a, WORLD_TURNS[i]!, b, WORLD_TURNS[i]!, u);
  for (let i = 0; i < LOCAL_TURNS.length; i++) slerp(out, LOCAL_TURNS[i]!, a, LOCAL_TURNS[i]!, b, LOCAL_TURNS[i]!, u);
  for (const side of [0, 1] as const) {
    // A foot stands where it stands in both.
    const at = footAt(side) + FOOT_TARGET.planted;
    if (u > 0 && u < 1) out[at] = a[at] === 1 && b[at] === 1 ? 1 : 0;
  }
}

/**
 * Targets between the second and third of four even pictures at `from[a..]` … `from[d..]`, by u: a curve through them whose
 * rate is continuous (`threadWeights`). A foot stands where it stands in both.
 */
export function threadTargets(from: Float64Array, a: number, b: number, c: number, d: number, u: number, out: Targets): void {
  const [wa, wb, wc, wd] = threadWeights(u);
  for (let k = 0; k < TARGETS_SIZE; k++) out[k] = wa * from[a + k]! + wb * from[b + k]! + wc * from[c + k]! + wd * from[d + k]!;
  for (const turns of [WORLD_TURNS, LOCAL_TURNS])
    for (const q of turns) {
      // On the same side of the sphere as the second one, then on the sphere.
      const sign = (o: number) =>
        from[o + q]! * from[b + q]! + from[o + q + 1]! * from[b + q + 1]! + from[o + q + 2]! * from[b + q + 2]! + from[o + q + 3]! * from[b + q + 3]! < 0
          ? -1
          : 1;
      const [sa, sc, sd] = [sign(a) * wa, sign(c) * wc, sign(d) * wd];
      let square = 0;
      for (let k = q; k < q + 4; k++) {
        out[k] = sa * from[a + k]! + wb * from[b + k]! + sc * from[c + k]! + sd * from[d + k]!;
        square += out[k]! * out[k]!;
      }
      const length = Math.sqrt(square);
      for (let k = q; k < q + 4; k++) out[k] = out[k]! / length;
    }
  for (const side of [0, 1] as const) {
    const foot = footAt(side);
    const stands = from[b + foot + FOOT_TARGET.planted] === 1 && from[c + foot + FOOT_TARGET.planted] === 1;
    out[foot + FOOT_TARGET.planted] = stands ? 1 : 0;
    // Where it stands it does not feel where it came from.
    if (stands) for (const k of [FOOT_TARGET.x, FOOT_TARGET.y, FOOT_TARGET.z, FOOT_TARGET.heading]) out[foot + k] = from[b + foot + k]!;
  }
}

/** Moves everything that stands in the world by a placement at by[i..]. Allocates nothing. */
export function placeTargets(targets: Targets, by: Float64Array, i: number): void {
  const yaw = by[i + 3]!;
  composePlacement(targets, TARGET.root, by, i, targets, TARGET.root);
  composePoint(targets, TARGET.hips, by, i, targets, TARGET.hips);
  for (let n = 0; n < WORLD_TURNS.length; n++) composeTurn(targets, WORLD_TURNS[n]!, by, i);
  const sin = Math.sin(yaw),
    cos = Math.cos(yaw);
  for (let side = 0; side < 2; side++) {
    const f = footAt(side as Side);
    composePoint(targets, f, by, i, targets, f);
    targets[f + FOOT_TARGET.heading] = targets[f + FOOT_TARGET.heading]! + yaw;
    targets[f + FOOT_TARGET.knee] = targets[f + FOOT_TARGET.knee]! + yaw;
    const gx = targets[f + FOOT_TARGET.slopeX]!,
      gz = targets[f + FOOT_TARGET.slopeZ]!;
    targets[f + FOOT_TARGET.slopeX] = cos * gx + sin * gz;
    targets[f + FOOT_TARGET.slopeZ] = -sin * gx + cos * gz;
    const a = armAt(side as Side);
    composePoint(targets, a + ARM_TARGET.palm, by, i, targets, a + ARM_TARGET.palm);
    targets[a + ARM_TARGET.facing] = targets[a + ARM_TARGET.facing]! + yaw;
  }
}
