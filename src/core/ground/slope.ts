import type { Ground } from './ground';

/**
 * A plane through the origin that rises by `angle` (rad, below a right angle) towards `heading` (rad about Y, 0 = +Z).
 * Throws RangeError for an angle that is no slope.
 */
export function slopeGround(angle: number, heading = 0): Ground {
  if (!(Math.abs(angle) < Math.PI / 2)) throw new RangeError(`slopeGround: the angle must lie between −π/2 and π/2, got ${angle}`);
  const rise = Math.tan(angle);
  const gx = rise * Math.sin(heading),
    gz = rise * Math.cos(heading);
  const up = Math.cos(angle);
  return {
    height: (x, z) => gx * x + gz * z,
    normal: (_x, _z, out, at) => {
      out[at] = -gx * up;
      out[at + 1] = up;
      out[at + 2] = -gz * up;
    },
    footing: () => true,
  };
}
