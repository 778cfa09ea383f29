import { SIDES, UPPER_LEG } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { centreOfMass } from '../body/centre-of-mass';
import { GRAVITY } from '../math/scalar';
import type { Motion } from '../motion/motion';

/** Pictures a second at which accelerations are measured, as central second differences. */
const METER_RATE = 240;

/** Worst of a motion, measured from its poses alone. */
export interface Meters {
  /** Largest angular acceleration of a knee, °/s², as a leg of 0.845 m would have it at the same Froude number, and when (s). */
  readonly snap: number;
  readonly snapAt: number;
  /** Least and largest vertical acceleration of the hips, m/s². */
  readonly hips: readonly [number, number];
  readonly hipsAt: number;
  /** Least and largest vertical load, parts of the weight. */
  readonly load: readonly [number, number];
  /** Range of the hips' height, m. */
  readonly heights: readonly [number, number];
  /** Least and largest bend of a knee, degrees. */
  readonly knees: readonly [number, number];
}

/** Leg length (m) for which bars of the knee are told. */
const REFERENCE_LEG_M = 0.845;
const DEG = 180 / Math.PI;

/** Measures from `from` to `to` s (a whole round of a motion that repeats). */
export function meter(motion: Motion, from = 0, to = motion.duration): Meters {
  const { skeleton } = motion.body;
  const pose = new Float64Array(poseSize(skeleton));
  const world = createWorldPose(skeleton);
  const com = new Float64Array(3);
  const n = Math.ceil((to - from) * METER_RATE);
  const rows: number[][] = [];
  for (let i = -1; i <= n + 1; i++) {
    motion.pose(from + i / METER_RATE, pose, 0);
    forwardKinematics(skeleton, pose, 0, world);
    centreOfMass(world, com, 0);
    const knees = SIDES.map((side) => 2 * Math.acos(Math.min(1, Math.abs(pose[6 + (UPPER_LEG[side] + 1) * 4 + 3]!))));
    rows.push([world.positions[1 * 3 + 1]!, com[1]!, ...knees]);
  }
  const second = (k: number, i: number) => (rows[i + 1]![k]! - 2 * rows[i]![k]! + rows[i - 1]![k]!) * METER_RATE * METER_RATE;
  let [snap, snapAt, hipsAt] = [0, 0, 0];
  const hips = [Infinity, -Infinity] as [number, number],
    load = [Infinity, -Infinity] as [number, number],
    heights = [Infinity, -Infinity] as [number, number],
    knees = [Infinity, -Infinity] as [number, number];
  const widen = (span: [number, number], v: number) => {
    span[0] = Math.min(span[0], v);
    span[1] = Math.max(span[1], v);
  };
  const time = (i: number) => from + (i - 1) / METER_RATE;
  for (let i = 1; i <= n + 1; i++) {
    for (const k of [2, 3]) {
      const v = Math.abs(second(k, i)) * DEG * (motion.body.legLength / REFERENCE_LEG_M);
      if (v > snap) [snap, snapAt] = [v, time(i)];
      widen(knees, rows[i]![k]! * DEG);
    }
    const a = second(0, i);
    if (Math.abs(a) > Math.max(Math.abs(hips[0]), Math.abs(hips[1])) || hips[0] === Infinity) hipsAt = time(i);
    widen(hips, a);
    widen(load, 1 + second(1, i) / GRAVITY);
    widen(heights, rows[i]![0]!);
  }
  return { snap, snapAt, hips, hipsAt, load, heights, knees };
}
