import type { Body } from '../body';
import { lerp, smoothstep } from '../../math/scalar';
import { type Ellipse, type Hanging, type Loop, type MeshBuilder, type Vector3 } from '../mesh-builder';
import { JOINT, type SideName } from '../roles';
import { growLimb, hangBetween, middlePoint, mixed, type Positions } from './clay';
import { groinHeight, trunkHanging } from './trunk';

/** Half width (part of stature) that a leg has room for on its inside. */
export const INNER_HALF = 0.0455;
/** Half of the height (part of stature) over which thigh and shank share the knee's skin: the less, the less it shrinks when bent. */
const KNEE_SHARED = 0.011;

/** A leg from the trunk's leg hole down into the shoe. */
export function legSkin(mesh: MeshBuilder, body: Body, w: Positions, side: SideName, hole: Loop): void {
  const H = body.spec.stature,
    g = body.spec.build.limbGirth;
  const hip = w[`${side}UpperLeg`],
    knee = w[`${side}LowerLeg`],
    ankle = w[`${side}Foot`];
  const chain = [
    [JOINT[`${side}UpperLeg`], -hip[1]],
    [JOINT[`${side}LowerLeg`], -knee[1]],
    [JOINT[`${side}Foot`], -ankle[1]],
  ] as const;
  const thigh = hip[1] - knee[1],
    shank = knee[1] - ankle[1];
  const pelvis = trunkHanging(body, w);
  const top = groinHeight(body, w) - 0.028 * H;
  const hang = (at: Vector3): Hanging => {
    const own = hangBetween(chain, -at[1], KNEE_SHARED * H);
    const t = smoothstep(top - 0.03 * H, top + 0.02 * H, at[1]);
    return t > 0 ? mixed(own, pelvis(at), t) : own;
  };
  // height, half width, half depth, forward
  const rows: [number, number, number, number][] = [
    [top, 0.0438, 0.0505, -0.002],
    [hip[1] - thigh * 0.46, 0.0413, 0.0478, 0.003],
    [hip[1] - thigh * 0.62, 0.0378, 0.0428, 0.003],
    [hip[1] - thigh * 0.8, 0.0342, 0.0372, 0.002],
    [knee[1] + 0.022 * H, 0.0315, 0.035, 0.002],
    [knee[1] + 0.011 * H, 0.0305, 0.0345, 0.003],
    [knee[1], 0.03, 0.0335, 0.003],
    [knee[1] - 0.011 * H, 0.029, 0.032, 0.0015],
    [knee[1] - 0.024 * H, 0.0285, 0.031, -0.001],
    [knee[1] - shank * 0.28, 0.0315, 0.0355, -0.009],
    [knee[1] - shank * 0.5, 0.028, 0.031, -0.007],
    [knee[1] - shank * 0.8, 0.0195, 0.0215, -0.004],
    [ankle[1] + 0.008 * H, 0.0175, 0.021, -0.004],
    [ankle[1] - 0.012 * H, 0.017, 0.021, -0.004],
  ];
  const ellipse = ([y, rx, rz, z]: (typeof rows)[number]): Ellipse => ({
    // Thick thighs grow outward: between the legs there is no more room.
    center: [hip[0] + Math.sign(hip[0]) * Math.max(0, rx * g - INNER_HALF) * H, y, z * H],
    u: [rx * g * H, 0, 0],
    v: [0, 0, rz * g * H],
  });
  const end = growLimb(mesh, hole, {
    rounds: rows.map(ellipse),
    hang,
    between: [0.36, 0.7],
    ease: (p, q, t) => {
      // Across it comes to the thigh's roundness sooner than down.
      const across = 1 - (1 - t) ** 2.4;
      return [lerp(p[0], q[0], across), lerp(p[1], q[1], t), lerp(p[2], q[2], across)];
    },
  });
  mesh.cap(end, middlePoint(ellipse(rows[rows.length - 1]!), hang));
}
