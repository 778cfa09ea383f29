import type { Sole } from '../body/sole';
import type { Ground } from './ground';

/**
 * The plane a whole sole rests on: height (m) under the ankle of the flat foot and the ground's rise along x and z
 * (dimensionless). `gap` is how far (m) the ground drops away under the sole at worst: 0 where it is flat.
 */
export interface SolePlane {
  readonly y: number;
  readonly slopeX: number;
  readonly slopeZ: number;
  readonly gap: number;
}

/** A drop under the sole smaller than this is none, m. */
const FLAT_M = 1e-9;

/** Corners of a sole, forward and left of the ankle, m: heel, ball and tip, both edges; `overhang` m of it at either end hang free. */
function corners({ heelBack, ballAhead, tipAhead, breadth }: Sole, overhang: number): readonly (readonly [number, number])[] {
  const half = breadth / 2;
  return [
    [overhang - heelBack, half * 0.6],
    [overhang - heelBack, -half * 0.6],
    [ballAhead, half],
    [ballAhead, -half],
    [Math.max(ballAhead, tipAhead - overhang), 0],
  ];
}

/**
 * The plane under a sole whose ankle stands over (x, z) with the given heading (rad): the ground's own where it is flat
 * there, otherwise the highest supports, that is the facet of the supports' upper hull under the middle of the sole. Of heel
 * and toes `overhang` m need no support; the ball always does.
 */
export function solePlane(ground: Ground, sole: Sole, x: number, z: number, heading: number, overhang = 0): SolePlane {
  const s = Math.sin(heading),
    c = Math.cos(heading);
  const own = ownPlane(ground, x, z);
  const places = corners(sole, overhang);
  const onIt = places.every(([ahead, left]) => {
    const dx = s * ahead + c * left,
      dz = c * ahead - s * left;
    return Math.abs(ground.height(x + dx, z + dz) - (own.y + own.slopeX * dx + own.slopeZ * dz)) <= FLAT_M;
  });
  return onIt ? own : highestSupports(ground, places, x, z, s, c);
}

/** The ground's own plane at a place. */
function ownPlane(ground: Ground, x: number, z: number): SolePlane {
  const n = [0, 1, 0];
  ground.normal(x, z, n, 0);
  return { y: ground.height(x, z), slopeX: -n[0]! / n[1]! + 0, slopeZ: -n[2]! / n[1]! + 0, gap: 0 };
}

/** The facet of the supports' upper hull under the middle of the sole. */
function highestSupports(ground: Ground, places: readonly (readonly [number, number])[], x: number, z: number, s: number, c: number): SolePlane {
  const points = places.map(([ahead, left]) => {
    const px = x + s * ahead + c * left,
      pz = z + c * ahead - s * left;
    return { px, pz, y: ground.height(px, pz) };
  });
  const mx = points.reduce((sum, p) => sum + p.px, 0) / points.length,
    mz = points.reduce((sum, p) => sum + p.pz, 0) / points.length;
  let best: SolePlane | null = null;
  let lowest = Infinity;
  for (let i = 0; i < points.length; i++)
    for (let j = i + 1; j < points.length; j++)
      for (let k = j + 1; k < points.length; k++) {
        const plane = through(points[i]!, points[j]!, points[k]!);
        if (!plane) continue;
        const over = points.map((p) => plane.y0 + plane.gx * p.px + plane.gz * p.pz - p.y);
        if (Math.min(...over) < -FLAT_M) continue;
        const middle = plane.y0 + plane.gx * mx + plane.gz * mz;
        if (middle >= lowest - FLAT_M) continue;
        lowest = middle;
        best = { y: plane.y0 + plane.gx * x + plane.gz * z, slopeX: plane.gx, slopeZ: plane.gz, gap: Math.max(0, ...over) };
      }
  return best!;
}

interface Support {
  readonly px: number;
  readonly pz: number;
  readonly y: number;
}

/** Plane y = y0 + gx x + gz z through three points; null where they lie in a line. */
function through(a: Support, b: Support, c: Support): { y0: number; gx: number; gz: number } | null {
  const [ux, uz, uy] = [b.px - a.px, b.pz - a.pz, b.y - a.y];
  const [vx, vz, vy] = [c.px - a.px, c.pz - a.pz, c.y - a.y];
  const det = ux * vz - uz * vx;
  if (Math.abs(det) < 1e-8) return null;
  const gx = (uy * vz - uz * vy) / det,
    gz = (ux * vy - uy * vx) / det;
  return { gx, gz, y0: a.y - gx * a.px - gz * a.pz };
}
