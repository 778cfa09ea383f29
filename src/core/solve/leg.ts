import type { Body } from '../body/body';
import { acosClamped } from '../math/scalar';
import { multiplyAxis, setFromAxes } from '../math/quaternion';

/** The knee closes at most to this interior angle (rad): about 150° of flexion. */
const TIGHTEST_INTERIOR_RAD = Math.PI - 2.62;

/** Largest and smallest hip-ankle distance (m) for a knee that never opens past `straightest` radians of bend. */
export function legReach(thigh: number, shank: number, straightest: number): { longest: number; shortest: number } {
  const span = (interior: number) => Math.sqrt(thigh * thigh + shank * shank - 2 * thigh * shank * Math.cos(interior));
  return { longest: span(Math.PI - straightest), shortest: span(TIGHTEST_INTERIOR_RAD) };
}

/** What the last leg solved did: how far the target lay outside reach, m (positive: too far, negative: too near). */
export interface LegResult {
  missed: number;
  knee: number;
}

/**
 * Exact two-bone leg. Hip and ankle are world positions (m) in `points` [hip xyz, ankle xyz]; `pole` is the heading (rad)
 * of the knee. Writes world orientations of thigh to out[0..3] and shank to out[4..7]. Knee bend in radians in `result`.
 * Out of reach, the leg points at the target with its nearest allowed knee.
 */
export function solveLeg(
  body: Body,
  reach: { longest: number; shortest: number },
  points: Float64Array,
  pole: number,
  out: Float64Array,
  result: LegResult,
): void {
  let ux = points[3]! - points[0]!,
    uy = points[4]! - points[1]!,
    uz = points[5]! - points[2]!;
  let span = Math.sqrt(ux * ux + uy * uy + uz * uz);
  if (!(span > 1e-9)) {
    ux = 0;
    uy = -1;
    uz = 0;
    span = 1e-9;
  } else {
    ux /= span;
    uy /= span;
    uz /= span;
  }
  result.missed = span > reach.longest ? span - reach.longest : span < reach.shortest ? span - reach.shortest : 0;
  const d = span - result.missed;
  const a = body.thigh,
    b = body.shank;
  result.knee = Math.PI - acosClamped((a * a + b * b - d * d) / (2 * a * b));
  const atHip = acosClamped((a * a + d * d - b * b) / (2 * a * d));
  // Hinge axis: the knee heading's left, made perpendicular to the leg.
  let nx = Math.cos(pole),
    ny = 0,
    nz = -Math.sin(pole);
  const along = nx * ux + nz * uz;
  nx -= along * ux;
  ny -= along * uy;
  nz -= along * uz;
  const n = Math.sqrt(nx * nx + ny * ny + nz * nz);
  if (n > 1e-9) {
    nx /= n;
    ny /= n;
    nz /= n;
  } else {
    // Leg along the hinge: any perpendicular serves; up never is parallel to a level hinge.
    nx = 0;
    ny = 1;
    nz = 0;
  }
  // Forward of the leg, perpendicular to it.
  const fx = uy * nz - uz * ny,
    fy = uz * nx - ux * nz,
    fz = ux * ny - uy * nx;
  const c = Math.cos(atHip),
    s = Math.sin(atHip);
  setFromAxes(out, 0, nx, ny, nz, -(ux * c + fx * s), -(uy * c + fy * s), -(uz * c + fz * s));
  multiplyAxis(out, 4, out, 0, 0, result.knee);
}
