import { multiply, rotateFrom } from '../math/quaternion';
import { fromRotationVector, toRotationVector } from '../math/rotation-vector';
import { clamp, lerp, smoothstep, toRadians, wrapAngle } from '../math/scalar';
import { soleRotation } from '../body/foot-frame';
import type { ContactPart } from '../clip/clip';
import { leastSquares } from '../math/least-squares';
import { ANGLES, PLACES, RAW, type FootSeries } from './foot-series';
import type { Hold } from './names';

/** How a foot is held. Lengths in m, times in s, angles in rad. */
export interface FootLock {
  readonly hold: Hold;
  /** Longest time over which it is taken into a lock and out of it. */
  readonly blend: number;
  /** The floor's level, and what is within `near` of it stands on it. */
  readonly floor: number;
  readonly near: number;
}

/** A sole nearer to level than `flat` lies level; past `free` it goes as recorded. */
const FLAT = toRadians(1.5);
const FREE = toRadians(12);
/** A foot that stands steeper than this stands on its ball or its heel. */
const LEVEL = toRadians(5);
/** Slower than this (m/s), and nearer to level than this, heel and ball both bear. */
const STILL = 0.15;
const TIMES_USUAL = 1.5;
const LYING = toRadians(10);
/** Least part of a contact, or time (s), that a foot must lie flat to have a flat place. */
const LEAST_S = 0.05;
/** A heel lower than the ball by this part of what counts as the same level hangs in the air. */
const HANGS = 0.45;
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
const LEAVES_MORE = 2;
const LEAVES_AS_QUICK = 4;
const LEAVES_AS_EVENLY = 10;
const TIP_MISSES = 8;
const TIP_ROUNDS = 8;

/** Numbers a picture of how a foot is moved by a lock: its ankle's place, turn of the ankle, turn of the toes (rotation vectors, world). */
export const SHIFT = 9;

/** Where a foot stands in a contact. */
interface Stand {
  /** The flat sole's angles, and the toes' heading and pitch. */
  readonly heading: number;
  readonly pitch: number;
  readonly roll: number;
  readonly toesHeading: number;
  readonly toesPitch: number;
  /** The toes' pitch as they are recorded to stand. */
  readonly toesRest: number;
  /** Height the bearing point is recorded to stand at, m. */
  readonly level: number;
  /** Fixed places: ball where the foot has a flat place or stands on its ball; heel where it stands on its heel alone. */
  readonly at: Float64Array;
  readonly bears: 'sole' | 'ball' | 'heel';
}

/** A contact as it is held: its frames, and what the foot turns about when. */
export interface FootHold {
  readonly from: number;
  readonly to: number;
  readonly parts: readonly ContactPart[];
  /** By how much it turns while it stands, rad. */
  readonly turns: number;
}

/** Angles of a locked foot at a picture, beside those it stands with: turn, lift and roll of the sole, pitch of the toes. */
interface Rolled {
  readonly turn: number;
  readonly lift: number;
  readonly roll: number;
  readonly toes: number;
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
/** Fewer pictures are not held apart from the rest. */
const LEAST_HELD = 6;

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

type Pivot = 'heel' | 'ball' | 'tip';

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

/** A foot that stands: where its ankle, sole and toes are for angles it is rolled by, its pivot where it is. */
function standingFoot({ frame }: FootSeries, stand: Stand) {
  const sole = new Float64Array(4),
    toes = new Float64Array(4),
    ankle = new Float64Array(3),
    relation = new Float64Array(4),
    flat = new Float64Array(4),
    v = new Float64Array(3),
    hinge = new Float64Array(3),
    pivot = new Float64Array(3);
  soleRotation(stand.heading, stand.pitch, stand.roll, flat, 0);
  soleRotation(stand.toesHeading, stand.toesPitch, stand.roll, toes, 0);
  conjugateTimes(relation, flat, toes);
  const turned = (rolled: Rolled) => {
    soleRotation(stand.heading + rolled.turn, stand.pitch + rolled.lift, stand.roll + rolled.roll, sole, 0);
    if (stand.bears === 'heel' || rolled.lift > 0) multiply(toes, 0, sole, 0, relation, 0);
    else soleRotation(stand.toesHeading + rolled.turn, stand.toesPitch + rolled.toes, stand.roll, toes, 0);
  };
  const place = (rolled: Rolled, about: Pivot) => {
    turned(rolled);
    if (about === 'heel') {
      rotateFrom(v, 0, sole, 0, frame.heel, 0);
      for (let k = 0; k < 3; k++) ankle[k] = pivot[k]! - v[k]!;
      return;
    }
    rotateFrom(v, 0, toes, 0, about === 'ball' ? frame.ball : frame.tip, 0);
    for (let k = 0; k < 3; k++) hinge[k] = pivot[k]! - v[k]!;
    rotateFrom(v, 0, sole, 0, frame.hinge, 0);
    for (let k = 0; k < 3; k++) ankle[k] = hinge[k]! - v[k]!;
  };
  /** Takes the pivot from where the foot is now. */
  const takePivot = (about: Pivot) => {
    if (about === 'heel') {
      rotateFrom(v, 0, sole, 0, frame.heel, 0);
      for (let k = 0; k < 3; k++) pivot[k] = ankle[k]! + v[k]!;
      return;
    }
    rotateFrom(v, 0, sole, 0, frame.hinge, 0);
    for (let k = 0; k < 3; k++) pivot[k] = ankle[k]! + v[k]!;
    rotateFrom(v, 0, toes, 0, about === 'ball' ? frame.ball : frame.tip, 0);
    for (let k = 0; k < 3; k++) pivot[k] = pivot[k]! + v[k]!;
  };
  const levelled = (rolled: Rolled): Rolled => ({ ...rolled, lift: 0, roll: 0, toes: 0 });
  return {
    sole,
    toes,
    ankle,
    place,
    /** Puts the foot where it stands, as it is rolled there. */
    stand(rolled: Rolled, about: Pivot): void {
      pivot.set(stand.at);
      if (stand.bears !== 'sole') return;
      place(levelled(rolled), 'ball');
      takePivot(about);
    },
    /** From one pivot to the next, over the sole as it lies flat between them. */
    handOver(rolled: Rolled, from: Pivot, to: Pivot): void {
      place(levelled(rolled), from);
      takePivot(to);
    },
  };
}

/** The picture from which on a foot turns about the tip of its toes: its ball rises for good. `to` where it does not. */
function tipStart({ places }: FootSeries, rolls: readonly Rolled[], from: number, to: number, level: number, rate: number): number {
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
function rollOverTip(series: FootSeries, foot: ReturnType<typeof standingFoot>, rolls: Rolled[], from: number, tipFrom: number, to: number): void {
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

/** out = conj(a) · b, and a · conj(b). */
function conjugateTimes(out: Float64Array, a: Float64Array, b: Float64Array): void {
  multiply(out, 0, [-a[0]!, -a[1]!, -a[2]!, a[3]!], 0, b, 0);
}
function timesConjugate(out: Float64Array, a: Float64Array, b: Float64Array): void {
  multiply(out, 0, a, 0, [-b[0]!, -b[1]!, -b[2]!, b[3]!], 0);
}
/** Writes the rotation vector that turns the rotation at from[i..] to that at to[j..]. */
export function turnBetween(out: Float64Array, o: number, from: Float64Array, i: number, to: Float64Array, j = 0): void {
  multiply(D, 0, to, j, [-from[i]!, -from[i + 1]!, -from[i + 2]!, from[i + 3]!], 0);
  toRotationVector(out, o, D, 0);
}
const D = new Float64Array(4);

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

function standOf({ places, angles }: FootSeries, from: number, to: number, { floor, near }: FootLock, rate: number): Stand {
  const frames = Array.from({ length: to - from + 1 }, (_, i) => from + i);
  const speed = (f: number, o: number) => {
    const a = Math.max(from, f - 1),
      b = Math.min(to, f + 1);
    return a === b ? 0 : (Math.hypot(...[0, 1, 2].map((k) => places[b * PLACES + o + k]! - places[a * PLACES + o + k]!)) * rate) / (b - a);
  };
  const mean = (o: number) => frames.reduce((sum, f) => sum + speed(f, o), 0) / frames.length;
  // Where all shakes, what is slow is told by what is usual.
  const still = Math.max(STILL, TIMES_USUAL * middle(frames.map((f) => Math.max(speed(f, 3), speed(f, 6)))));
  const lying = frames.filter((f) => speed(f, 3) < still && speed(f, 6) < still && Math.abs(angles[f * ANGLES + 1]!) < LYING);
  const flat = lying.length >= Math.max(2, LEAST_S * rate) && Math.abs(middle(lying.map((f) => angles[f * ANGLES + 1]!))) < LEVEL;
  // On a rung the heel hangs: lower than the ball that bears.
  const heels = frames.map((f) => places[f * PLACES + 4]!).sort((a, b) => a - b);
  const balls = middle(lying.map((f) => places[f * PLACES + 7]!));
  const hangs = flat && Math.abs(balls - floor) > near && heels[Math.floor(0.15 * heels.length)]! < balls - HANGS * near;
  const bears = flat && !hangs ? 'sole' : mean(3) < mean(6) ? 'heel' : 'ball';
  const of = bears === 'sole' ? lying : frames;
  const angle = (k: number) => middle(of.map((f) => angles[f * ANGLES + k]!));
  const o = bears === 'heel' ? 3 : 6;
  const at = Float64Array.from([0, 1, 2], (k) => middle(of.map((f) => places[f * PLACES + o + k]!)));
  const level = at[1]!;
  if (Math.abs(level - floor) < near) at[1] = floor;
  const [heading, pitch, roll, toesHeading, toesRest] = [0, 1, 2, 3, 4].map(angle) as [number, number, number, number, number];
  // What lies flat lies level; toes lie flat on a floor, on a rung as they do.
  const toesPitch = bears === 'sole' || at[1] === floor ? 0 : toesRest;
  return {
    heading,
    pitch: bears === 'sole' ? 0 : pitch,
    roll: bears === 'sole' && Math.abs(roll) < LEVEL ? 0 : roll,
    toesHeading,
    toesPitch,
    toesRest,
    level,
    at,
    bears,
  };
}

const middle = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1]!;

/** What of a shift goes out together: the ankle's place, turns of the ankle and of the toes; and how far and how suddenly each may go for one unit of cost. */
const BLOCKS = [
  { from: 0, far: 0.01, sudden: 100 },
  { from: 3, far: toRadians(6), sudden: toRadians(60000) },
  { from: 6, far: toRadians(6), sudden: toRadians(60000) },
] as const;
/** A foot that still comes nearer to its place faster than this (m/s) is arriving, for so long (s) at most. */
const ARRIVES = 0.35;
const ARRIVES_S = 0.08;
/** The shortest way out of a lock, s. */
const SHORTEST_S = 0.04;

/**
 * Takes the shift of frame `edge` to nothing over at most `count` frames before it (step −1) or after it (step 1): value, velocity
 * and acceleration go on as they are inside. What goes fast is taken out sooner, so that it does not go far.
 */
export function blendShift(shift: Float64Array, edge: number, count: number, step: 1 | -1, inside: number, rate: number): void {
  const last = shift.length / SHIFT - 1;
  const at = (i: number, k: number) => shift[clamp(edge - step * i, 0, last) * SHIFT + k]!;
  const h = Math.floor(inside / 2);
  const [value, slope, bend] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];
  for (const block of BLOCKS) {
    for (let c = 0; c < 3; c++) {
      const k = block.from + c;
      value[c] = at(0, k);
      // Of the parabola through three pictures inside, outward.
      slope[c] = h > 0 ? (3 * at(0, k) - 4 * at(h, k) + at(2 * h, k)) / (2 * h) : 0;
      bend[c] = h > 0 ? (at(0, k) - 2 * at(h, k) + at(2 * h, k)) / (h * h) : 0;
    }
    const way = (u: number, n: number, c: number) => {
      const w = 1 - u;
      // The quintic from the edge's value, velocity and acceleration to nothing.
      return w * w * w * (value[c]! * (1 + 3 * u + 6 * u * u) + slope[c]! * n * (u + 3 * u * u) + (bend[c]! / 2) * n * n * u * u);
    };
    const n = bestCount(way, count, Math.min(count, Math.max(2, Math.round(SHORTEST_S * rate))), rate, block);
    for (let i = 1; i < count; i++) {
      const f = edge + step * i;
      if (f < 0 || f > last) break;
      for (let c = 0; c < 3; c++) shift[f * SHIFT + block.from + c] = i < n ? way(i / n, n, c) : 0;
    }
  }
}

/** The number of pictures over which a way out goes neither far nor suddenly. */
function bestCount(
  way: (u: number, n: number, c: number) => number,
  longest: number,
  shortest: number,
  rate: number,
  { far, sudden }: { readonly far: number; readonly sudden: number },
): number {
  let best = longest,
    least = Infinity;
  const [a, b] = [new Float64Array(3), new Float64Array(3)];
  for (let n = longest; n >= shortest; n--) {
    let [farthest, quickest] = [0, 0];
    for (let i = 0; i <= LOOKS; i++) {
      let [size, second] = [0, 0];
      for (let c = 0; c < 3; c++) {
        const now = way(i / LOOKS, n, c);
        size += now * now;
        if (i > 1) second += (now - 2 * b[c]! + a[c]!) ** 2;
        a[c] = b[c]!;
        b[c] = now;
      }
      farthest = Math.max(farthest, Math.sqrt(size));
      quickest = Math.max(quickest, Math.sqrt(second) * ((LOOKS * rate) / n) ** 2);
    }
    const cost = (farthest / far) ** 2 + (quickest / sudden) ** 2;
    if (cost < least) {
      least = cost;
      best = n;
    }
  }
  return best;
}
const LOOKS = 16;

/** Turns the rotation at q[i..] by the rotation vector at shift[o..], `share` of it. */
export function turnBy(out: Float64Array, at: number, q: Float64Array, i: number, shift: Float64Array, o: number, share = 1): void {
  for (let k = 0; k < 3; k++) V[k] = shift[o + k]! * share;
  fromRotationVector(D, 0, V, 0);
  multiply(out, at, D, 0, q, i);
}
const V = new Float64Array(3);
