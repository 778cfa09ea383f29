import { smootherstep, wrapPhase } from '../math/scalar';
import type { Layer, LayerKey } from './layer-spec';

/** Numbers of a layer's value: moved 3 (m), turned 3 (rad). */
export const VALUE = 6;

/** Value of key i as one of six numbers. */
const number = (key: LayerKey, k: number): number => (k < 3 ? key.move[k]! : key.turn[k - 3]!);

/**
 * Returns what writes a layer's value at a time into out[0..5]: through its keys by a curve whose rate is continuous (Catmull and
 * Rom 1974, on uneven times), held before the first and after the last; round and round where the clip is a loop of `period` s.
 */
export function layerValue({ keys }: Pick<Layer, 'keys'>, period: number | null): (t: number, out: Float64Array) => void {
  const sorted = [...keys].sort((a, b) => a.at - b.at);
  const n = sorted.length;
  if (n === 0) return (_, out) => void out.fill(0, 0, VALUE);
  const at = (i: number): number => {
    if (period === null) return sorted[Math.min(n - 1, Math.max(0, i))]!.at;
    const round = Math.floor(i / n);
    return sorted[i - round * n]!.at + round * period;
  };
  const key = (i: number): LayerKey => (period === null ? sorted[Math.min(n - 1, Math.max(0, i))]! : sorted[((i % n) + n) % n]!);
  const slope = (i: number, k: number): number => {
    // Held before its first key and after its last, a curve comes and goes without a slope.
    if (period === null && (i <= 0 || i >= n - 1)) return 0;
    const span = at(i + 1) - at(i - 1);
    return span > 0 ? (number(key(i + 1), k) - number(key(i - 1), k)) / span : 0;
  };
  return (t, out) => {
    let time = t;
    let i = 0;
    if (period !== null) time = t - Math.floor((t - sorted[0]!.at) / period) * period;
    while (i < n && at(i) <= time) i++;
    i--;
    const [a, b] = [at(i), at(i + 1)];
    const u = b > a ? Math.min(1, Math.max(0, (time - a) / (b - a))) : 0;
    const [u2, u3] = [u * u, u * u * u];
    for (let k = 0; k < VALUE; k++)
      out[k] =
        (2 * u3 - 3 * u2 + 1) * number(key(i), k) +
        (u3 - 2 * u2 + u) * (b - a) * slope(i, k) +
        (3 * u2 - 2 * u3) * number(key(i + 1), k) +
        (u3 - u2) * (b - a) * slope(i + 1, k);
  };
}

/**
 * How much a layer counts at a time (s) and a phase of the stride (any number; null where there is no stride), 0 to 1; comes and
 * goes without a kick.
 */
export function layerWeight({ weight, fade }: Pick<Layer, 'weight' | 'fade'>, t: number, phase: number | null): number {
  if (!fade) return weight;
  if (fade.over === 'phase') return phase === null ? 0 : weight * phaseWeight(fade, phase);
  const come = fade.in > 0 ? smootherstep(fade.from, fade.from + fade.in, t) : t >= fade.from ? 1 : 0,
    go = fade.out > 0 ? 1 - smootherstep(fade.to - fade.out, fade.to, t) : t <= fade.to ? 1 : 0;
  return weight * Math.min(come, go);
}

/** From `from` on round to `to`, which may lie in the next stride. */
function phaseWeight({ from, to, in: comes, out: goes }: NonNullable<Layer['fade']>, phase: number): number {
  const span = wrapPhase(to - from) || 1;
  const x = wrapPhase(phase - from);
  const come = comes > 0 ? smootherstep(0, comes, x) : 1,
    go = goes > 0 ? 1 - smootherstep(span - goes, span, x) : x <= span ? 1 : 0;
  return Math.min(come, go);
}

/** Layers that count: those that are soloed where any is, else those that are not muted; without keys none does. */
export function countingLayers(layers: readonly Layer[]): readonly Layer[] {
  const solo = layers.some((l) => l.solo && !l.mute);
  return layers.filter((l) => l.keys.length > 0 && !l.mute && (!solo || l.solo));
}
