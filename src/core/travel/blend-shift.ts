import { clamp, toRadians } from '../math/scalar';
import { SHIFT } from './foot-shift';

/** What of a shift goes out together: the ankle's place, turns of the ankle and of the toes; and how far and how suddenly each may go for one unit of cost. */
const BLOCKS = [
  { from: 0, far: 0.01, sudden: 100 },
  { from: 3, far: toRadians(6), sudden: toRadians(60000) },
  { from: 6, far: toRadians(6), sudden: toRadians(60000) },
] as const;
/** The shortest way out of a lock, s. */
const SHORTEST_S = 0.04;
/** Looks at a way out. */
const LOOKS = 16;

/**
 * Takes the shift of frame `edge` to nothing over at most `count` frames before it (step −1) or after it (step 1): value, velocity
 * and acceleration go on as they are inside. What goes fast is taken out sooner, so that it does not go far.
 */
export function blendShift(shift: Float64Array, edge: number, count: number, step: 1 | -1, inside: number, rate: number): void {
  const last = shift.length / SHIFT - 1;
  const at = (i: number, k: number) => shift[clamp(edge - step * i, 0, last) * SHIFT + k]!;
  const h = Math.floor(inside / 2);
  const [value, slope, bend] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];
  for (const block of BLOCKS) {
    for (let c = 0; c < 3; c++) {
      const k = block.from + c;
      value[c] = at(0, k);
      // Of the parabola through three pictures inside, outward.
      slope[c] = h > 0 ? (3 * at(0, k) - 4 * at(h, k) + at(2 * h, k)) / (2 * h) : 0;
      bend[c] = h > 0 ? (at(0, k) - 2 * at(h, k) + at(2 * h, k)) / (h * h) : 0;
    }
    const way = (u: number, n: number, c: number) => {
      const w = 1 - u;
      // The quintic from the edge's value, velocity and acceleration to nothing.
      return w * w * w * (value[c]! * (1 + 3 * u + 6 * u * u) + slope[c]! * n * (u + 3 * u * u) + (bend[c]! / 2) * n * n * u * u);
    };
    const n = bestCount(way, count, Math.min(count, Math.max(2, Math.round(SHORTEST_S * rate))), rate, block);
    for (let i = 1; i < count; i++) {
      const f = edge + step * i;
      if (f < 0 || f > last) break;
      for (let c = 0; c < 3; c++) shift[f * SHIFT + block.from + c] = i < n ? way(i / n, n, c) : 0;
    }
  }
}

/** The number of pictures over which a way out goes neither far nor suddenly. */
function bestCount(
  way: (u: number, n: number, c: number) => number,
  longest: number,
  shortest: number,
  rate: number,
  { far, sudden }: { readonly far: number; readonly sudden: number },
): number {
  let best = longest,
    least = Infinity;
  const [a, b] = [new Float64Array(3), new Float64Array(3)];
  for (let n = longest; n >= shortest; n--) {
    let [farthest, quickest] = [0, 0];
    for (let i = 0; i <= LOOKS; i++) {
      let [size, second] = [0, 0];
      for (let c = 0; c < 3; c++) {
        const now = way(i / LOOKS, n, c);
        size += now * now;
        if (i > 1) second += (now - 2 * b[c]! + a[c]!) ** 2;
        a[c] = b[c]!;
        b[c] = now;
      }
      farthest = Math.max(farthest, Math.sqrt(size));
      quickest = Math.max(quickest, Math.sqrt(second) * ((LOOKS * rate) / n) ** 2);
    }
    const cost = (farthest / far) ** 2 + (quickest / sudden) ** 2;
    if (cost < least) {
      least = cost;
      best = n;
    }
  }
  return best;
}
