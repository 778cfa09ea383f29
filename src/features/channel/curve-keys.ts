import { KEY_GAP, KEY_VALUE_RANGE, repeatFirstHalf, shiftKeys, type CurveKey } from '@/core/gait/curve';
import { clamp } from '@/core/math/scalar';

/** How the two halves of a stride hang together: alike, opposite, or each for itself. */
export type Halves = 'same' | 'opposite' | 'apart';

const SAME = 1e-6;

/** How the halves of a curve stand to each other now; keys in order. */
export function halvesOf(keys: readonly CurveKey[]): Halves {
  const n = keys.length / 2;
  if (!Number.isInteger(n) || n === 0) return 'apart';
  const fits = (sign: 1 | -1) =>
    keys.slice(0, n).every((k, i) => {
      const other = keys[i + n]!;
      return (
        Math.abs(k.at + 0.5 - other.at) < SAME &&
        Math.abs(k.value * sign - other.value) < SAME &&
        k.tangent === other.tangent &&
        Math.abs((k.slope ?? 0) * sign - (other.slope ?? 0)) < SAME
      );
    });
  return fits(1) ? 'same' : fits(-1) ? 'opposite' : 'apart';
}

/** Keys with the other half made to follow the one in which `at` lies. */
export function followHalf(keys: readonly CurveKey[], halves: Halves, at: number): CurveKey[] {
  if (halves === 'apart') return [...keys];
  if (at < 0.5) return repeatFirstHalf(keys, halves === 'opposite');
  return shiftKeys(repeatFirstHalf(shiftKeys(keys, -0.5).sort(byPlace), halves === 'opposite'), 0.5).sort(byPlace);
}

const byPlace = (a: CurveKey, b: CurveKey): number => a.at - b.at;

/**
 * Moves the chosen keys together, as far as all of them find room: between neighbours that stay, and within their half of the
 * stride where the halves follow each other.
 */
export function movedKeys(keys: readonly CurveKey[], chosen: ReadonlySet<number>, byAt: number, byValue: number, halves: Halves): CurveKey[] {
  let [least, most] = [-1, 1];
  for (const i of chosen) {
    const { at } = keys[i]!;
    const before = keys[i - 1],
      after = keys[i + 1];
    const half = halves === 'apart' ? ([0, 0.9999] as const) : at < 0.5 ? ([0, 0.5 - KEY_GAP] as const) : ([0.5, 1 - KEY_GAP] as const);
    least = Math.max(least, half[0] - at, before && !chosen.has(i - 1) ? before.at + KEY_GAP - at : -1);
    most = Math.min(most, half[1] - at, after && !chosen.has(i + 1) ? after.at - KEY_GAP - at : 1);
  }
  const along = least > most ? 0 : clamp(byAt, least, most);
  return keys.map((k, i) => (chosen.has(i) ? { ...k, at: k.at + along, value: clamp(k.value + byValue, ...KEY_VALUE_RANGE) } : k));
}
