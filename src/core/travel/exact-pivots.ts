import type { FootModel } from '../body/foot-model';
import { createWorldPose, forwardKinematics, poseSize, withAncestors } from '../body/skeleton';
import type { Clip } from '../clip/clip';
import { solveLinear } from '../math/linear';
import { rotate } from '../math/quaternion';

type Vector = readonly [number, number, number];

/** From picture to picture a foot that turns about a point turns by at least this, rad; a point that is off moves less than this per rad, m. */
const TURNS = 0.002;
const NEAR_M = 0.03;
/** Pictures it takes, and how far (m) the point may move in the middle of them to be a pivot, and to be counted. */
const LEAST = 12;
const EXACT_M = 1e-5;
const COUNTS = 4;
const ROUNDS = 6;
/** Farther (m) from where the sole is told to be is no point of it. */
const FARTHEST_M = 0.03;

/**
 * A foot with its heel and its tip where the foot turns about them exactly, as feet do that were locked: the point fixed to the joint
 * that stays while the joint turns, by least squares. As it is told where it turns about none.
 */
export function exactPivots(clip: Clip, foot: FootModel, first = 0): FootModel {
  return { ...foot, heel: pivotOf(clip, foot.ankle, foot.heel, first), tip: foot.toes === foot.ankle ? foot.tip : pivotOf(clip, foot.toes, foot.tip, first) };
}

/** Steps of a joint in which it turns: how its origin and the columns of its rotation change, 12 numbers a step. */
function turningSteps({ skeleton, poses, frames }: Clip, joint: number, first: number): number[][] {
  const size = poseSize(skeleton);
  const only = withAncestors(skeleton, [joint]);
  const world = createWorldPose(skeleton);
  const axes = [new Float64Array(12), new Float64Array(12)] as const;
  const steps: number[][] = [];
  for (let f = first; f < frames; f++) {
    forwardKinematics(skeleton, poses, f * size, world, only);
    const [now, before] = [axes[f % 2]!, axes[(f + 1) % 2]!];
    for (let k = 0; k < 3; k++) {
      now[k] = world.positions[joint * 3 + k]!;
      rotate(now, 3 + k * 3, world.rotations, joint * 4, k === 0 ? 1 : 0, k === 1 ? 1 : 0, k === 2 ? 1 : 0);
    }
    if (f === first) continue;
    const step = Array.from(now, (v, i) => v - before[i]!);
    if (Math.hypot(...step.slice(3)) > TURNS * Math.SQRT2) steps.push(step);
  }
  return steps;
}

function pivotOf(clip: Clip, joint: number, told: Vector, first: number): Vector {
  const all = turningSteps(clip, joint, first);
  const moved = (s: readonly number[], p: Vector) => Math.hypot(...[0, 1, 2].map((k) => s[k]! + s[3 + k]! * p[0] + s[6 + k]! * p[1] + s[9 + k]! * p[2]));
  const turn = (s: readonly number[]) => Math.hypot(...s.slice(3)) / Math.SQRT2;
  let point = told;
  // First what turns about somewhere near, then ever nearer to what turns about one point alone.
  let used = all.filter((s) => moved(s, told) < NEAR_M * turn(s));
  for (let round = 0; round < ROUNDS; round++) {
    if (used.length < LEAST) return told;
    point = fixedPoint(used, point);
    const sizes = used.map((s) => moved(s, point)).sort((a, b) => a - b);
    const middle = sizes[sizes.length >> 1]!;
    if (middle < EXACT_M && sizes.at(-1)! <= COUNTS * EXACT_M) break;
    used = used.filter((s) => moved(s, point) <= Math.max(COUNTS * EXACT_M, middle));
  }
  const exact = used.length >= LEAST && used.every((s) => moved(s, point) <= COUNTS * EXACT_M);
  return exact && Math.hypot(point[0] - told[0], point[1] - told[1], point[2] - told[2]) < FARTHEST_M ? point : told;
}

/** The point of a joint's frame that moves least over steps; held a little where it was, as a hinge leaves its own axis free. */
function fixedPoint(steps: readonly (readonly number[])[], near: Vector): Vector {
  const m = [0, 0, 0, 0, 0, 0, 0, 0, 0],
    r = [0, 0, 0];
  let size = 0;
  for (const s of steps)
    for (let k = 0; k < 3; k++) {
      const row = [s[3 + k]!, s[6 + k]!, s[9 + k]!];
      const miss = s[k]! + row[0]! * near[0] + row[1]! * near[1] + row[2]! * near[2];
      for (let i = 0; i < 3; i++) {
        for (let j = 0; j < 3; j++) m[i * 3 + j] = m[i * 3 + j]! + row[i]! * row[j]!;
        r[i] = r[i]! - row[i]! * miss;
        size += row[i]! * row[i]!;
      }
    }
  for (let i = 0; i < 3; i++) m[i * 4] = m[i * 4]! + HELD * size;
  const d = solveLinear([0, 3, 6].map((o, i) => Float64Array.of(m[o]!, m[o + 1]!, m[o + 2]!, r[i]!)));
  return [near[0] + d[0]!, near[1] + d[1]!, near[2] + d[2]!];
}
const HELD = 1e-5;
