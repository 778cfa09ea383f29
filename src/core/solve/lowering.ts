import { createFlightTrack, type FlightTrack } from '../schedule/flight';
import { readPendulum } from '../schedule/pendulum';
import type { Schedule } from '../schedule/schedule';

const ROUNDS = 3;
/** Moments looked at: in a stride that repeats, and around one contact of a walk. */
const STRIDE_MOMENTS = 64;
const CONTACT_MOMENTS = 16;
/** Taken down a little further than found missing, m. */
const MARGIN_M = 1e-4;
/** Contacts whose surroundings agree to this (m, s, m/s) are taken down alike. */
const ALIKE = 1e-3;

/**
 * How far (m) each contact of a run is taken down so that its legs keep `room` (m) through the flights around it. One depth
 * for all of a stride that repeats; in a walk each contact has its own, found from what lies around it alone. `trial` gives
 * the room over time for heights as tried; `share` tempers the answer for gaits that hardly fly, `most` (m) bounds a walk's.
 */
export function searchLowering(schedule: Schedule, room: number, share: number, most: number, trial: (flight: FlightTrack) => (t: number) => number): number[] {
  const { support, flight, duration, repeat } = schedule;
  const search = (from: number, to: number, moments: number): number => {
    let depth = 0;
    for (let round = 0; round < ROUNDS; round++) {
      const roomAt = trial(createFlightTrack(support, flight.gravity, () => depth));
      let least = Infinity;
      for (let i = 0; i < moments; i++) least = Math.min(least, roomAt(from + ((to - from) * i) / moments));
      if (least >= room) break;
      depth += share * (room - least + MARGIN_M);
    }
    return depth;
  };
  if (repeat) return support.map(((depth) => () => depth)(search(0, duration, STRIDE_MOMENTS)));
  const known = new Map<string, number>();
  // A stride asks for what it asks; a walk's contact squats no deeper than it can stand up from.
  return support.map((_, i) => {
    const from = i > 0 ? (support[i - 1]!.to + support[i]!.from) / 2 : 0,
      to = i + 1 < support.length ? (support[i]!.to + support[i + 1]!.from) / 2 : duration;
    const key = surroundings(schedule, from, to);
    let depth = known.get(key);
    if (depth === undefined) known.set(key, (depth = Math.min(most, search(from, to, CONTACT_MOMENTS))));
    return depth;
  });
}

/** What lies around a contact between two times, rounded: where feet stand and how fast the body comes and goes. */
function surroundings({ footholds, travel, strideTime }: Schedule, from: number, to: number): string {
  const clock = Float64Array.of(from, to);
  const at = new Float64Array(8);
  readPendulum(travel, clock, 0, at, 0);
  readPendulum(travel, clock, 1, at, 4);
  const [x0, z0] = [at[0]!, at[1]!];
  const numbers = [to - from, at[2]!, at[3]!, at[6]!, at[7]!];
  for (const holds of footholds)
    for (const h of holds)
      if (h.landing < to + strideTime && h.leaving > from - strideTime)
        numbers.push(Math.max(-strideTime, h.landing - from), Math.min(2 * strideTime, h.leaving - from), h.x - x0, h.y, h.z - z0, h.heading, h.leavingPitch);
  return numbers.map((v) => Math.round(v / ALIKE)).join();
}
