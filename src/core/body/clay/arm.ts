import type { Body } from '../body';
import { lerp, smoothstep } from '../../math/scalar';
import { type Ellipse, type Hanging, type Loop, type MeshBuilder, type Vector3 } from '../mesh-builder';
import { JOINT, type SideName } from '../roles';
import { growLimb, hangBetween, middlePoint, mixed, ringPoints, type Positions } from './clay';
import { trunkHanging } from './trunk';

/** Half of the length (part of stature) over which the two bones of a joint share its skin. */
const ELBOW_SHARED = 0.008;

/** An arm from the armhole to the fingertips, the thumb apart. The arm lies along x, as the rest pose has it. */
export function armSkin(mesh: MeshBuilder, body: Body, w: Positions, side: SideName, hole: Loop): void {
  const H = body.spec.stature,
    g = body.spec.build.limbGirth,
    s = side === 'left' ? 1 : -1;
  const shoulder = w[`${side}UpperArm`],
    elbow = w[`${side}LowerArm`],
    wrist = w[`${side}Hand`];
  const chain = [
    [JOINT[`${side}UpperArm`], shoulder[0] * s],
    [JOINT[`${side}LowerArm`], elbow[0] * s],
    [JOINT[`${side}Hand`], wrist[0] * s],
  ] as const;
  const upper = elbow[0] - shoulder[0],
    fore = wrist[0] - elbow[0],
    hand = 0.108 * H * s;
  const chest = trunkHanging(body, w);
  const hang = (at: Vector3): Hanging => {
    const own = hangBetween(chain, at[0] * s, ELBOW_SHARED * H);
    const t = smoothstep(shoulder[0] * s + 0.05 * H, shoulder[0] * s + 0.01 * H, at[0] * s);
    return t > 0 ? mixed(own, chest(at), t) : own;
  };
  const k = g ** 0.5;
  // along x, half height, half depth, up
  const rows: [number, number, number, number][] = [
    [shoulder[0] + upper * 0.09, 0.0315 * g, 0.0335 * g, -0.001],
    [shoulder[0] + upper * 0.3, 0.029 * g, 0.0315 * g, 0],
    [shoulder[0] + upper * 0.6, 0.025 * g, 0.027 * g, 0],
    [elbow[0] - 0.018 * H * s, 0.0225 * g, 0.0235 * g, 0],
    [elbow[0] - 0.008 * H * s, 0.022 * g, 0.023 * g, 0],
    [elbow[0], 0.022 * g, 0.0225 * g, 0],
    [elbow[0] + 0.008 * H * s, 0.0225 * g, 0.0228 * g, 0],
    [elbow[0] + 0.018 * H * s, 0.0235 * g, 0.0235 * g, 0],
    [elbow[0] + fore * 0.3, 0.0243 * g, 0.024 * g, 0],
    [elbow[0] + fore * 0.65, 0.019 * g, 0.02 * g, 0],
    [wrist[0] - 0.008 * H * s, 0.0138 * g, 0.0172 * g, 0],
    // The hand: a flat mitten, a little curled.
    [wrist[0] + hand * 0.1, 0.0122 * k, 0.0195 * k, 0],
    [wrist[0] + hand * 0.36, 0.0125 * k, 0.0245 * k, 0],
    [wrist[0] + hand * 0.6, 0.0105 * k, 0.0232 * k, -0.003],
    [wrist[0] + hand * 0.84, 0.0088 * k, 0.0195 * k, -0.011],
    [wrist[0] + hand * 0.97, 0.0045 * k, 0.011 * k, -0.018],
  ];
  const ellipse = ([x, ry, rz, dy]: (typeof rows)[number]): Ellipse => ({
    center: [x, shoulder[1] + dy * H, shoulder[2]],
    u: [0, ry * H, 0],
    v: [0, 0, s * rz * H],
  });
  const end = growLimb(mesh, hole, {
    rounds: rows.map(ellipse),
    hang,
    between: [0.4, 0.74],
    // The cap of the shoulder is round: it leaves the trunk's outline before it goes along the arm.
    ease: (p, q, t, turn) => [lerp(p[0], q[0], t ** 1.25), lerp(p[1], q[1], t) + 0.004 * H * Math.sin(Math.PI * t) * Math.cos(turn), lerp(p[2], q[2], t)],
  });
  mesh.cap(end, middlePoint(ellipse([wrist[0] + hand, 0, 0, -0.02]), hang));
  thumb(mesh, w[`${side}Hand`], { H, hand, s, k }, JOINT[`${side}Hand`]);
}

/** A thumb along the inner edge of the hand. */
function thumb(mesh: MeshBuilder, wrist: Vector3, { H, hand, s, k }: { H: number; hand: number; s: number; k: number }, joint: number): void {
  const hang = (): Hanging => [[joint, 1]];
  const rows: [number, number, number, number][] = [
    [0.12, 0.015, 0.0085, -0.002],
    [0.28, 0.029, 0.0092, -0.006],
    [0.46, 0.0365, 0.008, -0.011],
    [0.58, 0.039, 0.0045, -0.014],
  ];
  const rings = rows.map(([t, z, r, dy]): Ellipse => ({
    center: [wrist[0] + hand * t, wrist[1] + dy * H, wrist[2] + z * H],
    u: [0, r * k * H, 0],
    v: [0, 0, s * r * k * H],
  }));
  mesh.tube(
    rings.map((r) => ringPoints(r, 8, hang)),
    middlePoint(rings[0]!, hang),
    middlePoint(rings[rings.length - 1]!, hang),
  );
}
