import { SIDES, UPPER_LEG } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { finish } from '../math/finish';
import type { Shortness } from '../solve/reach';
import type { Jolt, Motion, Survey } from './motion';

/** Moments looked at between two looks at a cancel. */
const AT_ONCE = 256;
/** Looks a second: as often as knees and hips are judged by. */
const LOOKS_PER_S = 240;
/** Motions up to so many seconds are looked at so closely all through; longer ones at either end and in the middle, for so long. */
const WHOLE_S = 600;
const CLOSE_S = 120;
/** The rest of a longer motion. */
const FAR_LOOKS_PER_S = 24;

type Missed = Pick<Survey, 'tooFar' | 'tooNear' | 'handMissed' | 'kneeSnap' | 'hipsAcceleration' | 'jolts'>;
type Looked = Pick<Motion, 'body' | 'duration' | 'pose'>;

/** Spans (s) of a motion to be looked at closely. */
function closeSpans(duration: number): [number, number][] {
  if (duration <= WHOLE_S) return [[0, duration]];
  const middle = (duration - CLOSE_S) / 2;
  return [
    [0, CLOSE_S],
    [middle, middle + CLOSE_S],
    [duration - CLOSE_S, duration],
  ];
}

/** Keeps the largest accelerations of joints of poses given one after the other, LOOKS_PER_S a second; `apart`: the next one follows none. */
function joltsOf({ body: { skeleton } }: Looked) {
  const world = createWorldPose(skeleton);
  const n = world.positions.length;
  const rows = [0, 1, 2].map(() => new Float64Array(n));
  const found: { most: number; at: number }[] = skeleton.names.map(() => ({ most: 0, at: 0 }));
  let count = 0;
  return {
    found: found as readonly Jolt[],
    apart: () => {
      count = 0;
    },
    see(t: number, pose: Float64Array): void {
      forwardKinematics(skeleton, pose, 0, world);
      rows.push(rows.shift()!);
      rows[2]!.set(world.positions);
      if (++count < 3) return;
      const [a, b, c] = rows as [Float64Array, Float64Array, Float64Array];
      found.forEach((jolt, j) => {
        const second = (k: number) => a[3 * j + k]! - 2 * b[3 * j + k]! + c[3 * j + k]!;
        const size = Math.hypot(second(0), second(1), second(2)) * LOOKS_PER_S * LOOKS_PER_S;
        if (size > jolt.most) [jolt.most, jolt.at] = [size, t - 1 / LOOKS_PER_S];
      });
    },
  };
}

/** The most that legs and hands miss, as `short` tells it after each pose, and the hardest turns of knees and hips. */
export function* missing(motion: Looked, short: Shortness): Generator<undefined, Missed> {
  const { body, duration, pose } = motion;
  const jolts = joltsOf(motion);
  const trial = new Float64Array(poseSize(body.skeleton));
  const most = { tooFar: 0, tooNear: 0, handMissed: 0 };
  let snap = 0,
    looked = 0;
  const hips: [number, number] = [0, 0];
  const see = (t: number) => {
    pose(t, trial, 0);
    most.tooFar = Math.max(most.tooFar, short.tooFar);
    most.tooNear = Math.min(most.tooNear, short.tooNear);
    most.handMissed = Math.max(most.handMissed, short.handMissed);
  };
  // Bends of both knees and the hips' height, at three looks in a row.
  const row = new Float64Array(9);
  for (const [from, to] of closeSpans(duration)) {
    const n = Math.ceil((to - from) * LOOKS_PER_S);
    jolts.apart();
    for (let i = -1; i <= n + 1; i++) {
      if (looked++ % AT_ONCE === AT_ONCE - 1) yield undefined;
      see(from + i / LOOKS_PER_S);
      if (i >= 0 && i <= n) jolts.see(from + i / LOOKS_PER_S, trial);
      row.copyWithin(0, 3);
      for (const side of SIDES) row[6 + side] = 2 * Math.acos(Math.min(1, Math.abs(trial[6 + (UPPER_LEG[side] + 1) * 4 + 3]!)));
      row[8] = trial[4]! + trial[1]!;
      if (i < 1) continue;
      const second = (k: number) => (row[k]! - 2 * row[k + 3]! + row[k + 6]!) * LOOKS_PER_S * LOOKS_PER_S;
      snap = Math.max(snap, Math.abs(second(0)), Math.abs(second(1)));
      const a = second(2);
      if (a < hips[0]) hips[0] = a;
      if (a > hips[1]) hips[1] = a;
    }
  }
  if (duration > WHOLE_S)
    for (let i = 0; i <= duration * FAR_LOOKS_PER_S; i++) {
      if (looked++ % AT_ONCE === AT_ONCE - 1) yield undefined;
      see(i / FAR_LOOKS_PER_S);
    }
  return { ...most, kneeSnap: snap, hipsAcceleration: hips, jolts: jolts.found };
}

/** A survey that is made when first asked for, at once or bit by bit, and kept. */
export function kept(make: () => Generator<undefined, Survey>): Pick<Motion, 'survey' | 'surveying'> {
  let found: Survey | null = null;
  function* surveying(): Generator<undefined, Survey> {
    return (found ??= yield* make());
  }
  return { surveying, survey: () => found ?? finish(surveying()) };
}
