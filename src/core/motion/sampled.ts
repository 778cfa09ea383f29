import type { Body } from '../body/body';
import { poseSize } from '../body/skeleton';
import type { GaitSpec } from '../gait/spec';
import type { Ground } from '../ground/ground';
import { threadRow, threadWeights } from '../math/thread';
import { clamp } from '../math/scalar';
import { createPoseReader } from '../solve/read';
import { carried } from './carried';
import { footholdsBetween } from './footholds';
import type { Contact, Foothold, Motion } from './motion';

/** Looks a second at where a figure is, and at what its pose is to be: frames of 24, 30, 48, 60 and 120 a second lie on looks. */
const FACTS_PER_S = 60;
const LOOKS_PER_S = 240;
/** Looks that a curve between two others needs besides them, on either side. */
const BESIDE = 2;

/** Stretches that are kept; of more the oldest goes. */
const MOST_STRETCHES = 32;

/** Numbers of a row of facts: where the root is on its deck (4), strides, way (m), how far a deck has gone (2). */
const ROW = 8;

/** What is known of a motion that ends, without a pose: plain data, made where it was planned. */
export interface MotionFacts {
  readonly name: string;
  readonly gaits: readonly GaitSpec[];
  readonly duration: number;
  readonly strideTime: number;
  readonly pace: Motion['pace'];
  readonly contacts: readonly Contact[];
  readonly holds: readonly Foothold[];
  /** Rows of ROW numbers, FACTS_PER_S a second, from the beginning past the end. */
  readonly rows: Float64Array;
  /** Whether it stands on a deck that moves. */
  readonly decked: boolean;
}

/** Poses of a motion at even looks, from the one numbered `first` on: plain data. */
export interface MotionStretch {
  readonly first: number;
  readonly count: number;
  readonly poses: Float64Array;
}

/** Facts of a motion that ends. */
export function factsOf(motion: Motion): MotionFacts {
  const { name, gaits, duration, strideTime, pace, contacts, deck } = motion;
  const still = motion.onGround ?? motion;
  const count = Math.ceil(duration * FACTS_PER_S) + 1;
  const rows = new Float64Array(count * ROW);
  const place = new Float64Array(4),
    by = new Float64Array(2);
  for (let i = 0; i < count; i++) {
    const t = Math.min(duration, i / FACTS_PER_S);
    still.place(t, place);
    deck?.(t, by);
    rows.set(place, i * ROW);
    rows.set([motion.phaseAt(t), motion.travelled(t), by[0]!, by[1]!], i * ROW + 4);
  }
  return { name, gaits, duration, strideTime, pace, contacts, holds: motion.footholds(-Infinity, Infinity), rows, decked: deck !== undefined };
}

/** Looks at a motion from one time (s) to another, and those beside that curves between them need. */
export function stretchOf(motion: Motion, from: number, to: number): MotionStretch {
  const last = Math.ceil(motion.duration * LOOKS_PER_S);
  const first = clamp(Math.floor(from * LOOKS_PER_S) - BESIDE, 0, last);
  const count = clamp(Math.ceil(to * LOOKS_PER_S) + BESIDE, first, last) - first + 1;
  const size = poseSize(motion.body.skeleton);
  const poses = new Float64Array(count * size);
  // Seen from its deck a foot that stands stays where it is.
  const still = motion.onGround ?? motion;
  for (let i = 0; i < count; i++) still.pose(Math.min(motion.duration, (first + i) / LOOKS_PER_S), poses, i * size);
  return { first, count, poses };
}

/** Numbers of a pose before its quaternions: where root and hips are. */
const PLACES = 6;

/** Writes a pose at u (0 … 1) between the second and third of four even ones, at from[a..] … from[d..]: each rotation on the sphere. */
function threadPose(from: Float64Array, [a, b, c, d]: readonly [number, number, number, number], size: number, u: number, out: Float64Array, at: number): void {
  const [wa, wb, wc, wd] = threadWeights(u);
  for (let k = 0; k < PLACES; k++) out[at + k] = wa * from[a + k]! + wb * from[b + k]! + wc * from[c + k]! + wd * from[d + k]!;
  const dot = (o: number, q: number) =>
    from[o + q]! * from[b + q]! + from[o + q + 1]! * from[b + q + 1]! + from[o + q + 2]! * from[b + q + 2]! + from[o + q + 3]! * from[b + q + 3]!;
  for (let q = PLACES; q < size; q += 4) {
    // All on the side of the sphere the second one is on.
    const ta = dot(a, q) < 0 ? -wa : wa,
      tc = dot(c, q) < 0 ? -wc : wc,
      td = dot(d, q) < 0 ? -wd : wd;
    let square = 0;
    for (let k = q; k < q + 4; k++) {
      const v = ta * from[a + k]! + wb * from[b + k]! + tc * from[c + k]! + td * from[d + k]!;
      out[at + k] = v;
      square += v * v;
    }
    const length = Math.sqrt(square);
    for (let k = q; k < q + 4; k++) out[at + k] = out[at + k]! / length;
  }
}

/** A motion known by its facts and by stretches, of which more may come while it is shown. */
export interface SampledMotion extends Motion {
  /** Takes a stretch; what it tells counts from then on. */
  take(stretch: MotionStretch): void;
  /** Whether the pose at a time (s) is known. */
  knows(t: number): boolean;
}

/**
 * A motion planned elsewhere as it is shown here: its facts at any time, its poses where a stretch tells them. At looks it is the
 * motion itself; between them a curve through four of them. Where no stretch tells a pose the nearest one that is known stands in.
 * Nobody measures this one: `survey` throws.
 */
export function sampledMotion(facts: MotionFacts, body: Body, ground: Ground, stretch: MotionStretch): SampledMotion {
  const { name, gaits, duration, strideTime, pace, contacts, rows, decked } = facts;
  const stretches: MotionStretch[] = [stretch];
  const size = poseSize(body.skeleton);
  const readPose = createPoseReader(body);
  const read = new Float64Array(size);
  const row = new Float64Array(ROW);
  const lastRow = rows.length / ROW - 1;
  const lastLook = Math.ceil(duration * LOOKS_PER_S);

  function factsAt(t: number): Float64Array {
    const at = clamp(t, 0, duration) * FACTS_PER_S;
    const i = Math.min(Math.max(0, lastRow - 1), Math.floor(at));
    threadRow(rows, ROW, i, lastRow, at - i, row);
    return row;
  }
  /** The stretch that tells a time with all that its curve needs. */
  const telling = (at: number): MotionStretch | undefined => {
    const least = Math.max(0, Math.floor(at) - 1),
      most = Math.min(lastLook, Math.floor(at) + BESIDE);
    return stretches.find((s) => s.first <= least && s.first + s.count > most);
  };
  /** The stretch that tells the nearest time, and that time. */
  function nearest(at: number): [MotionStretch, number] {
    let [best, place, off] = [stretches[0]!, 0, Infinity];
    for (const s of stretches) {
      const inside = clamp(at, s.first, s.first + s.count - 1);
      if (Math.abs(inside - at) < off) [best, place, off] = [s, inside, Math.abs(inside - at)];
    }
    return [best, place];
  }
  function pose(t: number, out: Float64Array, o: number): void {
    const time = clamp(t, 0, duration) * LOOKS_PER_S;
    // What lies a rounding beside a look is that look.
    const at = Math.abs(time - Math.round(time)) < 1e-9 ? Math.round(time) : time;
    const told = telling(at);
    const [s, place] = told ? [told, at] : nearest(at);
    const i = Math.floor(place);
    const of = (k: number) => (clamp(k, s.first, s.first + s.count - 1) - s.first) * size;
    if (i === place) out.set(s.poses.subarray(of(i), of(i) + size), o);
    else threadPose(s.poses, [of(i - 1), of(i), of(i + 1), of(i + 2)], size, place - i, out, o);
  }

  const own: Motion = {
    name,
    body,
    gaits,
    ground,
    duration,
    repeat: null,
    rounds: 1,
    strideTime,
    pace,
    contacts,
    footholds: (from, to) => footholdsBetween(facts.holds, duration, null, from, to),
    phaseAt: (t) => factsAt(t)[4]!,
    travelled: (t) => factsAt(t)[5]!,
    place: (t, out) => void out.set(factsAt(t).subarray(0, 4)),
    targets(t, out) {
      pose(t, read, 0);
      readPose(read, 0, out);
    },
    pose,
    survey: unmeasured,
    // eslint-disable-next-line require-yield -- It is asked for nothing.
    *surveying() {
      return unmeasured();
    },
  };
  return {
    ...(decked ? carried(own, (t, out) => void out.set(factsAt(t).subarray(6, 8))) : own),
    take(more) {
      // What was told before of the same times is let go.
      for (let k = stretches.length - 1; k >= 0; k--) {
        const s = stretches[k]!;
        if (s.first >= more.first && s.first + s.count <= more.first + more.count) stretches.splice(k, 1);
      }
      stretches.push(more);
      if (stretches.length > MOST_STRETCHES) stretches.shift();
    },
    knows: (t) => telling(clamp(t, 0, duration) * LOOKS_PER_S) !== undefined,
  };
}

function unmeasured(): never {
  throw new Error('sampledMotion: it is measured where it was planned');
}
