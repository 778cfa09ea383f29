import type { Side } from '../body/roles';
import { lerp } from '../math/scalar';
import type { RawStep } from './laid';
import { MOST_TURN } from './raw-steps';
import { beatsAt, type GaitMix, type StepGait } from './step-gait';

/** The outer foot turns past the inner one by this (rad) at most, of which the first inner step takes a part; common practice, no published source. */
const PAIR_TURN = Math.PI / 3;
const INNER_SHARE = 0.75;
/** What a step that turns on the spot has of a full step's roll and lift. */
const TURNING_SHARE = 0.3;

/** What turns: the gait's step at `index` of its pattern is the last one made. */
export interface Turner {
  readonly gait: StepGait;
  readonly mix: GaitMix;
  readonly index: number;
  readonly fullLength: (gait: StepGait, index: number) => number;
  readonly pauseOf: (nth: number) => number;
}

/** Steps that turn on the spot by `angle` rad between two places of the course (m), the inner foot first. */
export function turningSteps({ gait, mix, index, fullLength, pauseOf }: Turner, from: number, to: number, angle: number): RawStep[] {
  const inner: Side = angle > 0 ? 0 : 1;
  const full = Math.abs(angle);
  const alternates = gait.steps.length > 1;
  const first = alternates && !beatsAt(gait, index + 1).some((b) => b.side === inner) ? index + 2 : index + 1;
  const make = (i: number, part: number): RawStep => ({
    index: first + i,
    gait,
    mix,
    strideTime: gait.strideTime,
    stretched: 0,
    paused: pauseOf(i + 1),
    full: Math.abs(fullLength(gait, first + i)),
    share: TURNING_SHARE,
    s: lerp(from, to, part),
    onto: null,
    pace: gait.speed,
    wide: 1,
  });
  if (!alternates) {
    const n = Math.ceil(full / MOST_TURN.walk);
    return Array.from({ length: n }, (_, i) => make(i, (i + 1) / n));
  }
  const pairs = Math.max(1, Math.ceil(full / PAIR_TURN + (1 - INNER_SHARE) - 1e-9));
  const unit = 1 / (pairs - 1 + INNER_SHARE);
  return Array.from({ length: 2 * pairs }, (_, i) => {
    const pair = Math.floor(i / 2);
    const part = i % 2 === 0 || pair === pairs - 1 ? (pair + INNER_SHARE) * unit : (pair + 1) * unit;
    return make(i, Math.min(1, part));
  });
}
