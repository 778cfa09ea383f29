import type { Body } from '../body';
import { ellipsePoints, type Ellipse, type Hanging, type Loop, type MeshBuilder, type Point, type Vector3 } from '../mesh-builder';
import { JOINT, type Role } from '../roles';

/** Matte clay, a darker clay for the face, and the colours of the two feet, linear RGB. */
export const CLAY: Vector3 = [0.56, 0.43, 0.33];
export const CLAY_DARK: Vector3 = [0.3, 0.22, 0.17];
export const FOOT_CLAY = { left: [0.584, 0.191, 0.013], right: [0.105, 0.07, 0.474] } as const satisfies Record<string, Vector3>;

/** Columns of the trunk and of a limb: a limb's loop takes up half the trunk's, or a patch of its side. */
export const TRUNK_COLUMNS = 24;
export const LIMB_COLUMNS = 16;

export type Positions = Record<Role, Vector3>;

/** Where the joints stand in the rest pose, m. */
export function restPositions(body: Body): Positions {
  const { parents, offsets } = body.skeleton;
  const at: Vector3[] = [];
  parents.forEach((parent, j) => at.push([0, 1, 2].map((k) => offsets[j * 3 + k]! + (parent < 0 ? 0 : at[parent]![k]!)) as unknown as Vector3));
  return Object.fromEntries(Object.entries(JOINT).map(([role, j]) => [role, at[j]!])) as Positions;
}

/** Shares of the two joints around `at` on a chain of joints placed along one axis; each takes over within ± its width. */
export function hangBetween(chain: readonly (readonly [joint: number, place: number])[], at: number, width: number): Hanging {
  let i = 0;
  while (i + 1 < chain.length && chain[i + 1]![1] <= at) i++;
  const next = chain[i + 1],
    here = chain[i]!;
  const toNext = next ? (at - (next[1] - width)) / (2 * width) : 0;
  if (next && toNext > 0)
    return [
      [here[0], 1 - toNext],
      [next[0], toNext],
    ];
  const before = chain[i - 1];
  const fromBefore = before ? (at - (here[1] - width)) / (2 * width) : 1;
  if (before && fromBefore < 1)
    return [
      [before[0], 1 - fromBefore],
      [here[0], fromBefore],
    ];
  return [[here[0], 1]];
}

/** Two hangings mixed: (1 − t) of a and t of b. */
export function mixed(a: Hanging, b: Hanging, t: number): Hanging {
  const shares = new Map<number, number>();
  for (const [joint, share] of a) shares.set(joint, (shares.get(joint) ?? 0) + share * (1 - t));
  for (const [joint, share] of b) shares.set(joint, (shares.get(joint) ?? 0) + share * t);
  return [...shares];
}

/** Points of an ellipse, all of one colour, each hung by where it is. */
export const ringPoints = (ellipse: Ellipse, count: number, hang: (at: Vector3) => Hanging, color: Vector3 = CLAY): Point[] =>
  ellipsePoints(ellipse, count).map((at) => ({ at, hang: hang(at), color }));

/** The point in the middle of an ellipse. */
export const middlePoint = ({ center }: Ellipse, hang: (at: Vector3) => Hanging, color: Vector3 = CLAY): Point => ({ at: center, hang: hang(center), color });

/** What a limb is made of: its rounds from the trunk on, and how it comes from the hole's slanting edge to the first of them. */
interface Limb {
  rounds: readonly Ellipse[];
  hang: (at: Vector3) => Hanging;
  /** Shares of the way from edge to first round at which rounds stand between. */
  between: readonly number[];
  /** The point on such a round, from its neighbour on the edge and on the first round; `turn` is where round the limb, rad. */
  ease: (edge: Vector3, round: Vector3, share: number, turn: number) => Vector3;
}

/** A limb grown out of a hole of the trunk, open at its end; returns the last loop. */
export function growLimb(mesh: MeshBuilder, hole: Loop, { rounds, hang, between, ease }: Limb): Loop {
  const edge = hole.map((v) => mesh.placeOf(v));
  const first = ellipsePoints(rounds[0]!, LIMB_COLUMNS);
  const eased = between.map((share) =>
    mesh.loop(
      edge.map((p, i) => {
        const at = ease(p, first[i]!, share, (2 * Math.PI * i) / LIMB_COLUMNS);
        return { at, hang: hang(at), color: CLAY };
      }),
    ),
  );
  const loops = [hole, ...eased, ...rounds.map((r) => mesh.loop(ringPoints(r, LIMB_COLUMNS, hang)))];
  for (let r = 0; r + 1 < loops.length; r++) mesh.bridge(loops[r]!, loops[r + 1]!);
  return loops[loops.length - 1]!;
}
