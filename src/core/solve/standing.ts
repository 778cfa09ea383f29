import { ARM_ROWS, ROW } from '../gait/style';
import { smoothstep, TAU } from '../math/scalar';
import { seekIndex } from '../math/seek';
import type { Schedule } from '../schedule/schedule';

/** A figure that stands breathes: length of a breath, s, and what it moves, rad. Common practice, no published source. */
const BREATH_S = 4.2;
const BREATH = { chest: -0.012, spine: 0.014, shoulders: 0.022, head: 0.008 } as const;
/** A walk begins and ends in perfect rest: life comes and goes over this time, s. */
const REST_S = 0.35;
/** What a stop leaves: frequency (Hz) and decay (1/s) of the sway, how it sets in (s), and its size by the lean of the stop (rad per part of g). */
const SETTLE = { frequency: 0.95, decay: 2.1, onset: 0.18, trunk: 0.28, arms: 0.9 } as const;

/** After so long (s) a settling is over: nothing of it is left that a micrometre would show. */
const LONGEST_S = 8;

const LEANS = [ROW.chestLean, ROW.leadLean, ROW.carryLean];

/** Adds to the rows what keeps a standing figure alive at clock[0] s: breath by the standing share, and a settling after the stop. */
export type Alive = (clock: Float64Array, share: Float64Array, rows: Float64Array) => void;

/** For a walk; a motion that repeats never stands. `standing` is the place of the standing share among the shares. Allocates nothing per call. */
export function createAlive({ duration, repeat, efforts, settle }: Schedule, standing: number): Alive | null {
  if (repeat || settle === 0) return null;
  const deep = Math.min(1, settle);
  const stops = Float64Array.from(efforts, (e) => e.to);
  return (clock, share, rows) => {
    const t = clock[0]!;
    const awake = smoothstep(0, REST_S, t) * smoothstep(0, REST_S, duration - t);
    if (share[standing]! > 0) {
      const breath = awake * deep * share[standing]! * Math.sin((TAU * t) / BREATH_S);
      for (let k = 0; k < LEANS.length; k++) rows[LEANS[k]!] = rows[LEANS[k]!]! + BREATH.chest * breath;
      rows[ROW.spineCurve] = rows[ROW.spineCurve]! + BREATH.spine * breath;
      rows[ROW.headNod] = rows[ROW.headNod]! + BREATH.head * breath;
      for (let r = 0; r < 2 * ARM_ROWS; r += ARM_ROWS) rows[ROW.shoulderUp + r] = rows[ROW.shoulderUp + r]! + BREATH.shoulders * breath;
    }
    if (stops.length === 0 || t <= stops[0]!) return;
    const last = seekIndex(stops, stops.length, t);
    // What the stop before left is still felt for a while.
    for (let i = Math.max(0, last - 1); i <= last; i++) {
      const { lean } = efforts[i]!;
      const since = t - stops[i]!;
      if (lean === 0 || since > LONGEST_S) continue;
      const x = since / SETTLE.onset;
      const sway = awake * settle * lean * (1 - Math.exp(-x * x)) * Math.exp(-SETTLE.decay * since) * Math.cos(TAU * SETTLE.frequency * since);
      for (let k = 0; k < LEANS.length; k++) rows[LEANS[k]!] = rows[LEANS[k]!]! + SETTLE.trunk * sway;
      for (let r = 0; r < 2 * ARM_ROWS; r += ARM_ROWS) rows[ROW.armSwing + r] = rows[ROW.armSwing + r]! + SETTLE.arms * sway;
    }
  };
}
