import { JOINT } from '../body/roles';
import type { WorldPose } from '../body/skeleton';

/**
 * Segment masses as parts of body mass and their centres along the segment, from its proximal end.
 * Source: P. de Leva 1996, after Zatsiorsky (values from memory, mean of male and female). Trunk and head centres: taken at
 * mid-segment, as a simplification.
 */
const SEGMENTS: readonly (readonly [mass: number, from: number, to: number, centre: number])[] = [
  [0.068, JOINT.neck, JOINT.head, 1.4],
  [0.4305, JOINT.hips, JOINT.neck, 0.5],
  ...([JOINT.leftUpperArm, JOINT.rightUpperArm] as const).flatMap(
    (j) =>
      [
        [0.0265, j, j + 1, 0.58],
        [0.015, j + 1, j + 2, 0.46],
        [0.006, j + 2, j + 2, 0],
      ] as const,
  ),
  ...([JOINT.leftUpperLeg, JOINT.rightUpperLeg] as const).flatMap(
    (j) =>
      [
        [0.145, j, j + 1, 0.41],
        [0.0455, j + 1, j + 2, 0.44],
        [0.014, j + 2, j + 3, 0.5],
      ] as const,
  ),
];
const TOTAL = SEGMENTS.reduce((sum, [m]) => sum + m, 0);

/** Whole-body centre of mass (m, world) of a posed skeleton with our joint order, into out[at..at+2]. */
export function centreOfMass({ positions: p }: WorldPose, out: Float64Array, at: number): void {
  out[at] = out[at + 1] = out[at + 2] = 0;
  for (const [mass, from, to, centre] of SEGMENTS)
    for (let k = 0; k < 3; k++) out[at + k] = out[at + k]! + (mass / TOTAL) * (p[from * 3 + k]! + (p[to * 3 + k]! - p[from * 3 + k]!) * centre);
}
