import type { Body } from '../body';
import type { Ellipse, Hanging, MeshBuilder } from '../mesh-builder';
import { lerp } from '../../math/scalar';
import { JOINT, type SideName } from '../roles';
import { FOOT_CLAY, LIMB_COLUMNS, middlePoint, ringPoints, type Positions } from './clay';

/** A shoe of the side's colour with its underside where that foot's own sole is, hinged at the toes. */
export function footSkin(mesh: MeshBuilder, body: Body, w: Positions, side: SideName): void {
  const { sole } = body.legs[side === 'left' ? 0 : 1],
    H = body.spec.stature;
  const color = FOOT_CLAY[side];
  const ankle = w[`${side}Foot`],
    ball = w[`${side}Toes`],
    out = side === 'left' ? 1 : -1;
  const half = sole.breadth / 2;
  const foot: Hanging = [[JOINT[`${side}Foot`], 1]],
    toes: Hanging = [[JOINT[`${side}Toes`], 1]];
  const hinge: Hanging = [
    [JOINT[`${side}Foot`], 0.5],
    [JOINT[`${side}Toes`], 0.5],
  ];
  const { heelBack, ballAhead, tipAhead } = sole;
  // The sole's line and plane: under the ankle, and under the toes' joint from there on.
  const [rear, fore] = [ankle[1] - sole.ankleHeight, ball[1] - sole.toeJointHeight];
  const part = (z: number) => Math.min(1, Math.max(0, z / ballAhead));
  // forward of the ankle, half width, height of the upper, outward, joints
  const rows: [number, number, number, number, Hanging][] = [
    [-heelBack, half * 0.42, 0.016 * H, 0, foot],
    [-heelBack * 0.86, half * 0.62, 0.03 * H, 0, foot],
    [-heelBack * 0.35, half * 0.74, 0.046 * H, 0, foot],
    [ballAhead * 0.2, half * 0.76, 0.046 * H, 0.001 * H, foot],
    [ballAhead * 0.6, half * 0.86, 0.031 * H, 0.002 * H, foot],
    [ballAhead * 0.9, half * 1, 0.022 * H, 0.002 * H, foot],
    [ballAhead * 1.02, half * 1, 0.02 * H, 0.001 * H, hinge],
    [ballAhead + (tipAhead - ballAhead) * 0.3, half * 0.95, 0.0175 * H, 0, toes],
    [ballAhead + (tipAhead - ballAhead) * 0.72, half * 0.72, 0.014 * H, -0.002 * H, toes],
    [tipAhead * 0.995, half * 0.34, 0.008 * H, -0.004 * H, toes],
  ];
  const ellipse = ([z, rx, h, dx]: (typeof rows)[number]): Ellipse => ({
    center: [lerp(ankle[0], ball[0], part(z)) + dx * out, lerp(rear, fore, part(z)) + h / 2, ankle[2] + z],
    u: [rx, 0, 0],
    v: [0, h / 2, 0],
  });
  mesh.tube(
    rows.map((r) => ringPoints(ellipse(r), LIMB_COLUMNS, () => r[4], color)),
    middlePoint(ellipse(rows[0]!), () => foot, color),
    middlePoint(ellipse(rows[rows.length - 1]!), () => toes, color),
  );
}
