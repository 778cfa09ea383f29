import { rampOf, MOST_GAIN } from './raw-steps';
import type { LaidStep, RawStep, Stretch } from './laid';
import { beatsAt, phaseOf } from './step-gait';

/** Shortest rest (s) between two stretches. */
const LEAST_REST_S = 0.2;

/** How far a walk is laid out: the steps so far, and where and when the last one landed. */
export interface Laying {
  readonly stretches: Stretch[];
  /** Pattern's index of the walk's first step. */
  readonly first: number;
  /** Pattern's index and number of the last step. */
  index: number;
  number: number;
  /** Place on the course, m, and time, s. */
  s: number;
  time: number;
}

/** Gives raw steps their times, closes the feet behind them at `to` m of the course (null: where the last one is), and lays them. */
export function layStretch(laying: Laying, raws: readonly RawStep[], kind: Stretch['kind'], to: number | null): void {
  const opening = raws[0];
  if (!opening) return;
  const { first, time: from, s: begins } = laying;
  const { airborne } = opening.gait;
  const side = beatsAt(opening.gait, opening.index)[0]!.side;
  const steps: LaidStep[] = [];
  let landing = from + airborne[side] * opening.strideTime + opening.stretched;
  // As long as the cadence is one, times are told from one landing: a long walk does not gather what rounding leaves.
  let anchor = { landing, phase: phaseOf(opening.gait, opening.index, first), strideTime: opening.strideTime };
  const add = (raw: RawStep, place: number, share: number, wide: number, rests: boolean) => {
    const phase = phaseOf(raw.gait, raw.index, first);
    const before = steps[steps.length - 1];
    const more = before ? raw.stretched + before.paused : 0;
    if (raw.strideTime !== anchor.strideTime || more !== 0) anchor = { landing: landing + more, phase: before?.phase ?? phase, strideTime: raw.strideTime };
    landing = anchor.landing + (phase - anchor.phase) * raw.strideTime;
    laying.number++;
    steps.push({ ...raw, number: laying.number, landing, phase, s: place, share, wide, rests });
  };
  const last = raws[raws.length - 1]!;
  const end = to ?? last.s;
  const closing = kind === 'walk' && last.gait.steps.length > 1;
  for (const raw of raws) add(raw, raw.s, raw.share, raw.wide, !closing && raw === last);
  if (closing) add({ ...last, index: last.index + 1, onto: null, stretched: 0, paused: 0 }, end, 0, 1, true);
  laying.index = steps[steps.length - 1]!.index;
  laying.s = end;
  laying.time = landing;
  laying.stretches.push(stretchOf(steps, kind, begins, from));
}

/** Steps as a stretch that begins at `s` m and `from` s. */
export function stretchOf(steps: readonly LaidStep[], kind: Stretch['kind'], s: number, from: number): Stretch {
  const { gait, strideTime } = steps[0]!;
  const stepTime = strideTime / gait.steps.length;
  const speed = Math.max(...steps.map((k) => k.pace));
  const ramp = (rampOf(gait).up.length + 1) * stepTime;
  return { steps, kind, s, from, gain: gait.flies ? Math.max(ramp, speed / MOST_GAIN) : ramp, speed: kind === 'turn' ? 0 : speed };
}

/** Shortest rest (s) in which a foot that has closed comes down flat and rolls off again. */
export function leastRest({ stretches }: Pick<Laying, 'stretches'>): number {
  const last = stretches[stretches.length - 1]?.steps.at(-1);
  const roll = last ? beatsAt(last.gait, last.index)[0]!.roll : null;
  return roll ? LEAST_REST_S + roll.flatAfter + roll.riseFor : LEAST_REST_S;
}
