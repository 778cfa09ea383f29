import { ROLES, type Role } from './roles';
import type { Skeleton, WorldPose } from './skeleton';

/**
 * Segment masses as parts of body mass and their centres along the segment, from its proximal end.
 * Source: P. de Leva 1996, after Zatsiorsky (values from memory, mean of male and female). Trunk and head centres: taken at
 * mid-segment, as a simplification.
 */
const SEGMENTS: readonly (readonly [mass: number, from: Role, to: Role, centre: number])[] = [
  [0.068, 'neck', 'head', 1.4],
  [0.4305, 'hips', 'neck', 0.5],
  ...(['left', 'right'] as const).flatMap(
    (side) =>
      [
        [0.0265, `${side}UpperArm`, `${side}LowerArm`, 0.58],
        [0.015, `${side}LowerArm`, `${side}Hand`, 0.46],
        [0.006, `${side}Hand`, `${side}Hand`, 0],
        [0.145, `${side}UpperLeg`, `${side}LowerLeg`, 0.41],
        [0.0455, `${side}LowerLeg`, `${side}Foot`, 0.44],
        [0.014, `${side}Foot`, `${side}Toes`, 0.5],
      ] as const,
  ),
];
const TOTAL = SEGMENTS.reduce((sum, [m]) => sum + m, 0);

interface Segment {
  readonly share: number;
  readonly from: number;
  readonly to: number;
  readonly centre: number;
}

const segmentsOf = (joint: (role: Role) => number): Segment[] =>
  SEGMENTS.map(([mass, from, to, centre]) => ({ share: mass / TOTAL, from: joint(from) * 3, to: joint(to) * 3, centre }));
const CANONICAL = segmentsOf((role) => ROLES.indexOf(role));

function add(segments: readonly Segment[], p: Float64Array, o: number, k: number): number {
  let sum = 0;
  for (let i = 0; i < segments.length; i++) {
    const { share, from, to, centre } = segments[i]!;
    const a = p[o + from + k]!;
    sum += share * (a + (p[o + to + k]! - a) * centre);
  }
  return sum;
}

/** Whole-body centre of mass (m, world) of a posed skeleton with our joint order, into out[at..at+2]. */
export function centreOfMass({ positions }: WorldPose, out: Float64Array, at: number): void {
  for (let k = 0; k < 3; k++) out[at + k] = add(CANONICAL, positions, 0, k);
}

/** Returns the height (m) of the centre of mass from joint positions at p[o..]; null where joints of these roles are missing. */
export function centreOfMassHeight({ names }: Skeleton): ((p: Float64Array, o: number) => number) | null {
  const segments = segmentsOf((role) => names.indexOf(role));
  if (segments.some((s) => s.from < 0 || s.to < 0)) return null;
  return (p, o) => add(segments, p, o, 1);
}
