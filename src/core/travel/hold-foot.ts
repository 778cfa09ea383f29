import type { ContactPart } from '../clip/clip';
import { multiply } from '../math/quaternion';
import { clamp, lerp, smoothstep, toRadians, wrapAngle } from '../math/scalar';
import { ANGLES, RAW, type FootSeries } from './foot-series';
import { SHIFT, turnBetween } from './foot-shift';
import { standOf, type FootLock, type Stand } from './foot-stand';
import type { Hold } from './names';
import { standingFoot, type Pivot, type Rolled } from './standing-foot';
import { rollOverTip, tipStart } from './tip-roll';

/** A sole nearer to level than `flat` lies level; past `free` it goes as recorded. */
const FLAT = toRadians(1.5);
const FREE = toRadians(12);
/** Lifted so far a sole may roll, by as much; a standing foot that turns less than `held` keeps its heading, one that turns by more than `taken` turns as recorded. */
const TURN_FREE = toRadians(15);
const ROLLS = 0.5;
const TURN_HELD = toRadians(4);
const TURN_TAKEN = toRadians(16);
/** Turns from picture to picture that are none, rad. */
const SAME_TURN = 1e-7;
/** Steeper than these (rad) heading and roll are less and less told apart. */
const STEEP_ON = toRadians(50);
const STEEP_OFF = toRadians(75);

/** A contact as it is held: its frames, and what the foot turns about when. */
export interface FootHold {
  readonly from: number;
  readonly to: number;
  readonly parts: readonly ContactPart[];
  /** By how much it turns while it stands, rad. */
  readonly turns: number;
}

/**
 * Writes into `shift` (SHIFT a picture) how the calmed foot must be moved in frames `from` to `to` so that it rolls over heel,
 * sole, ball and tip, each still while the foot turns about it; returns what the foot turns about when.
 */
export function holdFoot(series: FootSeries, from: number, to: number, lock: FootLock, rate: number, shift: Float64Array): FootHold {
  const stand = standOf(series, from, to, lock, rate);
  const foot = standingFoot(series, stand);
  const rolls = rolledBy(series, stand, lock.hold, from, to);
  const tipFrom = stand.bears === 'sole' ? tipStart(series, rolls, from, to, stand.level, rate) : to;
  const about = (f: number): Pivot => (stand.bears !== 'sole' ? stand.bears : rolls[f - from]!.lift > 0 ? 'heel' : f > tipFrom ? 'tip' : 'ball');
  const q = new Float64Array(4);
  const write = (f: number, rolled: Rolled, pivot: Pivot) => {
    const o = f * SHIFT;
    foot.place(rolled, pivot);
    for (let k = 0; k < 3; k++) shift[o + k] = foot.ankle[k]! - series.calm[f * RAW + k]!;
    // From the sole's frames to the joints', then what turns the calmed ones there.
    timesConjugate(q, foot.sole, series.frame.sole);
    turnBetween(shift, o + 3, series.calm, f * RAW + 3, q);
    timesConjugate(q, foot.toes, series.frame.toes);
    turnBetween(shift, o + 6, series.calm, f * RAW + 7, q);
  };
  // From where it surely stands on, and back from there: a new pivot is where the sole has it as it comes to bear.
  const middle = surest(rolls, from, stand.bears === 'sole');
  for (const step of [1, -1] as const) {
    foot.stand(rolls[middle - from]!, about(middle));
    for (let f = middle; f >= from && f <= to; f += step) {
      if (f !== middle && about(f) !== about(f - step)) {
        foot.handOver(rolls[f - step - from]!, about(f - step), about(f));
        if (about(f) === 'tip') rollOverTip(series, foot, rolls, from, tipFrom, to);
      }
      write(f, rolls[f - from]!, about(f));
    }
  }
  const turns = rolls.slice(0, tipFrom - from + 1).map((r) => r.turn);
  return { from, to, parts: partsOf(rolls, from, tipFrom, stand.bears), turns: Math.max(...turns) - Math.min(...turns) };
}

/** A foot is moved so far (m) at most where it comes to its place and where it leaves it; what is farther has not landed, or has left. */
const FARTHEST_M = 0.035;
const TRIES = 4;
/** Fewer pictures are not held apart from the rest. */
const LEAST_HELD = 6;

/** Holds a foot in a contact, without the ends in which it would have to be moved too far. */
export function heldNear(series: FootSeries, from: number, to: number, lock: FootLock, rate: number, shift: Float64Array): FootHold {
  let hold = holdFoot(series, from, to, lock, rate, shift);
  const far = (f: number) => Math.hypot(shift[f * SHIFT]!, shift[f * SHIFT + 1]!, shift[f * SHIFT + 2]!) > FARTHEST_M;
  for (let tries = 0; tries < TRIES; tries++) {
    let [a, b] = [hold.from, hold.to];
    while (a < b && far(a)) a++;
    while (b > a && far(b)) b--;
    if ((a === hold.from && b === hold.to) || b - a < LEAST_HELD) break;
    shift.fill(0, hold.from * SHIFT, (hold.to + 1) * SHIFT);
    hold = holdFoot(series, a, b, lock, rate, shift);
  }
  return hold;
}

/** A foot that still comes nearer to its place faster than this (m/s) is arriving, for so long (s) at most. */
const ARRIVES = 0.35;
const ARRIVES_S = 0.08;

/** The picture of a contact in which its foot has come to where it stands: what moves it there hardly changes any more. */
export function arrival(shift: Float64Array, from: number, to: number, rate: number): number {
  const latest = Math.min(from + Math.round(ARRIVES_S * rate), from + ((to - from) >> 1));
  let f = from;
  while (f < latest) {
    const rest = Math.hypot(...[0, 1, 2].map((k) => shift[(f + 1) * SHIFT + k]! - shift[f * SHIFT + k]!)) * rate;
    if (rest < ARRIVES) break;
    f++;
  }
  return f;
}

/** The picture nearest to the middle in which the sole lies flat, or as flat as it ever does. */
function surest(rolls: readonly Rolled[], from: number, flat: boolean): number {
  const half = rolls.length >> 1;
  let best = half;
  if (flat)
    for (let i = 0; i < rolls.length; i++) {
      const less = Math.abs(rolls[i]!.lift) - Math.abs(rolls[best]!.lift);
      if (less < 0 || (less === 0 && Math.abs(i - half) < Math.abs(best - half))) best = i;
    }
  return from + best;
}

/** What the foot turns about, stretch by stretch; neighbours share the picture in which both bear. */
function partsOf(rolls: readonly Rolled[], from: number, tipFrom: number, bears: Stand['bears']): ContactPart[] {
  const to = from + rolls.length - 1;
  if (bears !== 'sole') return [{ part: bears, from, to }];
  const turns = (i: number) => i > 0 && Math.abs(rolls[i]!.turn - rolls[i - 1]!.turn) > SAME_TURN;
  const kind = (i: number) => {
    const { lift } = rolls[i]!;
    if (lift > 0) return 'heel';
    if (lift < 0) return from + i > tipFrom ? 'tip' : 'ball';
    return turns(i) || (i + 1 < rolls.length && turns(i + 1)) ? 'ball' : 'flat';
  };
  const parts: ContactPart[] = [];
  for (let i = 0; i < rolls.length;) {
    const part = kind(i);
    let j = i;
    while (j + 1 < rolls.length && kind(j + 1) === part) j++;
    // The tip comes to bear where the ball last does.
    parts.push({ part, from: from + i - (part === 'tip' ? 1 : 0), to: from + j });
    i = j + 1;
  }
  return parts;
}

/** What each calmed picture rolls the foot by. */
function rolledBy({ angles }: FootSeries, stand: Stand, hold: Hold, from: number, to: number): Rolled[] {
  let upright = 0;
  return Array.from({ length: to - from + 1 }, (_, i): Rolled => {
    const a = (from + i) * ANGLES;
    const pitched = angles[a + 1]! - stand.pitch;
    const lift = stand.bears === 'sole' ? flattened(pitched, FLAT, FREE) : pitched;
    // Steep, heading and roll are hardly told apart: the heading stays as it was.
    const steep = smoothstep(STEEP_ON, STEEP_OFF, Math.abs(angles[a + 1]!));
    const seen = wrapAngle(angles[a]! - stand.heading);
    if (steep === 0) upright = seen;
    const heading = lerp(seen, upright, steep);
    const free = stand.bears === 'sole' ? smoothstep(0, TURN_FREE, Math.abs(lift)) : 1;
    return {
      turn: hold === 'place' ? heading : flattened(heading, TURN_HELD, TURN_TAKEN),
      lift,
      roll: free * (1 - steep) * clamp(angles[a + 2]! - stand.roll, -ROLLS, ROLLS),
      toes: 0,
    };
  });
}

/** 0 within `flat`, the angle itself past `free`, twice smooth between. */
function flattened(angle: number, flat: number, free: number): number {
  const size = Math.abs(angle);
  if (size <= flat) return 0;
  if (size >= free) return angle;
  // The quintic from (0, slope 0) to (free, slope 1), both without curvature.
  const span = free - flat;
  const u = (size - flat) / span,
    u3 = u * u * u;
  return Math.sign(angle) * (free * u3 * (10 - 15 * u + 6 * u * u) + span * u3 * (-4 + 7 * u - 3 * u * u));
}

/** out = a · conj(b). */
function timesConjugate(out: Float64Array, a: Float64Array, b: Float64Array): void {
  multiply(out, 0, a, 0, [-b[0]!, -b[1]!, -b[2]!, b[3]!], 0);
}
