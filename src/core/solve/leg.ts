import type { LegMeasures } from '../body/legs';
import { clamp } from '../math/scalar';
import { multiply, setFromAxesAt } from '../math/quaternion';

/** The knee closes at most to this interior angle (rad): about 150° of flexion. */
const TIGHTEST_INTERIOR_RAD = Math.PI - 2.62;

const spanOf = ({ thigh, shank }: LegMeasures, interior: number): number => Math.sqrt(thigh * thigh + shank * shank - 2 * thigh * shank * Math.cos(interior));

/** Hip-ankle distance (m) of a leg whose knee never opens past `straightest` radians of bend. */
export const longestReach = (leg: LegMeasures, straightest: number): number => spanOf(leg, Math.PI - straightest);
/** Hip-ankle distance (m) of a leg folded as far as it goes. */
export const shortestReach = (leg: LegMeasures): number => spanOf(leg, TIGHTEST_INTERIOR_RAD);

/** Numbers `solveLeg` reads: hip xyz, ankle xyz (m, world), heading of the knee (rad), longest and shortest reach (m). */
export const LEG_INPUT = { hip: 0, ankle: 3, pole: 6, longest: 7, shortest: 8 } as const;
export const LEG_INPUT_SIZE = 9;
/**
 * Numbers it writes: world orientations of thigh and shank, the knee's own rotation, and how far (m) the target lay outside
 * reach (positive: too far, negative: too near); further on, the thigh's own upward axis.
 */
export const LEG_OUTPUT = { thigh: 0, shank: 4, knee: 8, missed: 12, up: 16 } as const;
const LEG_OUTPUT_SIZE = 13;
/** Numbers kept beside them: the thigh's hinge and its upward axis, 3 each. */
const SCRATCH = LEG_OUTPUT_SIZE;
/** Length of the buffer `solveLeg` writes to. */
export const LEG_BUFFER = LEG_OUTPUT_SIZE + 6;

/**
 * Exact two-bone leg: reads LEG_INPUT, writes LEG_OUTPUT (to a buffer of LEG_BUFFER numbers). Out of reach, the leg points at the target with its nearest
 * allowed knee. Allocates nothing.
 */
export function solveLeg(leg: LegMeasures, input: Float64Array, out: Float64Array): void {
  let ux = input[3]! - input[0]!,
    uy = input[4]! - input[1]!,
    uz = input[5]! - input[2]!;
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
  const longest = input[7]!,
    shortest = input[8]!,
    pole = input[6]!;
  const missed = span > longest ? span - longest : span < shortest ? span - shortest : 0;
  const d = span - missed;
  const a = leg.thigh,
    b = leg.shank;
  // Cosines by the law of cosines; half angles by square roots, so that no angle has to be found.
  const bend = -clamp((a * a + b * b - d * d) / (2 * a * b), -1, 1);
  const c = clamp((a * a + d * d - b * b) / (2 * a * d), -1, 1),
    s = Math.sqrt(1 - c * c);
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
  out[SCRATCH] = nx;
  out[SCRATCH + 1] = ny;
  out[SCRATCH + 2] = nz;
  out[SCRATCH + 3] = -(ux * c + fx * s);
  out[SCRATCH + 4] = -(uy * c + fy * s);
  out[SCRATCH + 5] = -(uz * c + fz * s);
  setFromAxesAt(out, LEG_OUTPUT.thigh, out, SCRATCH);
  out[LEG_OUTPUT.missed] = missed;
  out[LEG_OUTPUT.knee] = Math.sqrt((1 - bend) / 2);
  out[LEG_OUTPUT.knee + 1] = out[LEG_OUTPUT.knee + 2] = 0;
  out[LEG_OUTPUT.knee + 3] = Math.sqrt((1 + bend) / 2);
  multiply(out, LEG_OUTPUT.shank, out, LEG_OUTPUT.thigh, out, LEG_OUTPUT.knee);
}
