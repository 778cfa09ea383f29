/**
 * Quintic from (p0, v0) to (p1, v1) over `duration`, with zero acceleration at both ends.
 * `u` in [0, 1]; velocities per unit of time. Value in the unit of p.
 */
export function quinticHermite(p0: number, v0: number, p1: number, v1: number, duration: number, u: number): number {
  const d = p1 - p0,
    a = v0 * duration,
    b = v1 * duration;
  const u3 = u * u * u;
  return p0 + a * u + u3 * (10 * d - 6 * a - 4 * b + u * (-15 * d + 8 * a + 7 * b + u * (6 * d - 3 * a - 3 * b)));
}

/** Cubic with values p0, p1 and tangents m0, m1 per unit of u. */
export function cubicHermite(p0: number, m0: number, p1: number, m1: number, u: number): number {
  const d = p1 - p0;
  return p0 + u * (m0 + u * (3 * d - 2 * m0 - m1 + u * (m0 + m1 - 2 * d)));
}

/**
 * Tangents (per knot interval) of equally spaced values, chosen so that the cubic through them never overshoots.
 * Writes `count` numbers to `out[o..]`. Source: Fritsch & Carlson 1980, harmonic-mean form.
 */
export function monotoneTangents(values: Float64Array, o: number, count: number, out: Float64Array): void {
  for (let i = 0; i < count; i++) {
    const before = i > 0 ? values[o + i]! - values[o + i - 1]! : 0;
    const after = i < count - 1 ? values[o + i + 1]! - values[o + i]! : 0;
    if (i === 0) out[o] = endTangent(after, count > 2 ? values[o + 2]! - values[o + 1]! : after);
    else if (i === count - 1) out[o + i] = endTangent(before, count > 2 ? values[o + i - 1]! - values[o + i - 2]! : before);
    else out[o + i] = before * after > 0 ? (2 * before * after) / (before + after) : 0;
  }
}

/** Three-point end slope, limited so the end interval stays monotone. */
function endTangent(near: number, next: number): number {
  const m = (3 * near - next) / 2;
  if (m * near <= 0) return 0;
  return Math.abs(m) > 3 * Math.abs(near) ? 3 * near : m;
}
