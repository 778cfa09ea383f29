import { parameterAt, readValue, writeValue } from './access';
import type { Channel } from './parameters';
import type { GaitSpec } from './spec';

/**
 * What follows the length of the stride: channels by their amount, plain numbers by their value. Postures (offsets, crouch,
 * step width, timing) do not.
 */
const FOLLOWING = [
  'feet.lift',
  'feet.landingPitch',
  'feet.liftOffPitch',
  'feet.swingOut',
  'feet.landing',
  'hips.rise',
  'hips.surge',
  'hips.turn',
  'hips.list',
  'hips.tilt',
  'trunk.lean',
  'trunk.sideLean',
  'trunk.counterTurn',
  'trunk.bend',
  'arms.swing',
  'arms.elbow',
  'arms.out',
  'arms.shoulders',
] as const;

/** Longer strides than the one a gait is made for take amounts up by this part of what shorter ones take them down, to that factor. */
const LONGER_SHARE = 0.4;
const MOST = 1.2;

/** Factor of all amounts at a gait's stride: 1 at the stride it is made for, towards 0 with the stride, as far as the gait follows. */
export function amountsFactor({ timing }: GaitSpec): number {
  const part = Math.abs(timing.strideLength) / timing.homeStride;
  const full = part < 1 ? part : Math.min(MOST, 1 + LONGER_SHARE * (part - 1));
  return 1 + timing.amountsFollow * (full - 1);
}

/** The gait with its amounts as its stride has them; the same object where nothing changes. `gait` is not touched. */
export function withAmounts(gait: GaitSpec): GaitSpec {
  const k = amountsFactor(gait);
  if (Math.abs(k - 1) < 1e-12) return gait;
  const next = JSON.parse(JSON.stringify(gait)) as GaitSpec;
  for (const path of FOLLOWING) {
    const entry = parameterAt(path)!;
    for (const side of ['left', 'right'] as const) {
      if (side === 'right' && !(path in next.right)) continue;
      const value = readValue(next, entry, side);
      writeValue(
        next,
        entry,
        typeof value === 'number' ? scaled(value, k, entry.parameter) : { ...value, amount: scaled((value as Channel).amount, k, entry.parameter) },
        side,
      );
    }
  }
  return next;
}

/** A scaled value that stays inside what its parameter allows. */
function scaled(
  value: number,
  k: number,
  parameter: { readonly kind: string; readonly range?: readonly [number, number]; readonly amount?: readonly [number, number] },
): number {
  const [lo, hi] = (parameter.kind === 'scalar' ? parameter.range : parameter.amount)!;
  return Math.min(hi, Math.max(lo, value * k));
}
