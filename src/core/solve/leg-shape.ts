import type { LegMeasures } from '../body/legs';
import type { LegThickness } from '../body/limbs';
import { FOOT } from './foot-state';
import { LEG_BUFFER, LEG_INPUT, LEG_INPUT_SIZE, LEG_OUTPUT, shortestReach, solveLeg } from './leg';

/** Points of a leg in space, three numbers each: hip, knee, ankle, heel, toe tip. */
const LEG_POINT = { hip: 0, knee: 3, ankle: 6, heel: 9, tip: 12 } as const;
export const LEG_POINTS_SIZE = 15;

/** Where a hip joint is: place (m, world), heading of the hips and knee's own turn outward (rad). */
export const HIP_JOINT = { place: 0, heading: 3, kneesOut: 4 } as const;
export const HIP_JOINT_SIZE = 5;

/** Lays a leg out from its hip joint and its foot's state (ankle first, as FOOT has it); points to out[0..LEG_POINTS_SIZE). */
export type LegShaper = (joint: Float64Array, foot: Float64Array, out: Float64Array) => void;

export function createLegShaper(leg: LegMeasures): LegShaper {
  const input = new Float64Array(LEG_INPUT_SIZE),
    solved = new Float64Array(LEG_BUFFER);
  input[LEG_INPUT.longest] = leg.thigh + leg.shank;
  input[LEG_INPUT.shortest] = shortestReach(leg);
  const { heelBack, tipAhead, ankleHeight } = leg.sole;
  return (joint, foot, out) => {
    for (let k = 0; k < 3; k++) {
      out[LEG_POINT.hip + k] = input[k] = joint[k]!;
      out[LEG_POINT.ankle + k] = input[LEG_INPUT.ankle + k] = foot[k]!;
    }
    input[LEG_INPUT.pole] = (joint[HIP_JOINT.heading]! + foot[FOOT.heading]!) / 2 + joint[HIP_JOINT.kneesOut]!;
    solveLeg(leg, input, solved);
    for (let k = 0; k < 3; k++) out[LEG_POINT.knee + k] = joint[k]! - leg.thigh * solved[LEG_OUTPUT.up + k]!;
    const sin = Math.sin(foot[FOOT.heading]!),
      cos = Math.cos(foot[FOOT.heading]!),
      rise = Math.sin(foot[FOOT.pitch]!),
      level = Math.cos(foot[FOOT.pitch]!);
    // The foot's middle line, half the ankle's height over the sole.
    const down = 0.5 * ankleHeight;
    for (const [at, ahead] of [
      [LEG_POINT.heel, -heelBack],
      [LEG_POINT.tip, tipAhead],
    ] as const) {
      const forward = ahead * level + down * rise;
      out[at] = foot[0]! + forward * sin;
      out[at + 1] = foot[1]! + ahead * rise - down * level;
      out[at + 2] = foot[2]! + forward * cos;
    }
  };
}

/** Points looked at along one leg: from and to of LEG_POINT, and how far between. */
const PLACES = [
  [LEG_POINT.hip, LEG_POINT.knee, 0.5],
  [LEG_POINT.hip, LEG_POINT.knee, 0.8],
  [LEG_POINT.hip, LEG_POINT.knee, 1],
  [LEG_POINT.knee, LEG_POINT.ankle, 0.3],
  [LEG_POINT.knee, LEG_POINT.ankle, 0.65],
  [LEG_POINT.knee, LEG_POINT.ankle, 1],
  [LEG_POINT.heel, LEG_POINT.tip, 0.1],
  [LEG_POINT.heel, LEG_POINT.tip, 0.5],
  [LEG_POINT.heel, LEG_POINT.tip, 0.9],
] as const;
const SEGMENTS = [
  [LEG_POINT.hip, LEG_POINT.knee],
  [LEG_POINT.knee, LEG_POINT.ankle],
  [LEG_POINT.heel, LEG_POINT.tip],
] as const;

/** Radius (m) of a leg between two of its points. */
const radiusAt = (t: LegThickness, from: number, u: number): number =>
  from === LEG_POINT.hip ? t.hip + (t.knee - t.hip) * u : from === LEG_POINT.knee ? t.knee + (t.ankle - t.knee) * u : t.foot;

/** What `legsApart` tells: how far (m) the skins are short of each other, how far under the hip, and from where to where across, 3. */
export const APART = { short: 0, lever: 1, across: 2 } as const;
export const APART_SIZE = 5;

/** Looks where leg a comes closest to leg b, measured by what is missing; writes to out[0..APART_SIZE). Allocates nothing. */
export function legsApart(a: Float64Array, b: Float64Array, thickness: LegThickness, out: Float64Array): void {
  out[APART.short] = -Infinity;
  for (let i = 0; i < PLACES.length; i++) {
    const [from, to, u] = PLACES[i]!;
    const x = a[from]! + (a[to]! - a[from]!) * u,
      y = a[from + 1]! + (a[to + 1]! - a[from + 1]!) * u,
      z = a[from + 2]! + (a[to + 2]! - a[from + 2]!) * u;
    const own = radiusAt(thickness, from, u);
    for (let s = 0; s < SEGMENTS.length; s++) {
      const [p, q] = SEGMENTS[s]!;
      const dx = b[q]! - b[p]!,
        dy = b[q + 1]! - b[p + 1]!,
        dz = b[q + 2]! - b[p + 2]!;
      const along = ((x - b[p]!) * dx + (y - b[p + 1]!) * dy + (z - b[p + 2]!) * dz) / Math.max(1e-12, dx * dx + dy * dy + dz * dz);
      const v = along < 0 ? 0 : along > 1 ? 1 : along;
      const ax = x - b[p]! - v * dx,
        ay = y - b[p + 1]! - v * dy,
        az = z - b[p + 2]! - v * dz;
      const apart = Math.sqrt(ax * ax + ay * ay + az * az);
      const short = own + radiusAt(thickness, p, v) - apart;
      if (short <= out[APART.short]!) continue;
      out[APART.short] = short;
      out[APART.lever] = a[LEG_POINT.hip + 1]! - y;
      out[APART.across] = ax / Math.max(1e-9, apart);
      out[APART.across + 1] = ay / Math.max(1e-9, apart);
      out[APART.across + 2] = az / Math.max(1e-9, apart);
    }
  }
}
