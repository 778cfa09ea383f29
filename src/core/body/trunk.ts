import type { Body } from './body';
import { INNER_HALF } from './clay/leg';
import { JOINT, SHOULDER, SIDES, UPPER_LEG, type Side } from './roles';
import type { WorldPose } from './skeleton';

/** An upright elliptic cylinder hung on a joint: half width, half depth, and its reach below and above the joint, m. */
interface Girth {
  readonly joint: number;
  readonly halfWidth: number;
  readonly halfDepth: number;
  readonly below: number;
  readonly above: number;
}

/** What arms must stay out of: pelvis and chest as thick as the mannequin shows them. */
function girths(body: Body): Girth[] {
  const H = body.spec.stature,
    g = body.spec.build.trunkGirth;
  return [
    { joint: JOINT.hips, halfWidth: 0.094 * H * g, halfDepth: 0.068 * H * g, below: 0.06 * H, above: 0.1 * H },
    { joint: JOINT.upperChest, halfWidth: 0.098 * H * g ** 0.4, halfDepth: 0.07 * H * g ** 0.8, below: 0.1 * H, above: 0.06 * H },
  ];
}

/**
 * Returns a measure of the room (m) between one arm's skin and trunk or thighs, of forward kinematics already done;
 * negative where they meet. Elbow, mid-forearm, wrist and knuckles are looked at.
 */
export function createArmRoom(body: Body): (world: WorldPose, side: Side) => number {
  const trunk = girths(body);
  const H = body.spec.stature,
    limb = body.spec.build.limbGirth;
  const armRadius = 0.021 * H * limb,
    thighRadius = (0.048 * limb + Math.max(0, 0.047 * limb - INNER_HALF)) * H;
  const handLength = 0.05 * H,
    fingers = 0.095 * H;
  const point = (p: Float64Array, a: number, b: number, u: number, k: number) => p[a * 3 + k]! + u * (p[b * 3 + k]! - p[a * 3 + k]!);
  return ({ positions: p, rotations: q }, side) => {
    const elbow = SHOULDER[side] + 2,
      wrist = SHOULDER[side] + 3;
    let least = Infinity;
    const fore = Math.hypot(p[wrist * 3]! - p[elbow * 3]!, p[wrist * 3 + 1]! - p[elbow * 3 + 1]!, p[wrist * 3 + 2]! - p[elbow * 3 + 2]!);
    for (const u of [0, 0.5, 1, 1 + handLength / fore, 1 + fingers / fore]) {
      const x = point(p, elbow, wrist, u, 0),
        y = point(p, elbow, wrist, u, 1),
        z = point(p, elbow, wrist, u, 2);
      for (const girth of trunk) least = Math.min(least, outside(girth, p, q, x, y, z) - armRadius);
      for (const leg of SIDES) least = Math.min(least, fromThigh(p, q, UPPER_LEG[leg], x, y, z) - thighRadius - armRadius);
    }
    return least;
  };
}

/** Distance (m, about) of a point from a girth's skin; points above or below it count as far away. */
function outside({ joint, halfWidth, halfDepth, below, above }: Girth, p: Float64Array, q: Float64Array, x: number, y: number, z: number): number {
  const vx = x - p[joint * 3]!,
    vy = y - p[joint * 3 + 1]!,
    vz = z - p[joint * 3 + 2]!;
  // Into the joint's frame: turn by the conjugate.
  const qx = -q[joint * 4]!,
    qy = -q[joint * 4 + 1]!,
    qz = -q[joint * 4 + 2]!,
    qw = q[joint * 4 + 3]!;
  const tx = 2 * (qy * vz - qz * vy),
    ty = 2 * (qz * vx - qx * vz),
    tz = 2 * (qx * vy - qy * vx);
  const lx = vx + qw * tx + qy * tz - qz * ty,
    ly = vy + qw * ty + qz * tx - qx * tz,
    lz = vz + qw * tz + qx * ty - qy * tx;
  if (ly < -below || ly > above) return Infinity;
  const r = Math.hypot(lx / halfWidth, lz / halfDepth);
  const d = Math.hypot(lx, lz);
  return r > 1e-9 ? d * (1 - 1 / r) : -Math.min(halfWidth, halfDepth);
}

/** Thighs are deeper than wide, by this factor. */
const THIGH_DEPTH = 1.2;

/** Distance (m, about) of a point from a thigh's middle line, as if the thigh were round. */
function fromThigh(p: Float64Array, q: Float64Array, a: number, x: number, y: number, z: number): number {
  const b = a + 1;
  const ax = p[a * 3]!,
    ay = p[a * 3 + 1]!,
    az = p[a * 3 + 2]!;
  const dx = p[b * 3]! - ax,
    dy = p[b * 3 + 1]! - ay,
    dz = p[b * 3 + 2]! - az;
  const u = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy + (z - az) * dz) / (dx * dx + dy * dy + dz * dz)));
  const vx = x - ax - u * dx,
    vy = y - ay - u * dy,
    vz = z - az - u * dz;
  // The thigh's own forward: the third column of its rotation.
  const qx = q[a * 4]!,
    qy = q[a * 4 + 1]!,
    qz = q[a * 4 + 2]!,
    qw = q[a * 4 + 3]!;
  const ahead = vx * 2 * (qx * qz + qw * qy) + vy * 2 * (qy * qz - qw * qx) + vz * (1 - 2 * (qx * qx + qy * qy));
  return Math.sqrt(Math.max(0, vx * vx + vy * vy + vz * vz - ahead * ahead * (1 - 1 / (THIGH_DEPTH * THIGH_DEPTH))));
}
