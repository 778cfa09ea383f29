import { toRadians } from '../math/scalar';
import { leastSquares } from '../math/least-squares';
import { ANGLES, PLACES, RAW, type FootSeries } from './foot-series';
import type { Rolled, standingFoot } from './standing-foot';

/** A ball this far (m) over where it stood has left it; from where it is so far up for good the foot turns about its tip. */
const BALL_RISES = 0.012;
const BALL_UP = 0.004;
/** Fewer pictures are no turn about the tip; it takes so long (s) where the heel is up for that long. */
const LEAST_TIP = 3;
const TIP_S = 0.075;
/** What counts alike in a foot that rolls over its tip: ankle (m), sole and toes (rad) away from where they are recorded, and toes bent up (rad). */
const ANKLE_M = 0.01;
const SOLE_RAD = toRadians(4);
const TOES_RAD = toRadians(25);
const FORWARD_RAD = toRadians(1);
/** What is off as the foot leaves counts by so much more; and that it leaves as quick, and as evenly, as it is recorded. */
const LEAVES_MORE = 2;
const LEAVES_AS_QUICK = 4;
const LEAVES_AS_EVENLY = 10;
/** Numbers a picture that may be off, and rounds of the search. */
const TIP_MISSES = 8;
const TIP_ROUNDS = 8;

/** The picture from which on a foot turns about the tip of its toes: its ball rises for good. `to` where it does not. */
export function tipStart({ places }: FootSeries, rolls: readonly Rolled[], from: number, to: number, level: number, rate: number): number {
  const tipLeast = Math.round(TIP_S * rate);
  const up = (f: number) => places[f * PLACES + 7]! - level;
  if (!(up(to) > BALL_RISES) || !(rolls[to - from]!.lift < 0)) return to;
  let f = to;
  while (f > from && rolls[f - 1 - from]!.lift < 0 && (up(f - 1) > BALL_UP || to - f < tipLeast)) f--;
  return to - f < LEAST_TIP ? to : f;
}

/**
 * Rolls the foot on over its tip in the last pictures of a contact: toes and sole are pitched by smooth curves from nothing, so
 * that the ankle comes nearest to where it is recorded, the foot as it is.
 */
export function rollOverTip(series: FootSeries, foot: ReturnType<typeof standingFoot>, rolls: Rolled[], from: number, tipFrom: number, to: number): void {
  const { calm, angles } = series;
  const rest = angles[tipFrom * ANGLES + 4]!;
  const count = to - tipFrom;
  const at = (c: Float64Array, i: number): Rolled => {
    const u = i / count,
      u3 = u * u * u;
    const own = rolls[tipFrom - from + i]!;
    const more = (k: number) => u3 * (c[k]! + c[k + 1]! * u);
    return { toes: more(0), lift: own.lift + more(2), turn: own.turn + more(4), roll: own.roll + more(6) };
  };
  const misses = (c: Float64Array, out: Float64Array) => {
    for (let i = 1; i <= count; i++) {
      const rolled = at(c, i);
      foot.place(rolled, 'tip');
      const o = (i - 1) * TIP_MISSES;
      const f = tipFrom + i;
      const own = rolls[f - from]!;
      // What is off as it leaves is off in the swing as well.
      const counts = 1 + LEAVES_MORE * (i / count) ** 2;
      for (let k = 0; k < 3; k++) out[o + k] = (counts * (foot.ankle[k]! - calm[f * RAW + k]!)) / ANKLE_M;
      out[o + 3] = (counts * (rolled.lift - own.lift)) / SOLE_RAD;
      out[o + 4] = (rolled.toes - Math.min(0, angles[f * ANGLES + 4]! - rest)) / TOES_RAD;
      out[o + 5] = Math.max(0, rolled.toes) / FORWARD_RAD;
      out[o + 6] = (counts * (rolled.turn - own.turn)) / SOLE_RAD;
      out[o + 7] = (counts * (rolled.roll - own.roll)) / SOLE_RAD;
    }
    // And as quick as it is recorded when it leaves.
    const end = (count - 1) * TIP_MISSES;
    for (let k = 0; k < TIP_MISSES; k++) {
      const [a, b, c0] = [out[end + k]!, out[end - TIP_MISSES + k]!, out[end - 2 * TIP_MISSES + k]!];
      out[end + TIP_MISSES + k] = LEAVES_AS_QUICK * (a - b);
      out[end + 2 * TIP_MISSES + k] = LEAVES_AS_EVENLY * (a - 2 * b + c0);
    }
  };
  const c = leastSquares(8, (count + 2) * TIP_MISSES, misses, TIP_ROUNDS);
  for (let i = 1; i <= count; i++) rolls[tipFrom - from + i] = at(c, i);
}
