import type { Shortness } from '../solve/reach';
import type { Foothold, Moment, Motion, Shortcoming, Survey } from './motion';
import { kept, missing } from './survey';

/** Times of a motion told by another clock: both readings rise, or stay. */
export interface TimeMap {
  readonly duration: number;
  /** Time of the motion (s) at a time of the new clock, and the other way. */
  source(t: number): number;
  time(source: number): number;
}

/** A motion that ends, played by another clock. */
export function timed(motion: Motion, map: TimeMap): Motion {
  const { duration } = map;
  const moved = (h: Foothold): Foothold => ({
    ...h,
    landing: h.landing < 0 ? h.landing : map.time(h.landing),
    ...(h.mark === undefined ? {} : { mark: map.time(h.mark) }),
    leaving: h.leaving > motion.duration ? Math.max(duration + 1, h.leaving) : map.time(h.leaving),
  });
  return {
    ...motion,
    duration,
    contacts: motion.contacts
      .map((c) => ({ side: c.side, from: c.from < 0 ? c.from : map.time(c.from), to: c.to > motion.duration ? duration + 1 : map.time(c.to) }))
      .filter((c) => c.to > 0 && c.from < duration),
    footholds: (from, to) => motion.footholds(map.source(from), map.source(to)).map(moved),
    phaseAt: (t) => motion.phaseAt(map.source(t)),
    travelled: (t) => motion.travelled(map.source(t)),
    place: (t, out) => motion.place(map.source(t), out),
    pose: (t, out, at) => motion.pose(map.source(t), out, at),
    targets: (t, out) => motion.targets(map.source(t), out),
    ...(motion.onGround ? { onGround: timed(motion.onGround, map) } : {}),
    ...(motion.deck ? { deck: (t: number, out: Float64Array) => motion.deck!(map.source(t), out) } : {}),
    ...kept(() => surveyedAnew(motion, map)),
  };
}

/** Nothing is out of reach: what is was found on the motion's own clock. */
const nothingShort = (): Shortness => ({ tooFar: 0, tooNear: 0, farSide: 0, nearSide: 0, handMissed: 0 });

/** What a motion is put through as it is played: jolts by the new clock, what is out of reach as it is, where that is still to be seen. */
function* surveyedAnew(motion: Motion, { duration, source, time }: TimeMap): Generator<undefined, Survey> {
  // A belt's own way is no jolt.
  const { surveying, body, pose } = motion.onGround ?? motion;
  const whole = yield* surveying();
  const played = { body, duration, pose: (t: number, out: Float64Array, at: number) => pose(source(t), out, at) };
  const own = yield* missing(played, nothingShort(), 0);
  const moment = (what: Shortcoming): Moment | null => {
    const at = time(whole.worst[what].at);
    return at >= 0 && at <= duration ? { at, side: whole.worst[what].side } : null;
  };
  const [far, near, hand] = [moment('tooFar'), moment('tooNear'), moment('handMissed')];
  return {
    ...whole,
    ...own,
    tooFar: far ? whole.tooFar : 0,
    tooNear: near ? whole.tooNear : 0,
    handMissed: hand ? whole.handMissed : 0,
    worst: { ...own.worst, ...(far ? { tooFar: far } : {}), ...(near ? { tooNear: near } : {}), ...(hand ? { handMissed: hand } : {}) },
  };
}

/** The part of a motion between two times, s. */
export function partOfTime(from: number, to: number): TimeMap {
  return { duration: to - from, source: (t) => from + Math.min(Math.max(t, 0), to - from), time: (s) => s - from };
}

/** Looks a second at the rate of a clock that changes. */
const LOOKS_PER_S = 240;

/** The clock whose rate at its own time t is `rate(t)`, over a motion of `length` s. Where time is held for good the motion ends at `longest`. */
export function clockOf(rate: (t: number) => number, length: number, longest: number): TimeMap {
  const reached: number[] = [0];
  const step = 1 / LOOKS_PER_S;
  for (let i = 0; reached[i]! < length && i * step < longest; i++) {
    const t = i * step;
    // Simpson's rule over one look.
    reached.push(reached[i]! + (step / 6) * (rate(t) + 4 * rate(t + step / 2) + rate(t + step)));
  }
  const n = reached.length - 1;
  const last = reached[n]!,
    before = reached[n - 1] ?? 0;
  const duration = last > length && last > before ? (n - 1 + (length - before) / (last - before)) * step : n * step;
  return {
    duration,
    source(t) {
      const place = Math.min(Math.max(t, 0), duration) * LOOKS_PER_S;
      const i = Math.min(n - 1, Math.floor(place));
      const u = place - i;
      const [a, b] = [reached[i]!, reached[i + 1]!];
      // Rates at both looks make it smooth.
      const ra = rate(i * step) * step,
        rb = rate((i + 1) * step) * step;
      const d = b - a;
      return Math.min(length, a + u * (ra + u * (3 * d - 2 * ra - rb + u * (ra + rb - 2 * d))));
    },
    time(source) {
      let lo = 0,
        hi = n;
      while (hi - lo > 1) {
        const mid = (lo + hi) >> 1;
        if (reached[mid]! < source) lo = mid;
        else hi = mid;
      }
      const [a, b] = [reached[lo]!, reached[hi]!];
      return (lo + (b > a ? Math.min(1, Math.max(0, (source - a) / (b - a))) : 1)) * step;
    },
  };
}
