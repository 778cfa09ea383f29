import { clamp, lerp, smootherstep } from '../math/scalar';
import { blendShift } from './blend-shift';
import { PLACES, type FootSeries } from './foot-series';
import { SHIFT } from './foot-shift';

/** A contact as it is held, the pictures over which the foot comes to it and leaves it, and those inside that tell how it goes there. */
export interface Blend {
  readonly from: number;
  readonly to: number;
  readonly into: number;
  readonly out: number;
  readonly inside: number;
}

/** A foot as a lock moves it, SHIFT numbers a picture, and how it comes and goes. */
interface AlongLeg {
  readonly series: FootSeries;
  readonly shift: Float64Array;
  readonly blends: readonly Blend[];
}

/** A free foot goes along with the hips this near (s) to where it is held, and no more that far from there. */
const ALONG_S = 0.1;
const ALONE_S = 0.35;
/** Of heel, ball and tip the lowest counts, evenly over so much (m). */
const LOWEST_EVENLY_M = 0.004;

/**
 * Takes a foot from where it is held to where it is recorded seen from hips that have given way, and back again: a free foot that
 * stayed as recorded would bend its knee by what the hips moved. What it goes down along with them leaves it over the floor.
 * Writes the leg's shift, and what of it the hips have to answer to `moved` (3 a picture). `given`: how hips move, 3 a picture, m.
 */
export function goAlong({ series, shift, blends }: AlongLeg, moved: Float64Array, given: Float64Array, floor: number, rate: number): void {
  const frames = given.length / 3;
  const near = new Float64Array(frames).fill(Infinity);
  blends.forEach(({ from, to }) => near.fill(0, from, to + 1));
  for (let f = 1; f < frames; f++) near[f] = Math.min(near[f]!, near[f - 1]! + 1 / rate);
  for (let f = frames - 2; f >= 0; f--) near[f] = Math.min(near[f]!, near[f + 1]! + 1 / rate);
  const along = new Float64Array(frames * 3);
  const part = partsAlong(blends, shift, given, frames);
  for (let f = 0; f < frames; f++) {
    const share = part[f]! * smootherstep(ALONE_S, ALONG_S, near[f]!);
    const room = roomUnder(series, f, floor);
    for (let k = 0; k < 3; k++) {
      const by = given[f * 3 + k]!;
      along[f * 3 + k] = share * by * (k === 1 && by < 0 ? room / (room - by) : 1);
    }
  }
  for (let f = 0; f < frames; f++)
    for (let k = 0; k < SHIFT; k++) {
      if (near[f]! > 0) shift[f * SHIFT + k] = 0;
      else if (k < 3) shift[f * SHIFT + k] = shift[f * SHIFT + k]! - along[f * 3 + k]!;
    }
  for (const { from, to, into, out, inside } of blends) {
    blendShift(shift, from, into, -1, inside, rate);
    blendShift(shift, to, out, 1, inside, rate);
  }
  for (let f = 0; f < frames; f++)
    for (let k = 0; k < 3; k++) {
      const i = f * 3 + k,
        o = f * SHIFT + k;
      moved[i] = shift[o] = shift[o]! + along[i]!;
    }
}

/** How much of the hips' way a foot goes along by picture: where it is held last and first, what comes nearest to how it is moved there. */
function partsAlong(blends: readonly Blend[], shift: Float64Array, given: Float64Array, frames: number): Float64Array {
  const part = new Float64Array(frames);
  const at = (f: number) => {
    let [both, square] = [0, 0];
    for (let k = 0; k < 3; k++) {
      both += shift[f * SHIFT + k]! * given[f * 3 + k]!;
      square += given[f * 3 + k]! ** 2;
    }
    return square > 0 ? clamp(both / square, 0, 1) : 0;
  };
  blends.forEach(({ from, to }, i) => {
    const [a, b] = [at(from), at(to)];
    const next = blends[i + 1];
    const half = (from + to) >> 1;
    part.fill(a, i === 0 ? 0 : from, half);
    part.fill(b, half, next ? next.from : frames);
    if (!next) return;
    const c = at(next.from);
    for (let f = to; f < next.from; f++) part[f] = lerp(b, c, smootherstep(to, next.from, f));
  });
  return part;
}

/** How far (m) a foot's sole is over the floor. */
function roomUnder({ places }: FootSeries, f: number, floor: number): number {
  let sum = 0;
  for (let o = 4; o < PLACES; o += 3) sum += Math.exp((floor - places[f * PLACES + o]!) / LOWEST_EVENLY_M);
  return Math.max(1e-6, -LOWEST_EVENLY_M * Math.log(sum));
}
