import type { Clip, ClipContact } from '../clip/clip';

/**
 * Phase of a clip over its time (s): a whole number at each landing of the left foot, evenly in between, and on beyond the first
 * and the last as beside them. Null where the left foot does not land twice, or once in a loop.
 */
export function clipPhase({ rate, frames, loop }: Pick<Clip, 'rate' | 'frames' | 'loop'>, contacts: readonly ClipContact[]): ((t: number) => number) | null {
  const lands = contacts
    .filter((c) => c.foot === 'left' && (loop || c.from > 0))
    .map((c) => c.from / rate)
    .sort((a, b) => a - b);
  if (loop && lands.length > 0) lands.push(lands[0]! + frames / rate);
  if (lands.length < 2) return null;
  const strides = lands.length - 1;
  const whole = loop ? frames / rate : null;
  return (t) => {
    const round = whole === null ? 0 : Math.floor((t - lands[0]!) / whole);
    const local = whole === null ? t : t - round * whole;
    let i = 0;
    while (i < strides - 1 && lands[i + 1]! <= local) i++;
    return round * strides + i + (local - lands[i]!) / (lands[i + 1]! - lands[i]!);
  };
}
