/**
 * Forward and up of a sole's frame alone (see `soleFrame`), six numbers to out[o..], from heading and slope at at[i..i+2].
 */
export function soleAxes(at: Float64Array, i: number, out: Float64Array, o: number): void {
  const gx = at[i + 1]!,
    gz = at[i + 2]!;
  const s = Math.sin(at[i]!),
    c = Math.cos(at[i]!);
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

/** Numbers of a sole's frame: forward 3, up 3, then the same as a quaternion, 4. */
export const SOLE_FRAME = { forward: 0, up: 3, turn: 6 } as const;
export const SOLE_FRAME_SIZE = 10;

/**
 * The frame of a sole on the ground from heading (rad) and slope (rise along x and z) at at[i..i+2]: up is the ground's
 * normal, forward the heading laid into the plane, left = up × forward; as axes and as a quaternion, to out[o..]. The
 * quaternion is the shortest turn from level to the slope after the turn that brings forward to its heading: continuous in
 * all three numbers, whatever the heading has wound up to. The level is this frame about Y, by the same code.
 */
export function soleFrame(at: Float64Array, i: number, out: Float64Array, o: number): void {
  const heading = at[i]!,
    gx = at[i + 1]!,
    gz = at[i + 2]!;
  const hs = Math.sin(heading / 2),
    hc = Math.cos(heading / 2);
  const s = 2 * hs * hc,
    c = hc * hc - hs * hs;
  const climb = gx * s + gz * c;
  const f = 1 / Math.sqrt(1 + climb * climb),
    u = 1 / Math.sqrt(1 + gx * gx + gz * gz);
  const fx = s * f,
    fy = climb * f,
    fz = c * f;
  out[o] = fx;
  out[o + 1] = fy;
  out[o + 2] = fz;
  out[o + 3] = -gx * u;
  out[o + 4] = u;
  out[o + 5] = -gz * u;
  // Shortest turn from Y to the normal (−gx, 1, −gz) u: (nz, 0, −nx, 1 + ny), normalised.
  const n = 1 / Math.sqrt(2 + 2 * u);
  const tx = -gz * u * n,
    tz = gx * u * n,
    tw = (1 + u) * n;
  // Forward turned back to level shows how much further than the heading the turn about the normal has to go.
  const ax = 2 * tz * fy,
    ay = 2 * (tx * fz - tz * fx),
    az = -2 * tx * fy;
  const bx = fx + tw * ax + tz * ay,
    bz = fz + tw * az - tx * ay;
  const more = bx * c - bz * s,
    same = bz * c + bx * s;
  const mc = Math.sqrt((1 + same) / 2),
    ms = more / (2 * mc);
  const ys = hs * mc + hc * ms,
    yc = hc * mc - hs * ms;
  out[o + 6] = tx * yc - tz * ys;
  out[o + 7] = tw * ys;
  out[o + 8] = tz * yc + tx * ys;
  out[o + 9] = tw * yc;
}
