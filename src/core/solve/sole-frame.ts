import type { Numbers } from '../math/quaternion';

/**
 * The frame of a sole on the ground from heading (rad) and slope (rise along x and z) at at[i..i+2]: up is the ground's
 * normal, forward the heading laid into the plane, left = up × forward. Writes forward then up, six numbers, to out[o..].
 * The level is this frame about Y, by the same code. Allocates nothing.
 */
export function soleAxes(at: Numbers, i: number, out: Numbers, o: number): void {
  const heading = at[i]!,
    gx = at[i + 1]!,
    gz = at[i + 2]!;
  const s = Math.sin(heading),
    c = Math.cos(heading);
  const climb = gx * s + gz * c;
  const f = 1 / Math.sqrt(1 + climb * climb),
    u = 1 / Math.sqrt(1 + gx * gx + gz * gz);
  out[o] = s * f;
  out[o + 1] = climb * f;
  out[o + 2] = c * f;
  out[o + 3] = -gx * u;
  out[o + 4] = u;
  out[o + 5] = -gz * u;
}

/**
 * The same frame as a quaternion: the shortest turn from level to the slope, after the turn that brings forward to its
 * heading. Continuous in all three numbers, whatever the heading has wound up to.
 */
export function soleQuaternion(at: Numbers, i: number, out: Numbers, o: number): void {
  const heading = at[i]!,
    gx = at[i + 1]!,
    gz = at[i + 2]!;
  const u = 1 / Math.sqrt(1 + gx * gx + gz * gz);
  // Shortest turn from Y to the normal (−gx, 1, −gz) u: (nz, 0, −nx, 1 + ny), normalised.
  const n = 1 / Math.sqrt(2 + 2 * u);
  const tx = -gz * u * n,
    tz = gx * u * n,
    tw = (1 + u) * n;
  // How much further than the heading the turn about the normal has to go so that forward keeps it as seen from above.
  const s = Math.sin(heading),
    c = Math.cos(heading);
  const climb = gx * s + gz * c;
  const f = 1 / Math.sqrt(1 + climb * climb);
  const fx = s * f,
    fy = climb * f,
    fz = c * f;
  // Forward turned back to level: v + w t + q × t with q the inverse tilt.
  const ax = 2 * (0 * fz + tz * fy),
    ay = 2 * (-tz * fx + tx * fz),
    az = 2 * (-tx * fy);
  const bx = fx + tw * ax + (0 * az + tz * ay),
    bz = fz + tw * az + (-tx * ay);
  const sin = bx * c - bz * s,
    cos = bz * c + bx * s;
  const half = (heading + Math.atan2(sin, cos)) / 2;
  const hs = Math.sin(half),
    hc = Math.cos(half);
  out[o] = tx * hc - tz * hs;
  out[o + 1] = tw * hs;
  out[o + 2] = tz * hc + tx * hs;
  out[o + 3] = tw * hc;
}
