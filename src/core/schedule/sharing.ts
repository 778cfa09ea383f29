import { MOST_LOSS, rampOf } from './raw-steps';
import type { RawStep } from './laid';

/** So many last steps before a mark or a halt share what is left over. */
const SHARING = 4;
/** They get longer by this factor at most where a further step can be made. */
const MOST_STRETCH = 1.04;

/** Share of one of the last steps of a stretch, `left` of them still to come with this one. */
function slowingShare({ gait, strideTime, pace }: RawStep, left: number): number {
  const stepTime = strideTime / gait.steps.length;
  const losses = gait.flies ? (left * stepTime * MOST_LOSS) / Math.max(1e-6, pace) : 1;
  // Steps that need not slow down may be longer than full ones.
  return Math.min(rampOf(gait).down[left - 1] ?? Infinity, losses < 1 ? losses : Infinity);
}

/** Takes raw steps from `from` to `to` (m), the last ones sharing what is left over; `rests` where the walk comes to rest there. */
export function shareSpan(raws: readonly RawStep[], from: number, to: number, rests: boolean): RawStep[] {
  const shareOf = (i: number, n: number) => (rests ? Math.min(raws[i]!.share, slowingShare(raws[i]!, n - i)) : raws[i]!.share);
  const total = (n: number) => {
    let sum = 0;
    for (let i = 0; i < n; i++) sum += shareOf(i, n) * raws[i]!.full;
    return sum;
  };
  /** By how much the last steps are stretched that share what is left over. */
  const stretched = (n: number): number => {
    let lasts = 0;
    for (let i = Math.max(0, n - SHARING); i < n; i++) lasts += shareOf(i, n) * raws[i]!.full;
    return Math.max(0.05, 1 + (to - from - total(n)) / Math.max(1e-9, lasts));
  };
  let n = raws.length;
  while (n > 1 && Math.abs(total(n - 1) - (to - from)) <= Math.abs(total(n) - (to - from))) n--;
  // Rather one step more than long ones.
  if (n < raws.length && stretched(n) > MOST_STRETCH) n++;
  const taken = raws.slice(0, n);
  const shares = taken.map((_, i) => shareOf(i, n));
  const sharing = Math.min(SHARING, n);
  const factor = stretched(n);
  let place = from;
  taken.forEach((raw, i) => {
    raw.share = shares[i]! * (i >= n - sharing ? factor : 1);
    place += raw.share * raw.full;
    raw.s = i === n - 1 ? to : place;
  });
  return taken;
}

/** So many steps and no more: the last of them slow down where they are. */
export function slowDown(raws: readonly RawStep[], from: number): void {
  let way = from;
  raws.forEach((raw, i) => {
    raw.share = Math.min(raw.share, slowingShare(raw, raws.length - i));
    way += raw.share * raw.full;
    raw.s = way;
  });
}
