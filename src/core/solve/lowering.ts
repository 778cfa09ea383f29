import { createFlightTrack, lowerContacts, type FlightTrack, type Interval } from '../schedule/flight';
import { readPendulum } from '../schedule/pendulum';
import type { Schedule } from '../schedule/schedule';
import { seekIndex } from '../math/seek';
import type { Heights } from './hips';

/** Moments looked at and rounds of looking: in a stride that repeats, and around one contact of a walk. */
const STRIDE = { moments: 64, rounds: 3 };
const CONTACT = { moments: 12, rounds: 2 };
/** Contacts on either side that what happens around one can depend on. */
const NEAR = 2;
/** Taken down a little further than found missing, m. */
const MARGIN_M = 1e-4;
/** Contacts whose surroundings agree to this (m, s, m/s) are taken down alike. */
const ALIKE = 2e-3;

/** What the search for depths needs to know. */
export interface LoweringNeeds {
  /** Room (m) to be kept between the hips and what the legs reach. */
  readonly room: number;
  /** Tempers the answer for gaits that hardly fly, 0 … 1. */
  readonly share: number;
  /** The most (m) a contact of a walk is taken down. */
  readonly most: number;
  /** Gives the room over time between from and to (s), were the flights as high as tried. */
  readonly trial: (flight: FlightTrack, from: number, to: number) => (t: number) => number;
}

/** Heights of a run whose contacts are taken down as far as each needs, each when it is first come near. */
export interface Lowering extends Heights {
  /** The most any contact is taken down, m; prepares all of them. */
  lowered(): number;
}

/** Heights of a motion that does not fly, or not to be taken down. */
export const plainHeights = (flight: FlightTrack): Heights => ({ flight, prepare: () => {} });

/**
 * Takes each contact of a run down so that its legs keep their room through the flights around it. One depth for all of a
 * stride that repeats; in a walk each contact has its own, found from what lies around it alone, whenever that is.
 */
export function createLowering(schedule: Schedule, needs: LoweringNeeds): Lowering {
  const { support, duration, repeat } = schedule;
  const { gravity } = schedule.flight;
  const starts = Float64Array.from(support, (s) => s.from);
  const depths = new Float64Array(support.length);
  const found = new Uint8Array(support.length);
  const flight = createFlightTrack(support, gravity);
  const lowered = (i: number) => depths[i]!;
  let left = support.length;

  const search = (of: readonly Interval[], from: number, to: number, { moments, rounds }: typeof STRIDE): number => {
    let depth = 0;
    for (let round = 0; round < rounds; round++) {
      const roomAt = needs.trial(
        createFlightTrack(of, gravity, () => depth),
        from,
        to,
      );
      let least = Infinity;
      for (let i = 0; i < moments; i++) least = Math.min(least, roomAt(from + ((to - from) * i) / moments));
      if (least >= needs.room) break;
      depth += needs.share * (needs.room - least + MARGIN_M);
    }
    return depth;
  };

  // Of contacts with the same surroundings the first stands for all, so that it does not matter which is asked for first.
  let like: Int32Array | null = null;
  /** Depth of one contact of a walk. */
  function depthOf(i: number): number {
    like ??= firstAlike(schedule);
    const first = like[i]!;
    if (first < i) {
      prepareSome(first, first);
      return depths[first]!;
    }
    const [from, to] = around(schedule, i);
    // A walk's contact squats no deeper than it can stand up from.
    return Math.min(needs.most, search(support.slice(Math.max(0, i - NEAR), i + NEAR + 1), from, to, CONTACT));
  }

  function prepareAll(): void {
    if (repeat) {
      depths.fill(search(support, 0, duration, STRIDE));
      found.fill(1);
      left = 0;
      lowerContacts(flight, support, 0, support.length - 1, lowered);
    } else prepareSome(0, support.length - 1);
  }

  function prepareSome(first: number, last: number): void {
    for (let i = Math.max(0, first); i <= Math.min(support.length - 1, last); i++) {
      if (found[i]) continue;
      depths[i] = depthOf(i);
      found[i] = 1;
      left--;
      // Heights at a time depend on the contacts around it alone, so those told before stay what they were.
      lowerContacts(flight, support, i, i, lowered);
    }
  }

  return {
    flight,
    prepare(clock, c) {
      if (left === 0) return;
      if (repeat) return prepareAll();
      const i = seekIndex(starts, starts.length, clock[c]!);
      prepareSome(i - 1, i + 1);
    },
    lowered() {
      if (left > 0) prepareAll();
      return depths.reduce((most, d) => Math.max(most, d), 0);
    },
  };
}

/** A contact with half of the flights beside it: from, to, s. */
function around({ support, duration }: Schedule, i: number): [number, number] {
  const from = i > 0 ? (support[i - 1]!.to + support[i]!.from) / 2 : 0,
    to = i + 1 < support.length ? (support[i]!.to + support[i + 1]!.from) / 2 : duration;
  return [Math.max(0, from), Math.min(duration, to)];
}

/** For every contact the first one whose surroundings are the same: where feet stand, how fast the body comes and goes. */
function firstAlike(schedule: Schedule): Int32Array {
  const { footholds, travel, strideTime, support } = schedule;
  const clock = new Float64Array(2);
  const at = new Float64Array(8);
  const reached = [0, 0];
  const known = new Map<string, number>();
  return Int32Array.from(support, (_, i) => {
    const [from, to] = around(schedule, i);
    clock[0] = from;
    clock[1] = to;
    readPendulum(travel, clock, 0, at, 0);
    readPendulum(travel, clock, 1, at, 4);
    const numbers = [to - from, at[2]!, at[3]!, at[6]!, at[7]!];
    footholds.forEach((holds, side) => {
      while (reached[side]! < holds.length - 1 && holds[reached[side]!]!.leaving <= from - strideTime) reached[side]!++;
      for (let k = reached[side]!; k < holds.length && holds[k]!.landing < to + strideTime; k++) {
        const h = holds[k]!;
        numbers.push(
          Math.max(-strideTime, h.landing - from),
          Math.min(2 * strideTime, h.leaving - from),
          h.x - at[0]!,
          h.y,
          h.z - at[1]!,
          h.heading,
          h.leavingPitch,
        );
      }
    });
    const key = numbers.map((v) => Math.round(v / ALIKE)).join();
    if (!known.has(key)) known.set(key, i);
    return known.get(key)!;
  });
}
