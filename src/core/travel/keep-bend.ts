import { lowPass } from '../math/low-pass';
import { acosClamped, smootherstep } from '../math/scalar';
import { SHIFT } from './foot-shift';
import type { LegAsk } from './give-way';

/** Of a recorded knee's bend what is quicker than this (Hz) is shaking. */
export const STEADY_HZ = 12;
/** A free knee is wholly bent as recorded so far (s) from where its foot is held. */
const FREE_S = 0.1;

/**
 * Moves a free foot along its leg to where the knee is bent as recorded: ankles shake more than knees do, since all that shakes from
 * the hips down adds up in them, and a leg that is nearly straight shows a millimetre as degrees. `given`: how hips move, m, 3 a
 * picture; `cutoff` (Hz): what of the knee is quicker is shaking. Writes the leg's shift (SHIFT numbers a picture) and what the leg tells of it.
 */
export function keepBend(
  { shift, calmed }: { readonly shift: Float64Array; readonly calmed: Float64Array },
  { reach, moved, recorded, held, thigh, shank }: LegAsk,
  given: Float64Array,
  first: number,
  cutoff: number,
  rate: number,
): void {
  const frames = held.length;
  const bendOf = (d: number) => Math.PI - acosClamped((thigh * thigh + shank * shank - d * d) / (2 * thigh * shank));
  const asked = recorded.map(bendOf);
  lowPass(asked, first, 1, frames - first, cutoff, rate);
  const away = new Float64Array(frames);
  for (let f = 0; f < frames; f++) away[f] = held[f] === 1 ? 0 : (away[f - 1] ?? Infinity) + 1 / rate;
  for (let f = frames - 2; f >= 0; f--) away[f] = Math.min(away[f]!, away[f + 1]! + 1 / rate);
  const leg = [0, 0, 0];
  for (let f = first; f < frames; f++) {
    const share = calmed[f]! * smootherstep(0, FREE_S, away[f]!);
    if (share === 0) continue;
    for (let k = 0; k < 3; k++) leg[k] = reach[f * 3 + k]! + moved[f * 3 + k]! - given[f * 3 + k]!;
    const length = Math.hypot(leg[0]!, leg[1]!, leg[2]!);
    const was = bendOf(length);
    const bend = was + share * (Math.max(0, asked[f]!) - was);
    const by = Math.sqrt(thigh * thigh + shank * shank + 2 * thigh * shank * Math.cos(bend)) / length - 1;
    for (let k = 0; k < 3; k++) {
      moved[f * 3 + k] = moved[f * 3 + k]! + by * leg[k]!;
      shift[f * SHIFT + k] = shift[f * SHIFT + k]! + by * leg[k]!;
    }
  }
}
