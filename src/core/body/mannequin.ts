import type { Body } from './body';
import { MeshBuilder, type Hanging, type Ring, type SkinnedMesh, type Vector3 } from './mesh-builder';
import { JOINT, type Role } from './roles';

/** Matte clay, and the colours of the two feet, linear RGB. */
const CLAY: Vector3 = [0.56, 0.43, 0.33];
const CLAY_DARK: Vector3 = [0.42, 0.31, 0.24];
const LEFT_FOOT: Vector3 = [0.584, 0.191, 0.013];
const RIGHT_FOOT: Vector3 = [0.105, 0.07, 0.474];

/** A clay figure of the body's build: tapered limbs, hands, feet with toes, a head that faces forward. */
export function createMannequin(body: Body): SkinnedMesh {
  const mesh = new MeshBuilder();
  const world = restPositions(body);
  trunk(mesh, body, world);
  head(mesh, body);
  for (const side of ['left', 'right'] as const) {
    arm(mesh, body, world, side);
    leg(mesh, body, world, side);
    foot(mesh, body, world, side);
  }
  return mesh.build();
}

type Positions = Record<Role, Vector3>;

function restPositions(body: Body): Positions {
  const { parents, offsets } = body.skeleton;
  const at: Vector3[] = [];
  parents.forEach((parent, j) => at.push([0, 1, 2].map((k) => offsets[j * 3 + k]! + (parent < 0 ? 0 : at[parent]![k]!)) as unknown as Vector3));
  return Object.fromEntries(Object.entries(JOINT).map(([role, j]) => [role, at[j]!])) as Positions;
}

/** Shares of the two joints around `at` on a chain of joints placed along one axis. */
function hangBetween(chain: readonly (readonly [joint: number, place: number])[], at: number, width: number): Hanging {
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

function trunk(mesh: MeshBuilder, body: Body, w: Positions): void {
  const H = body.spec.stature,
    g = body.spec.build.trunkGirth;
  const bottom = w.hips[1],
    top = w.leftUpperArm[1];
  const up = (s: number) => bottom + (top - bottom) * s;
  const chain = (['hips', 'spine', 'chest', 'upperChest', 'neck', 'head'] as const).map((r) => [JOINT[r], w[r][1]] as const);
  const half = w.leftUpperArm[0];
  // height, half width, half depth, forward
  const rows: [number, number, number, number][] = [
    [bottom - 0.052 * H, 0.035 * H * g, 0.04 * H * g, -0.004 * H],
    [bottom - 0.03 * H, 0.082 * H * g, 0.06 * H * g, -0.006 * H],
    [bottom + 0.005 * H, 0.094 * H * g, 0.068 * H * g, -0.006 * H],
    [up(0.16), 0.088 * H * g, 0.065 * H * g, -0.002 * H],
    [up(0.34), 0.073 * H * g ** 1.15, 0.056 * H * g ** 1.5, 0.002 * H * g],
    [up(0.52), 0.08 * H * g, 0.062 * H * g ** 1.2, 0.002 * H],
    [up(0.7), half * 0.76 * g ** 0.4, 0.07 * H * g ** 0.8, 0.002 * H],
    [up(0.84), half * 0.9 * g ** 0.3, 0.066 * H * g ** 0.6, -0.003 * H],
    [up(0.94), half * 0.98, 0.052 * H * g ** 0.4, -0.009 * H],
    [up(1.03), half * 0.84, 0.045 * H * g ** 0.4, -0.009 * H],
    [up(1.08), half * 0.5, 0.041 * H * g ** 0.4, -0.009 * H],
    [up(1.13), 0.04 * H * g ** 0.4, 0.038 * H * g ** 0.4, -0.007 * H],
    [up(1.17), 0.031 * H * g ** 0.4, 0.034 * H * g ** 0.4, -0.004 * H],
    [w.head[1] + 0.02 * H, 0.031 * H * g ** 0.4, 0.034 * H * g ** 0.4, 0],
  ];
  mesh.loft(
    rows.map(([y, rx, rz, z]) => ({ center: [0, y, z], u: [0, 0, rz], v: [rx, 0, 0], hang: hangBetween(chain, y, 0.02 * H) })),
    22,
    CLAY,
  );
}

function head(mesh: MeshBuilder, body: Body): void {
  const H = body.spec.stature,
    s = body.spec.build.headSize;
  const hang: Hanging = [[JOINT.head, 1]];
  const chin = (body.spec.proportions.chinHeight ?? 0.87) * H;
  const height = H - chin;
  // part of the head's height, half width, half depth, forward: a jaw, a face flatter than the back of the skull
  const rows: [number, number, number, number][] = [
    [0.0, 0.012, 0.014, 0.026],
    [0.07, 0.024, 0.03, 0.018],
    [0.2, 0.034, 0.043, 0.01],
    [0.38, 0.04, 0.051, 0.005],
    [0.58, 0.0435, 0.055, 0.001],
    [0.76, 0.042, 0.053, -0.002],
    [0.9, 0.031, 0.039, -0.004],
    [0.98, 0.014, 0.018, -0.005],
  ];
  mesh.loft(
    rows.map(([t, rx, rz, z]) => ({ center: [0, chin + t * height, z * H], u: [0, 0, rz * H * s], v: [rx * H * s, 0, 0], hang })),
    22,
    CLAY,
  );
  // Nose: a wedge that shows the facing from afar.
  const face = 0.055 * H * s;
  const nose: [number, number, number, number][] = [
    [0.3, 0.002, 0.002, face * 0.9],
    [0.36, 0.009, 0.012, face * 0.98],
    [0.48, 0.006, 0.009, face * 0.99],
    [0.58, 0.003, 0.004, face * 0.97],
  ];
  mesh.loft(
    nose.map(([t, rx, rz, z]) => ({ center: [0, chin + t * height, z], u: [0, 0, rz * H * s], v: [rx * H * s, 0, 0], hang })),
    8,
    CLAY_DARK,
  );
}

function arm(mesh: MeshBuilder, body: Body, w: Positions, side: 'left' | 'right'): void {
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
    fore = wrist[0] - elbow[0];
  const ring = (x: number, ry: number, rz: number, hang: Hanging): Ring => ({
    center: [x, shoulder[1], shoulder[2]],
    u: [0, ry * H, 0],
    v: [0, 0, s * rz * H],
    hang,
  });
  const rows: [number, number, number][] = [
    [shoulder[0] - 0.03 * H * s, 0.008, 0.009],
    [shoulder[0] - 0.024 * H * s, 0.0205, 0.0215],
    [shoulder[0] - 0.01 * H * s, 0.0295, 0.0305],
    [shoulder[0] + upper * 0.06, 0.0315, 0.0335],
    [shoulder[0] + upper * 0.35, 0.028, 0.031],
    [shoulder[0] + upper * 0.7, 0.024, 0.026],
    [elbow[0] - 0.012 * H * s, 0.022, 0.023],
    [elbow[0], 0.0215, 0.0225],
    [elbow[0] + 0.014 * H * s, 0.023, 0.023],
    [elbow[0] + fore * 0.28, 0.0245, 0.024],
    [elbow[0] + fore * 0.65, 0.019, 0.02],
    [wrist[0] - 0.004 * H * s, 0.0135, 0.017],
  ];
  mesh.loft(
    rows.map(([x, ry, rz]) => ring(x, ry * g, rz * g, hangBetween(chain, x * s, 0.013 * H))),
    14,
    CLAY,
  );
  // Palm and fingers as one flat, slightly curled mitten; the thumb apart.
  const hand: Hanging = [[JOINT[`${side}Hand`], 1]];
  const length = 0.108 * H * s;
  const k = g ** 0.5;
  const palm: [number, number, number, number][] = [
    [-0.03, 0.011, 0.014, 0],
    [0.12, 0.012, 0.02, 0],
    [0.4, 0.0125, 0.0245, 0],
    [0.62, 0.0105, 0.023, -0.004],
    [0.85, 0.0085, 0.019, -0.012],
    [0.98, 0.004, 0.01, -0.02],
  ];
  mesh.loft(
    palm.map(([t, ry, rz, dy]) => ({ ...ring(wrist[0] + length * t, ry * k, rz * k, hand), center: [wrist[0] + length * t, wrist[1] + dy * H, wrist[2]] })),
    12,
    CLAY,
  );
  const thumb: [number, number, number, number][] = [
    [0.1, 0.016, 0.008, -0.002],
    [0.28, 0.03, 0.0085, -0.006],
    [0.46, 0.037, 0.0075, -0.011],
    [0.58, 0.039, 0.004, -0.014],
  ];
  mesh.loft(
    thumb.map(([t, z, r, dy]) => ({
      ...ring(wrist[0] + length * t, r * k, r * k, hand),
      center: [wrist[0] + length * t, wrist[1] + dy * H, wrist[2] + z * H],
    })),
    8,
    CLAY,
  );
}

/** Half width (part of stature) that a leg has room for on its inside. */
export const INNER_HALF = 0.0455;
/** How much the uppermost rings of a leg stay with the pelvis, so that the groin folds instead of tearing open. */
const HIP_SHARES = [0.85, 0.6, 0.25];

function leg(mesh: MeshBuilder, body: Body, w: Positions, side: 'left' | 'right'): void {
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
  // height, half width, half depth, forward
  const rows: [number, number, number, number][] = [
    [hip[1] + 0.032 * H, 0.03, 0.04, -0.004],
    [hip[1] + 0.012 * H, 0.044, 0.058, -0.005],
    [hip[1] - 0.03 * H, 0.047, 0.057, -0.002],
    [hip[1] - thigh * 0.4, 0.043, 0.05, 0.003],
    [hip[1] - thigh * 0.75, 0.035, 0.038, 0.002],
    [knee[1] + 0.018 * H, 0.031, 0.034, 0.002],
    [knee[1], 0.03, 0.034, 0.003],
    [knee[1] - 0.02 * H, 0.0285, 0.031, 0],
    [knee[1] - shank * 0.28, 0.032, 0.036, -0.009],
    [knee[1] - shank * 0.5, 0.028, 0.031, -0.007],
    [knee[1] - shank * 0.8, 0.019, 0.021, -0.004],
    [ankle[1] + 0.006 * H, 0.0175, 0.021, -0.004],
    [ankle[1] - 0.012 * H, 0.017, 0.021, -0.004],
  ];
  mesh.loft(
    rows.map(([y, rx, rz, z], i) => ({
      // Thick thighs grow outward: between the legs there is no more room.
      center: [hip[0] + Math.sign(hip[0]) * Math.max(0, rx * g - INNER_HALF) * H, y, z * H],
      u: [rx * g * H, 0, 0],
      v: [0, 0, rz * g * H],
      hang:
        i < HIP_SHARES.length
          ? [
              [JOINT.hips, HIP_SHARES[i]!],
              [JOINT[`${side}UpperLeg`], 1 - HIP_SHARES[i]!],
            ]
          : hangBetween(chain, -y, 0.018 * H),
    })),
    16,
    CLAY,
  );
}

function foot(mesh: MeshBuilder, body: Body, w: Positions, side: 'left' | 'right'): void {
  const { sole } = body,
    H = body.spec.stature;
  const color = side === 'left' ? LEFT_FOOT : RIGHT_FOOT;
  const x = w[`${side}Foot`][0],
    out = side === 'left' ? 1 : -1;
  const half = sole.breadth / 2;
  const foot: Hanging = [[JOINT[`${side}Foot`], 1]],
    toes: Hanging = [[JOINT[`${side}Toes`], 1]];
  const hinge: Hanging = [
    [JOINT[`${side}Foot`], 0.5],
    [JOINT[`${side}Toes`], 0.5],
  ];
  // forward, half width, height of the upper, outward, joints; undersides lie in the sole plane
  const rows: [number, number, number, number, Hanging][] = [
    [-sole.heelBack, half * 0.42, 0.016 * H, 0, foot],
    [-sole.heelBack * 0.86, half * 0.62, 0.027 * H, 0, foot],
    [-sole.heelBack * 0.35, half * 0.72, 0.042 * H, 0, foot],
    [sole.ballAhead * 0.2, half * 0.74, 0.043 * H, 0.001 * H, foot],
    [sole.ballAhead * 0.6, half * 0.85, 0.03 * H, 0.002 * H, foot],
    [sole.ballAhead * 0.9, half * 1, 0.022 * H, 0.002 * H, foot],
    [sole.ballAhead * 1.02, half * 1, 0.02 * H, 0.001 * H, hinge],
    [sole.ballAhead + (sole.tipAhead - sole.ballAhead) * 0.3, half * 0.95, 0.0175 * H, 0, toes],
    [sole.ballAhead + (sole.tipAhead - sole.ballAhead) * 0.72, half * 0.72, 0.014 * H, -0.002 * H, toes],
    [sole.tipAhead * 0.995, half * 0.34, 0.008 * H, -0.004 * H, toes],
  ];
  mesh.loft(
    rows.map(([z, rx, h, dx, hang]) => ({ center: [x + dx * out, h / 2, z], u: [rx, 0, 0], v: [0, h / 2, 0], hang })),
    16,
    color,
  );
}
