import { CONTACT_NUMBERS, contactPoints, ownFeet } from '../body/foot-model';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import type { Foothold, Motion } from '../motion/motion';

/** How the feet of a motion meet its ground, whatever the ground is; millimetres. */
export interface Footing {
  /** Farthest a pivot of a standing sole moves while it is the pivot. */
  readonly slideMm: number;
  /** Farthest a standing sole's pivot lies off its foothold's plane. */
  readonly offPlaneMm: number;
  /** Deepest point of a standing sole under the ground, and of a swinging one. */
  readonly plantedSinkMm: number;
  readonly swingSinkMm: number;
  /** Time (s) of the deepest swing. */
  readonly worstSwing: number;
}

/** A sole point within this of the lowest over its foothold's plane (m) counts as a pivot. */
const PIVOT_EPS_M = 2e-5;

/** Looks at every sole point of a motion `rate` times a second over its whole length, by its poses and footholds. */
export function measureFooting(motion: Motion, rate: number): Footing {
  const { body, ground, duration } = motion;
  const feet = ownFeet(body);
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  const points = new Float64Array(CONTACT_NUMBERS);
  const holds = motion.footholds(0, duration);
  const stood = feet.map(() => ({ hold: null as Foothold | null, bits: 0, anchors: new Float64Array(CONTACT_NUMBERS) }));
  let [slide, off, planted, swing, worst] = [0, 0, 0, 0, 0];
  const frames = Math.round(duration * rate);
  for (let f = 0; f <= frames; f++) {
    const t = (duration * f) / frames;
    motion.pose(t, pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
    feet.forEach((foot, side) => {
      contactPoints(foot, world, points, 0);
      let deepest = 0;
      for (let k = 0; k < CONTACT_NUMBERS; k += 3) deepest = Math.max(deepest, ground.height(points[k]!, points[k + 2]!) - points[k + 1]!);
      const hold = holds.find((h) => h.side === side && h.landing <= t && h.leaving >= t) ?? null;
      const state = stood[side]!;
      if (!hold) {
        state.hold = null;
        if (deepest > swing) {
          swing = deepest;
          worst = t;
        }
        return;
      }
      planted = Math.max(planted, deepest);
      // Heights over the foothold's plane, along its normal.
      const up = 1 / Math.hypot(hold.slopeX, 1, hold.slopeZ);
      const heights = [0, 3, 6].map((k) => (points[k + 1]! - hold.y - hold.slopeX * (points[k]! - hold.x) - hold.slopeZ * (points[k + 2]! - hold.z)) * up);
      const lowest = Math.min(...heights);
      off = Math.max(off, Math.abs(lowest));
      if (state.hold !== hold) state.bits = 0;
      state.hold = hold;
      heights.forEach((h, i) => {
        const bit = 1 << i,
          k = i * 3;
        if (h > lowest + PIVOT_EPS_M) {
          state.bits &= ~bit;
          return;
        }
        if (!(state.bits & bit)) state.anchors.set(points.subarray(k, k + 3), k);
        state.bits |= bit;
        slide = Math.max(slide, Math.hypot(points[k]! - state.anchors[k]!, points[k + 1]! - state.anchors[k + 1]!, points[k + 2]! - state.anchors[k + 2]!));
      });
    });
  }
  return { slideMm: slide * 1000, offPlaneMm: off * 1000, plantedSinkMm: planted * 1000, swingSinkMm: swing * 1000, worstSwing: worst };
}
