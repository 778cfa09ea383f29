import { SHOULDER, type Side } from '../body/roles';
import type { WorldPose } from '../body/skeleton';
import { acosClamped } from '../math/scalar';
import { multiplyConjugate, setAxis, setFromAxesAt, setIdentity, type Numbers } from '../math/quaternion';

/** Largest share of the arm's length a held hand may be away: the elbow keeps a little bend. */
const MOST_STRETCH = 0.995;

/**
 * Brings one wrist to `target` (x, y, z, m, world) by the exact two-bone solve, elbow down, out and back of the facing. `world` is the
 * forward kinematics of the pose so far; writes the local rotations of upper arm, forearm and hand to out[0..11]. Returns by how much
 * (m) the target lies out of reach; then the arm points at it. Allocates nothing.
 */
export function holdHand(
  lengths: { readonly upper: number; readonly fore: number },
  world: WorldPose,
  side: Side,
  target: Float64Array,
  facing: number,
  out: Numbers,
  scratch: Float64Array,
): number {
  const sign = side === 0 ? 1 : -1;
  const joint = SHOULDER[side];
  const p = world.positions;
  let ux = target[0]! - p[(joint + 1) * 3]!,
    uy = target[1]! - p[(joint + 1) * 3 + 1]!,
    uz = target[2]! - p[(joint + 1) * 3 + 2]!;
  const { upper: a, fore: b } = lengths;
  const span = Math.max(1e-9, Math.sqrt(ux * ux + uy * uy + uz * uz));
  ux /= span;
  uy /= span;
  uz /= span;
  const d = Math.min(span, MOST_STRETCH * (a + b));
  const atShoulder = acosClamped((a * a + d * d - b * b) / (2 * a * d));
  const elbow = Math.PI - acosClamped((a * a + b * b - d * d) / (2 * a * b));
  // Where the elbow goes: mostly down, a little outward and back.
  const c = Math.cos(facing),
    s = Math.sin(facing);
  let px = 0.45 * sign * c - 0.35 * s,
    py = -1,
    pz = -0.45 * sign * s - 0.35 * c;
  const along = px * ux + py * uy + pz * uz;
  px -= along * ux;
  py -= along * uy;
  pz -= along * uz;
  const n = Math.max(1e-9, Math.sqrt(px * px + py * py + pz * pz));
  px /= n;
  py /= n;
  pz /= n;
  const ca = Math.cos(atShoulder),
    sa = Math.sin(atShoulder);
  // The arm's own X runs along it (from it on the right side); Z towards which the forearm bends.
  const xx = sign * (ux * ca + px * sa),
    xy = sign * (uy * ca + py * sa),
    xz = sign * (uz * ca + pz * sa);
  const zx = ux * sa - px * ca,
    zy = uy * sa - py * ca,
    zz = uz * sa - pz * ca;
  scratch[4] = xx;
  scratch[5] = xy;
  scratch[6] = xz;
  scratch[7] = zy * xz - zz * xy;
  scratch[8] = zz * xx - zx * xz;
  scratch[9] = zx * xy - zy * xx;
  setFromAxesAt(scratch, 0, scratch, 4);
  multiplyConjugate(out, 0, world.rotations, joint * 4, scratch, 0);
  setAxis(out, 4, 1, -sign * elbow);
  setIdentity(out, 8);
  return span - d;
}
