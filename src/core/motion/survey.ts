import { SIDES, UPPER_LEG, type Side } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { finish } from '../math/finish';
import type { Shortness } from '../solve/reach';
import type { Jolt, Moment, Motion, Shortcoming, Survey } from './motion';

/** Moments looked at between two looks at a cancel. */
const AT_ONCE = 256;
/** Looks a second: as often as knees and hips are judged by. */
const LOOKS_PER_S = 240;
/** Motions up to so many seconds are looked at so closely all through; longer ones at either end and in the middle, for so long. */
const WHOLE_S = 600;
const CLOSE_S = 120;
/** The rest of a longer motion. */
const FAR_LOOKS_PER_S = 24;

type Missed = Pick<Survey, 'tooFar' | 'tooNear' | 'handMissed' | 'kneeSnap' | 'hipsAcceleration' | 'jolts' | 'worst'>;
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

/** Keeps the largest of each kind, when that was and on which side. */
function worstOf() {
  const most: Record<Shortcoming, number> = { tooFar: 0, tooNear: 0, handMissed: 0, kneeSnap: 0, hipsDown: 0, hipsUp: 0 };
  const nowhere: Moment = { at: 0, side: null };
  const worst: Record<Shortcoming, Moment> = { tooFar: nowhere, tooNear: nowhere, handMissed: nowhere, kneeSnap: nowhere, hipsDown: nowhere, hipsUp: nowhere };
  const see = (what: Shortcoming, size: number, at: number, side: Side | null = null) => {
    if (size <= most[what]) return;
    most[what] = size;
    worst[what] = { at, side };
  };
  return { most, worst, see };
}

/** Nothing is wrong at any time: of a motion that was not looked at. */
export const nowhereWorst = (): Survey['worst'] => worstOf().worst;

/**
 * The most that legs and hands miss, as `short` tells it after each pose, and the hardest turns of knees and hips. `beyond`: so many
 * looks past either end; none where a motion is cut off while it goes.
 */
export function* missing(motion: Looked, short: Shortness, beyond = 1): Generator<undefined, Missed> {
  const { body, duration, pose } = motion;
  const jolts = joltsOf(motion);
  const trial = new Float64Array(poseSize(body.skeleton));
  const { most, worst, see: keep } = worstOf();
  let looked = 0;
  const see = (t: number) => {
    pose(t, trial, 0);
    keep('tooFar', short.tooFar, t, short.farSide);
    keep('tooNear', -short.tooNear, t, short.nearSide);
    keep('handMissed', short.handMissed, t);
  };
  // Bends of both knees and the hips' height, at three looks in a row.
  const row = new Float64Array(9);
  for (const [from, to] of closeSpans(duration)) {
    const n = beyond > 0 ? Math.ceil((to - from) * LOOKS_PER_S) : Math.floor((to - from) * LOOKS_PER_S + 1e-6);
    jolts.apart();
    for (let i = -beyond; i <= n + beyond; i++) {
      if (looked++ % AT_ONCE === AT_ONCE - 1) yield undefined;
      see(from + i / LOOKS_PER_S);
      if (i >= 0 && i <= n) jolts.see(from + i / LOOKS_PER_S, trial);
      row.copyWithin(0, 3);
      for (const side of SIDES) row[6 + side] = 2 * Math.acos(Math.min(1, Math.abs(trial[6 + (UPPER_LEG[side] + 1) * 4 + 3]!)));
      row[8] = trial[4]! + trial[1]!;
      if (i < 2 - beyond) continue;
      const second = (k: number) => (row[k]! - 2 * row[k + 3]! + row[k + 6]!) * LOOKS_PER_S * LOOKS_PER_S;
      const t = from + (i - 1) / LOOKS_PER_S;
      for (const side of SIDES) keep('kneeSnap', Math.abs(second(side)), t, side);
      keep('hipsUp', second(2), t);
      keep('hipsDown', -second(2), t);
    }
  }
  if (duration > WHOLE_S)
    for (let i = 0; i <= duration * FAR_LOOKS_PER_S; i++) {
      if (looked++ % AT_ONCE === AT_ONCE - 1) yield undefined;
      see(i / FAR_LOOKS_PER_S);
    }
  const { hipsDown, hipsUp, tooNear, ...found } = most;
  return { ...found, tooNear: 0 - tooNear, hipsAcceleration: [0 - hipsDown, hipsUp], jolts: jolts.found, worst };
}

/** A survey that is made when first asked for, at once or bit by bit, and kept. */
export function kept(make: () => Generator<undefined, Survey>): Pick<Motion, 'survey' | 'surveying'> {
  let found: Survey | null = null;
  function* surveying(): Generator<undefined, Survey> {
    return (found ??= yield* make());
  }
  return { surveying, survey: () => found ?? finish(surveying()) };
}
