import type { Body } from '../body/body';
import { JOINT, SHOULDER, SIDES, UPPER_LEG } from '../body/roles';
import type { WorldPose } from '../body/skeleton';
import { rotate } from '../math/quaternion';

/** A part of the flat figure: a limb between two round ends, or the outline of a foot. Metres, x to the right, y up. */
export interface Part {
  readonly of: 'body' | 'left' | 'right' | 'leftFoot' | 'rightFoot';
  /** Nearer parts are larger. */
  readonly depth: number;
  /** Outline points of a polygon, or two circles (x, y, radius). */
  readonly polygon?: readonly (readonly [number, number])[];
  readonly ends?: readonly [readonly [number, number, number], readonly [number, number, number]];
}

export const SHEET_VIEWS = ['side', 'front'] as const;
export type SheetView = (typeof SHEET_VIEWS)[number];

/**
 * The figure as flat parts, far ones first, seen from its right side (it walks to the right) or from the front. `world` is
 * the pose's forward kinematics; x is taken against `originX`, `originZ` (m).
 */
export function silhouette(body: Body, world: WorldPose, view: SheetView, originX: number, originZ: number): Part[] {
  const H = body.spec.stature,
    limb = body.spec.build.limbGirth,
    trunk = body.spec.build.trunkGirth;
  const p = world.positions;
  const flat = (x: number, y: number, z: number): [number, number, number] =>
    view === 'side' ? [z - originZ, y, -(x - originX)] : [x - originX, y, z - originZ];
  const at = (j: number) => flat(p[j * 3]!, p[j * 3 + 1]!, p[j * 3 + 2]!);
  const v = [0, 0, 0];
  const off = (j: number, x: number, y: number, z: number) => {
    rotate(v, 0, world.rotations, j * 4, x, y, z);
    return flat(p[j * 3]! + v[0]!, p[j * 3 + 1]! + v[1]!, p[j * 3 + 2]! + v[2]!);
  };
  const parts: Part[] = [];
  const capsule = (of: Part['of'], a: readonly [number, number, number], ra: number, b: readonly [number, number, number], rb: number, nearer = 0) =>
    parts.push({
      of,
      depth: (a[2] + b[2]) / 2 + nearer,
      ends: [
        [a[0], a[1], ra * H],
        [b[0], b[1], rb * H],
      ],
    });
  const wide = view === 'front' ? 1.18 : 1;
  capsule('body', off(JOINT.hips, 0, -0.012 * H, 0), 0.056 * trunk * wide, at(JOINT.chest), 0.052 * trunk * wide);
  capsule('body', at(JOINT.chest), 0.052 * trunk * wide, off(JOINT.upperChest, 0, 0.035 * H, 0.004 * H), 0.06 * trunk ** 0.6 * wide);
  capsule('body', at(JOINT.neck), 0.026, at(JOINT.head), 0.026);
  const size = body.spec.build.headSize;
  capsule('body', off(JOINT.head, 0, 0.026 * H, 0.012 * H), 0.042 * size, off(JOINT.head, 0, 0.068 * H * size, 0), 0.05 * size);
  // A nose shows where the face is.
  capsule('body', off(JOINT.head, 0, 0.036 * H, 0.045 * H * size), 0.011, off(JOINT.head, 0, 0.028 * H, 0.062 * H * size), 0.008);
  for (const side of SIDES) {
    const of = side === 0 ? 'left' : 'right';
    const arm = SHOULDER[side] + 1,
      leg = UPPER_LEG[side];
    const sign = side === 0 ? 1 : -1;
    // From the side, limbs of the near half lie in front of the trunk.
    const nearer = view === 'side' ? -sign * 0.08 : 0.02;
    capsule(of, at(arm), 0.026 * limb, at(arm + 1), 0.021 * limb, nearer);
    capsule(of, at(arm + 1), 0.021 * limb, at(arm + 2), 0.015 * limb, nearer + 0.01);
    capsule(of, at(arm + 2), 0.016 * limb, off(arm + 2, sign * 0.06 * H, 0, 0), 0.012 * limb, nearer + 0.011);
    capsule(of, at(leg), 0.05 * limb, at(leg + 1), 0.032 * limb, nearer - 0.005);
    capsule(of, at(leg + 1), 0.032 * limb, at(leg + 2), 0.02 * limb, nearer - 0.004);
    parts.push({ of: `${of}Foot`, depth: at(leg + 2)[2] + nearer, polygon: footOutline(body, leg + 2, off, view) });
  }
  return parts.sort((a, b) => a.depth - b.depth);
}

type Offset = (j: number, x: number, y: number, z: number) => [number, number, number];

/** Heel, sole, ball and toe tip of one foot, with the toes as their joint bends them. */
function footOutline(body: Body, foot: number, off: Offset, view: SheetView): [number, number][] {
  const s = body.sole;
  const toes = foot + 1;
  const w = s.breadth / 2;
  const cut = ([x, y]: readonly number[]): [number, number] => [x!, y!];
  if (view === 'front') {
    const low = (x: number) => cut(off(toes, x, -s.toeJointHeight, (s.tipAhead - s.ballAhead) * 0.6));
    return [cut(off(foot, -w * 0.7, 0.01, 0)), cut(off(foot, w * 0.7, 0.01, 0)), cut(off(toes, w, 0.004, 0)), low(w), low(-w), cut(off(toes, -w, 0.004, 0))];
  }
  return [
    cut(off(foot, 0, s.ankleHeight * 0.25, -s.heelBack * 0.75)),
    cut(off(foot, 0, -s.ankleHeight * 0.6, -s.heelBack * 1.02)),
    cut(off(foot, 0, -s.ankleHeight, -s.heelBack * 0.9)),
    cut(off(toes, 0, -s.toeJointHeight, 0)),
    cut(off(toes, 0, -s.toeJointHeight, s.tipAhead - s.ballAhead)),
    cut(off(toes, 0, s.toeJointHeight * 0.6, (s.tipAhead - s.ballAhead) * 0.95)),
    cut(off(toes, 0, s.toeJointHeight * 1.3, 0)),
    cut(off(foot, 0, s.ankleHeight * 0.45, s.heelBack * 0.75)),
  ];
}

/** SVG path of a part, in a system where y runs down; `scale` in units a metre, origin at (x0, y0). */
export function partPath(part: Part, x0: number, y0: number, scale: number): string {
  const n = (v: number) => v.toFixed(1);
  const X = (x: number) => n(x0 + x * scale),
    Y = (y: number) => n(y0 - y * scale);
  if (part.polygon) return `${part.polygon.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${X(x)} ${Y(y)}`).join('')}Z`;
  const [[ax, ay, ra], [bx, by, rb]] = part.ends!;
  const dx = bx - ax,
    dy = by - ay,
    d = Math.hypot(dx, dy);
  // One circle inside the other: only the larger shows.
  if (d <= Math.abs(ra - rb) + 1e-9) {
    const [x, y, r] = ra > rb ? [ax, ay, ra] : [bx, by, rb];
    return `M${X(x - r)} ${Y(y)}a${n(r * scale)} ${n(r * scale)} 0 1 0 ${n(2 * r * scale)} 0a${n(r * scale)} ${n(r * scale)} 0 1 0 ${n(-2 * r * scale)} 0Z`;
  }
  // Outer tangents of the two circles.
  const along = Math.atan2(dy, dx),
    spread = Math.acos((ra - rb) / d);
  const point = (x: number, y: number, r: number, a: number) => `${X(x + r * Math.cos(a))} ${Y(y + r * Math.sin(a))}`;
  const large = ra > rb ? 1 : 0;
  const arc = (r: number, big: number) => `A${n(r * scale)} ${n(r * scale)} 0 ${big} 1`;
  return `M${point(ax, ay, ra, along - spread)}${arc(ra, large)} ${point(ax, ay, ra, along + spread)}L${point(bx, by, rb, along + spread)}${arc(rb, 1 - large)} ${point(bx, by, rb, along - spread)}Z`;
}
