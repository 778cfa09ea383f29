import type { Body } from '../body/body';
import { ROW } from '../gait/style';
import { rotate } from '../math/quaternion';
import { clamp, smootherstep, wrapPhase } from '../math/scalar';
import { seekIndex } from '../math/seek';
import { createBasis, CUBIC, toCubics, type SplineBasis } from '../math/spline-basis';
import type { Interval } from '../schedule/flight';
import type { Foothold } from '../schedule/foothold';
import { stridesAt, type Schedule } from '../schedule/schedule';
import { FOOT_SIZE } from './foot-state';
import type { FootTrack } from './foot-track';
import { createHips, HIPS, HIPS_SIZE, type HipsReader } from './hips';
import { halfOf } from './mirrored';
import { CLOSE, fitHips, QUICK } from './hips-fit';
import { EDGE_STEP_S, type Flight, type HipsSamples, type StanceEdge } from './hips-samples';

/** Samples and pieces of a stride. */
const SAMPLES = 52;
const PIECES = 30;
/** Parts of a flight at whose ends it says what the hips do, where the whole body is thrown. */
export const PUSHES = 30;

/** Accelerations (m/s²) of the hips at PUSHES + 1 even places of a flight, both ends included. */
export type Pushes = (flight: Interval) => Float64Array;

/** Strides of a cell of a walk. */
const CELL = 2;
/** Strides on either side of a cell of a walk that are found together with it; further off nothing is felt. */
const MARGIN = 0.75;
/** Part of a stride (of a contact in a run) over which one cell's answer goes over into the next one's. */
const FADE = 0.2;
const CONTACT_FADE = 0.7;
/** A rest is a long contact: one answer goes over into the next over this part of a stride to either side at most. */
const LONGEST_FADE = 0.4;
/** Hips are not taken lower than this part of the leg's length under the lowest wish, nor than that over the ground. */
const MOST_LOWERED = 0.22;
const LOWEST = 0.42;

/** Height of the hips over time: what is done of the wish. Prepared cell by cell when first asked. */
export interface HipsPlan {
  /** Time (s) at which samples of a cycle begin. */
  readonly samplesFrom: number;
  /** Writes the height (m, world) at clock[c] seconds inside a round to out[o]. */
  read(clock: Float64Array, c: number, out: Float64Array, o: number): void;
}

/** The same gait as a cycle. */
export interface Steady {
  readonly schedule: Schedule;
  readonly feet: readonly [FootTrack, FootTrack];
  readonly plan: HipsPlan;
}

/** Looks at a cell and its cycle, and how close (m) both are the same: then the cycle's answer is the cell's. */
const LOOKS = 12;
const ALIKE_M = 2e-5;

/** One answer: pieces as polynomials, or the height (m) by which the cycle's own answer is lifted. */
interface Cell {
  readonly lift: number | null;
  readonly first: number;
  readonly cubics: Float64Array;
}

/** The plan of a schedule whose feet stand as `feet` have it. Nothing is looked at before it is asked for. */
export function createHipsPlan(
  body: Body,
  schedule: Schedule,
  feet: () => readonly [FootTrack, FootTrack],
  steady: Steady | null,
  { pushes, quickly }: { readonly pushes?: Pushes | null; readonly quickly?: boolean },
): HipsPlan {
  const thrown = pushes ?? null;
  const search = quickly ? QUICK : CLOSE;
  const { duration, repeat, strideTime, support } = schedule;
  const ring = repeat !== null;
  const wishes = createHips(body, schedule, null, true);
  const flights = support.slice(1).flatMap((s, i) => (s.from - support[i]!.to > 1e-9 ? [{ from: support[i]!.to, to: s.from }] : []));
  const step = ring ? duration / SAMPLES : strideTime / SAMPLES;
  const breaks = breaksOf(flights, thrown ? PUSHES : 1, duration, strideTime / PIECES, ring);
  const hipsAlone = new Float64Array(2).fill(-schedule.flight.gravity);
  // Pieces of one length need no search.
  const even = flights.length === 0 && ring ? (breaks[breaks.length - 1]! - breaks[0]!) / (breaks.length - 1) : 0;
  const edges = edgesOf(schedule);
  const cells: (Cell | undefined)[] = edges.slice(1).map(() => undefined);
  const at = new Float64Array(HIPS_SIZE);
  const joint = new Float64Array(3);
  const ankle = new Float64Array(FOOT_SIZE);
  const moment = new Float64Array(1);
  const inRound = (t: number) => (ring && t >= duration ? t - duration : t);

  /** Geometry of a standing leg at moment[0], hips read into `at`: square and base. */
  function geometry(side: 0 | 1): [number, number] {
    const { hip } = body.legs[side];
    rotate(joint, 0, at, HIPS.turn, hip[0], hip[1], hip[2]);
    const dx = at[HIPS.place]! + joint[0]! - ankle[0]!,
      dz = at[HIPS.place + 2]! + joint[2]! - ankle[2]!;
    return [dx * dx + dz * dz, ankle[1]! - joint[1]!];
  }

  /** `count` samples from `start` on, of the window between two times. */
  function sample(start: number, count: number, from: number, to: number): HipsSamples {
    const wish = new Float64Array(count),
      straightest = new Float64Array(count);
    const square = [new Float64Array(count).fill(NaN), new Float64Array(count).fill(NaN)] as const,
      base = [new Float64Array(count), new Float64Array(count)] as const;
    const weight = [new Float64Array(count), new Float64Array(count)] as const;
    let lowest = Infinity;
    for (let i = 0; i < count; i++) {
      moment[0] = inRound(start + (i + 0.5) * step);
      wishes.read(moment, 0, 0, at);
      wish[i] = at[HIPS.place + 1]!;
      lowest = Math.min(lowest, wish[i]!);
      straightest[i] = wishes.rows[ROW.straightest]!;
      for (const side of [0, 1] as const)
        if (feet()[side].stands(moment, 0, ankle, 0)) {
          [square[side][i], base[side][i]] = geometry(side);
          weight[side][i] = feet()[side].counts(moment[0]!, step);
        }
    }
    const edges = ([0, 1] as const).flatMap((side) =>
      holdsNear(feet()[side].holds, from, to).flatMap((hold) =>
        [true, false].flatMap((landing): StanceEdge[] => {
          const own = landing ? hold.landing : hold.leaving;
          if (ring && (own < -1e-9 || own > duration - 1e-9)) return [];
          const time = ring && own < from ? own + duration : own;
          if (time < from - 1e-9 || time > to - EDGE_STEP_S) return [];
          const [first, second] = [1e-9, EDGE_STEP_S].map((dt) => {
            moment[0] = inRound(own + (landing ? dt : -dt));
            wishes.read(moment, 0, 0, at);
            feet()[side].stands(moment, 0, ankle, 0);
            return geometry(side);
          }) as [[number, number], [number, number]];
          return [{ side, landing, time, square: [first[0], second[0]], base: [first[1], second[1]], straightest: wishes.rows[ROW.straightest]! }];
        }),
      ),
    );
    return {
      start: start + step / 2,
      step,
      count,
      wish,
      straightest,
      square,
      base,
      weight,
      edges,
      flights: flightsNear(from, to).flatMap((f): Flight[] => (f.from >= from - 1e-9 && f.to <= to + 1e-9 ? [{ ...f, pushes: thrown?.(f) ?? hipsAlone }] : [])),
      gravity: schedule.flight.gravity,
      swaps: false,
      still: [!ring && from <= 0, !ring && breaks[breaks.length - 1]! - to < 1e-9],
      floor: Math.max(lowest - MOST_LOWERED * body.legLength, at[HIPS.root + 1]! + LOWEST * body.legLength),
    };
  }

  /** Of a long walk, what may touch a window. */
  const holdsNear = (holds: readonly Foothold[], from: number, to: number): readonly Foothold[] => {
    if (ring) return holds;
    let first = 0,
      last = holds.length - 1;
    while (first < last) {
      const mid = (first + last) >> 1;
      if (holds[mid]!.leaving < from - strideTime) first = mid + 1;
      else last = mid;
    }
    let end = first;
    while (end < holds.length && holds[end]!.landing <= to + strideTime) end++;
    return holds.slice(first, end);
  };
  const flightStarts = Float64Array.from(flights, (f) => f.from);
  const flightsNear = (from: number, to: number): readonly Interval[] => {
    if (ring || flights.length === 0) return flights;
    let end = seekIndex(flightStarts, flights.length, to) + 1;
    while (end < flights.length && flights[end]!.from <= to) end++;
    return flights.slice(seekIndex(flightStarts, flights.length, from), end);
  };

  function cellAt(t: number): number {
    let lo = 0,
      hi = cells.length - 1;
    while (lo < hi) {
      const mid = (lo + hi + 1) >> 1;
      if (edges[mid]!.time <= t) lo = mid;
      else hi = mid - 1;
    }
    return lo;
  }

  function cell(k: number): Cell {
    const known = cells[k];
    if (known) return known;
    if (ring) {
      const all = sample(breaks[0]!, SAMPLES, breaks[0]!, breaks[breaks.length - 1]!);
      const half = halfOf(all, breaks);
      const basis = createBasis(half ? breaks.slice(0, (breaks.length + 1) / 2) : breaks, true);
      const coefficients = fitHips(basis, half ?? all, body.legs, search);
      const cubics = new Float64Array((breaks.length - 1) * CUBIC);
      toCubics(basis, coefficients, 0, basis.pieces, cubics);
      if (half) cubics.copyWithin(cubics.length / 2, 0, cubics.length / 2);
      return (cells[0] = { lift: null, first: 0, cubics });
    }
    const last = breaks.length - 2;
    const margin = MARGIN * strideTime;
    const pieceOf = (t: number) => seekIndex(breaks, last + 1, clamp(t, 0, duration));
    const [begin, finish] = [edges[k]!, edges[k + 1]!];
    const lift = liftOver(Math.max(0, begin.time - margin), Math.min(duration, finish.time + margin));
    if (lift !== null) return (cells[k] = { lift, first: 0, cubics: NO_CUBICS });
    // A flight is taken whole: a part of it would float free.
    const whole = (t: number, end: 'from' | 'to') => flightsNear(t, t).find((f) => t > f.from && t < f.to)?.[end] ?? t;
    const from = pieceOf(whole(begin.time - margin, 'from')),
      to = pieceOf(whole(finish.time + margin, 'to'));
    const basis: SplineBasis = createBasis(breaks.slice(from, to + 2), false);
    // Samples lie where the cycle has them, so that the same contact is judged by the same moments.
    const ahead = steady ? (cycleTime(breaks[from]!) - steady.plan.samplesFrom) / step : 0;
    const start = breaks[from]! + (Math.ceil(ahead - 1e-6) - ahead) * step;
    const count = Math.max(8, Math.floor((breaks[to + 1]! - start) / step + 1e-6));
    const coefficients = fitHips(basis, sample(start, count, breaks[from]!, breaks[to + 1]!), body.legs, search);
    const [a, b] = [pieceOf(begin.time - begin.fade), pieceOf(finish.time + finish.fade)];
    const cubics = new Float64Array((b - a + 1) * CUBIC);
    toCubics(basis, coefficients, a - from, b - from + 1, cubics);
    return (cells[k] = { lift: null, first: a, cubics });
  }

  const round = new Float64Array(2);
  /** The time of the cycle at the phase of a walk's time. */
  const cycleTime = (t: number): number => wrapPhase(stridesAt(schedule, t)) * (steady?.schedule.strideTime ?? strideTime);
  const other = steady && createHips(body, steady.schedule, null, true);
  const here = new Float64Array(8),
    there = new Float64Array(8);
  /** What the hips' height depends on at moment[0]: wish against the ground, feet against the hips; to out. */
  function state(reader: HipsReader, tracks: readonly [FootTrack, FootTrack], out: Float64Array): number {
    reader.read(moment, 0, 0, at);
    const [sin, cos] = [Math.sin(at[HIPS.root + 3]!), Math.cos(at[HIPS.root + 3]!)];
    const level = at[HIPS.root + 1]!;
    out[0] = at[HIPS.place + 1]! - level;
    out[1] = reader.rows[ROW.straightest]!;
    for (const side of [0, 1] as const) {
      const o = 2 + 3 * side;
      if (!tracks[side].stands(moment, 0, ankle, 0)) {
        out[o] = out[o + 1] = out[o + 2] = -9;
        continue;
      }
      const dx = ankle[0]! - at[HIPS.place]!,
        dz = ankle[2]! - at[HIPS.place + 2]!;
      out[o] = dx * sin + dz * cos;
      out[o + 1] = dx * cos - dz * sin;
      out[o + 2] = ankle[1]! - level;
    }
    return level;
  }

  /** By how much the cycle's answer is lifted between two times of a walk; null where the walk goes otherwise. */
  function liftOver(from: number, to: number): number | null {
    if (!steady || !other) return null;
    let lift = NaN;
    for (let i = 0; i < LOOKS; i++) {
      const t = from + ((to - from) * (i + 0.5)) / LOOKS;
      moment[0] = t;
      const level = state(wishes, feet(), here);
      if (Number.isNaN(lift)) lift = level;
      if (Math.abs(level - lift) > ALIKE_M) return null;
      moment[0] = cycleTime(t);
      state(other, steady.feet, there);
      for (let k = 0; k < here.length; k++) if (Math.abs(here[k]! - there[k]!) > ALIKE_M) return null;
    }
    return lift;
  }

  function value({ lift, first, cubics }: Cell, t: number): number {
    if (lift !== null) {
      round[0] = cycleTime(t);
      steady!.plan.read(round, 0, round, 1);
      return lift + round[1]!;
    }
    const p = even > 0 ? Math.min(breaks.length - 2, Math.max(0, Math.floor((t - breaks[0]!) / even))) : seekIndex(breaks, breaks.length - 1, t);
    const o = (p - first) * CUBIC;
    const dt = t - breaks[p]!;
    return cubics[o]! + dt * (cubics[o + 1]! + dt * (cubics[o + 2]! + dt * cubics[o + 3]!));
  }

  return {
    samplesFrom: breaks[0]!,
    read(clock, c, out, o) {
      let t = clock[c]!;
      if (ring) {
        if (t < breaks[0]!) t += duration;
        else if (t >= breaks[breaks.length - 1]!) t -= duration;
        out[o] = value(cell(0), t);
        return;
      }
      const k = cellAt(t);
      const own = value(cell(k), t);
      const early = k > 0 && t < edges[k]!.time + edges[k]!.fade;
      const late = k + 1 < cells.length && t > edges[k + 1]!.time - edges[k + 1]!.fade;
      if (!early && !late) {
        out[o] = own;
        return;
      }
      // From the answer of the cell before the edge to that of the cell after it.
      const edge = edges[early ? k : k + 1]!;
      const w = smootherstep(edge.time - edge.fade, edge.time + edge.fade, t);
      const beside = value(cell(early ? k - 1 : k + 1), t);
      out[o] = early ? beside + (own - beside) * w : own + (beside - own) * w;
    },
  };
}

const NO_CUBICS = new Float64Array(0);

/** Where one cell of a walk goes over into the next, s, and for how long before and after. */
interface Edge {
  readonly time: number;
  readonly fade: number;
}

/** Cells of about CELL strides; between flights in mid-contact, so that nothing but a throw shapes a flight. */
function edgesOf({ duration, repeat, strideTime, support }: Schedule): Edge[] {
  const ends = [
    { time: 0, fade: 0 },
    { time: duration, fade: 0 },
  ];
  if (repeat) return ends;
  const edges: Edge[] = [];
  const flies = support.length > 1;
  const places = flies
    ? support
        .map(({ from, to }) => ({ time: (from + to) / 2, fade: Math.min((CONTACT_FADE / 2) * (to - from), LONGEST_FADE * strideTime) }))
        .filter((_, i) => i > 0 && i + 1 < support.length)
    : Array.from({ length: Math.max(0, Math.ceil(duration / strideTime) - 1) }, (_, i) => ({ time: (i + 1) * strideTime, fade: (FADE / 2) * strideTime }));
  for (const place of places) {
    const before = edges.length > 0 ? edges[edges.length - 1]!.time : 0;
    if (place.time - before > (CELL - 0.25) * strideTime && duration - place.time > 0.4 * strideTime) edges.push(place);
  }
  return [ends[0]!, ...edges, ends[1]!];
}

/** Breaks of the spline: ends of flights and `pieces` even parts of each, and evenly between them. A ring's begin with a flight's end, where there is one. */
function breaksOf(flights: readonly Interval[], pieces: number, duration: number, longest: number, ring: boolean): Float64Array {
  const start = ring ? (flights.find((f) => f.to > -1e-9)?.to ?? 0) : 0;
  const end = start + duration;
  const own = flights.filter((f) => f.from > start - 1e-9 && f.to < end + 1e-9);
  const breaks = [start];
  const fill = (to: number) => {
    const from = breaks[breaks.length - 1]!;
    if (to - from < 1e-9) return;
    const n = Math.max(1, Math.ceil((to - from) / longest - 1e-9));
    for (let i = 1; i <= n; i++) breaks.push(i === n ? to : from + ((to - from) * i) / n);
  };
  for (const f of own) {
    fill(f.from);
    for (let i = 1; i <= pieces; i++) breaks.push(i === pieces ? f.to : f.from + ((f.to - f.from) * i) / pieces);
  }
  fill(end);
  return Float64Array.from(breaks);
}
