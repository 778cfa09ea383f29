import type { Body } from './body';
import { CLAY, CLAY_DARK, middlePoint, restPositions, ringPoints } from './clay/clay';
import { footSkin } from './clay/foot';
import { MeshBuilder, type Hanging, type SkinnedMesh, type Vector3 } from './mesh-builder';
import { JOINT, type Role } from './roles';

/** Columns of a plain limb. */
const COLUMNS = 12;

/** Bones that are drawn, and how thick they are at both ends, as parts of the leg's length. */
const BONES: readonly (readonly [from: Role, to: Role, thick: number, thin: number])[] = [
  ['hips', 'spine', 0.09, 0.08],
  ['spine', 'chest', 0.08, 0.085],
  ['chest', 'upperChest', 0.085, 0.09],
  ['upperChest', 'neck', 0.09, 0.04],
  ['neck', 'head', 0.035, 0.04],
  ...(['left', 'right'] as const).flatMap(
    (side) =>
      [
        ['hips', `${side}UpperLeg`, 0.06, 0.06],
        [`${side}UpperLeg`, `${side}LowerLeg`, 0.062, 0.045],
        [`${side}LowerLeg`, `${side}Foot`, 0.045, 0.03],
        ['upperChest', `${side}UpperArm`, 0.045, 0.045],
        [`${side}UpperArm`, `${side}LowerArm`, 0.036, 0.028],
        [`${side}LowerArm`, `${side}Hand`, 0.028, 0.02],
      ] as const,
  ),
];
const HAND_SHARE = 0.2;
const HEAD_SHARE = 0.26;

/** A figure of plain limbs, a spindle a bone, for bodies known by their joints alone. Feet are as deep and long as their soles. */
export function createPlainLimbs(body: Body): SkinnedMesh {
  const mesh = new MeshBuilder();
  const at = restPositions(body);
  const l = body.legLength;
  for (const [from, to, thick, thin] of BONES) spindle(mesh, at[from], at[to], thick * l, thin * l, [[JOINT[from], 1]], CLAY);
  for (const side of ['left', 'right'] as const) {
    const hand = at[`${side}Hand`];
    const reach: Vector3 = [hand[0] + (side === 'left' ? 1 : -1) * HAND_SHARE * l, hand[1], hand[2]];
    spindle(mesh, hand, reach, 0.02 * l, 0.014 * l, [[JOINT[`${side}Hand`], 1]], CLAY);
    footSkin(mesh, body, at, side);
  }
  const head = at.head;
  spindle(mesh, head, [head[0], head[1] + HEAD_SHARE * l, head[2]], 0.095 * l, 0.07 * l, [[JOINT.head, 1]], CLAY);
  // A face, so that where it looks is told.
  spindle(
    mesh,
    [head[0], head[1] + 0.1 * l, head[2] + 0.05 * l],
    [head[0], head[1] + 0.1 * l, head[2] + 0.13 * l],
    0.045 * l,
    0.02 * l,
    [[JOINT.head, 1]],
    CLAY_DARK,
  );
  return mesh.build();
}

/** A round limb from a to b, thick at one end and thin at the other; nothing where they meet. */
function spindle(mesh: MeshBuilder, a: Vector3, b: Vector3, thick: number, thin: number, hang: Hanging, color: Vector3): void {
  const d = [0, 1, 2].map((k) => b[k]! - a[k]!);
  const length = Math.hypot(...d);
  if (length < 1e-4) return;
  const w = d.map((v) => v / length);
  const k = Math.abs(w[1]!) < 0.9 ? [0, 1, 0] : [1, 0, 0];
  const u = cross(k, w);
  const scale = 1 / Math.hypot(...u);
  const x = u.map((v) => v * scale);
  const y = cross(w, x);
  const rounds = [
    [-0.35 * thick, 0.6 * thick],
    [0, thick],
    [0.3 * length, 1.06 * thick],
    [length, thin],
    [length + 0.35 * thin, 0.6 * thin],
  ].map(([along, r]) => ({
    center: [0, 1, 2].map((i) => a[i]! + w[i]! * along!) as unknown as Vector3,
    u: x.map((v) => v * r!) as unknown as Vector3,
    v: y.map((v) => v * r!) as unknown as Vector3,
  }));
  mesh.tube(
    rounds.map((e) => ringPoints(e, COLUMNS, () => hang, color)),
    middlePoint(rounds[0]!, () => hang, color),
    middlePoint(rounds[rounds.length - 1]!, () => hang, color),
  );
}

const cross = (a: readonly number[], b: readonly number[]): number[] => [
  a[1]! * b[2]! - a[2]! * b[1]!,
  a[2]! * b[0]! - a[0]! * b[2]!,
  a[0]! * b[1]! - a[1]! * b[0]!,
];
