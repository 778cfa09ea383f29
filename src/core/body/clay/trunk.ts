import type { Body } from '../body';
import { lerp, smoothstep } from '../../math/scalar';
import type { Hanging, Loop, MeshBuilder, Point, Vector3 } from '../mesh-builder';
import { JOINT } from '../roles';
import { CLAY, CLAY_DARK, hangBetween, mixed, ringPoints, TRUNK_COLUMNS, type Positions } from './clay';

/** Loops of the trunk from which the limbs go on, each of LIMB_COLUMNS vertices in the order of the limb's own rings. */
export interface TrunkLoops {
  readonly leftLeg: Loop;
  readonly rightLeg: Loop;
  readonly leftArm: Loop;
  readonly rightArm: Loop;
}

/** How pelvis and thighs share the skin between them, and chest and arms; `at` in the rest pose, m. */
export function trunkHanging(body: Body, w: Positions): (at: Vector3) => Hanging {
  const H = body.spec.stature;
  const chain = (['hips', 'spine', 'chest', 'upperChest', 'neck', 'head'] as const).map((r) => [JOINT[r], w[r][1]] as const);
  const hip = w.leftUpperLeg,
    shoulder = w.leftUpperArm;
  const groin = groinHeight(body, w);
  return (at) => {
    const [x, y] = at;
    const away = Math.abs(x);
    const side = x >= 0 ? 'left' : 'right';
    const own = hangBetween(chain, y, 0.02 * H);
    // The thigh takes over below the hip joint, away from the middle sooner; the groin itself stays with the pelvis.
    const low = smoothstep(hip[1] + 0.035 * H, hip[1] - 0.095 * H, y);
    const apart = Math.max(smoothstep(0.004 * H, 0.045 * H, away), smoothstep(groin - 0.004 * H, groin - 0.04 * H, y));
    const thigh = low * apart;
    if (thigh > 0) return mixed(own, [[JOINT[`${side}UpperLeg`], 1]], thigh);
    // The arm takes over around the shoulder joint; between it and the breastbone the collar bone has a part.
    const high = smoothstep(shoulder[1] - 0.09 * H, shoulder[1] - 0.02 * H, y) * smoothstep(shoulder[1] + 0.09 * H, shoulder[1] + 0.04 * H, y);
    const arm = high * smoothstep(shoulder[0] - 0.05 * H, shoulder[0] + 0.04 * H, away);
    const collar = high * 0.6 * smoothstep(0.35 * shoulder[0], shoulder[0], away);
    return mixed(mixed(own, [[JOINT[`${side}Shoulder`], 1]], collar), [[JOINT[`${side}UpperArm`], 1]], arm);
  };
}

/** Height (m) at which the legs part. */
export const groinHeight = (body: Body, w: Positions): number => w.leftUpperLeg[1] - 0.052 * body.spec.stature;

/** Rows of an armhole, and columns on either side of its middle one. */
const HOLE_ROWS = 4;
const HOLE_HALF = 2;

/** Trunk, neck and head as one skin, open at the armholes and the leg holes. */
export function trunkSkin(mesh: MeshBuilder, body: Body, w: Positions): TrunkLoops {
  const H = body.spec.stature,
    g = body.spec.build.trunkGirth;
  const hang = trunkHanging(body, w);
  const hip = w.leftUpperLeg[1],
    shoulder = w.leftUpperArm[1],
    half = w.leftUpperArm[0];
  const up = (s: number) => w.hips[1] + (shoulder - w.hips[1]) * s;
  const neck = g ** 0.4;
  // height, half width, half depth, forward
  const body1: [number, number, number, number][] = [
    [hip + 0.062 * H, 0.0925 * H * g, 0.066 * H * g, -0.006 * H],
    [up(0.26), 0.083 * H * g, 0.061 * H * g ** 1.2, -0.001 * H],
    [up(0.4), 0.0745 * H * g ** 1.15, 0.057 * H * g ** 1.5, 0.003 * H * g],
    [up(0.55), 0.079 * H * g, 0.061 * H * g ** 1.2, 0.003 * H],
  ];
  const armholes: [number, number, number, number][] = [
    [shoulder - 0.052 * H, half * 0.74 * g ** 0.35, 0.068 * H * g ** 0.8, 0.001 * H],
    [shoulder - 0.03 * H, half * 0.8 * g ** 0.3, 0.066 * H * g ** 0.7, -0.002 * H],
    [shoulder - 0.006 * H, half * 0.82 * g ** 0.25, 0.059 * H * g ** 0.6, -0.006 * H],
    [shoulder + 0.014 * H, half * 0.81 * g ** 0.2, 0.05 * H * g ** 0.5, -0.009 * H],
    [shoulder + 0.03 * H, half * 0.79 * g ** 0.2, 0.042 * H * g ** 0.4, -0.01 * H],
  ];
  const above: [number, number, number, number][] = [
    [shoulder + 0.0435 * H, half * 0.5, 0.038 * H * neck, -0.009 * H],
    [shoulder + 0.052 * H, 0.036 * H * neck, 0.036 * H * neck, -0.007 * H],
    [lerp(shoulder + 0.052 * H, w.head[1], 0.6), 0.029 * H * neck, 0.032 * H * neck, -0.003 * H],
  ];
  const row = ([y, rx, rz, z]: [number, number, number, number]) =>
    mesh.loop(ringPoints({ center: [0, y, z], u: [0, 0, rz], v: [rx, 0, 0] }, TRUNK_COLUMNS, hang));
  const hem = mesh.loop(hemPoints(body, w, hang, 1));
  const loops = [hem, mesh.loop(hemPoints(body, w, hang, 0.5)), ...body1.map(row)];
  const holes = armholes.map(row);
  for (let r = 0; r + 1 < loops.length; r++) mesh.bridge(loops[r]!, loops[r + 1]!);
  mesh.bridge(loops[loops.length - 1]!, holes[0]!);
  const left = TRUNK_COLUMNS / 4,
    right = (3 * TRUNK_COLUMNS) / 4;
  for (let r = 0; r < HOLE_ROWS; r++) {
    // All but the two patches in which the arms begin.
    mesh.bridge(holes[r]!, holes[r + 1]!, left + HOLE_HALF, right - left - 2 * HOLE_HALF);
    mesh.bridge(holes[r]!, holes[r + 1]!, right + HOLE_HALF, TRUNK_COLUMNS - right + left - 2 * HOLE_HALF);
  }
  const top = [holes[HOLE_ROWS]!, ...above.map(row), ...headRows(body).map((r) => mesh.loop(headPoints(body, r)))];
  for (let r = 0; r + 1 < top.length; r++) mesh.bridge(top[r]!, top[r + 1]!);
  mesh.cap(top[top.length - 1]!, { at: [0, H, -0.004 * H], hang: [[JOINT.head, 1]], color: CLAY });
  return { ...legLoops(mesh, body, w, hem, hang), leftArm: armLoop(holes, left), rightArm: armLoop(holes, right) };
}

/** The lower edge of the trunk: low in the middle, cut high at the sides where the thighs bend. `down` 0.5 is half way to it. */
function hemPoints(body: Body, w: Positions, hang: (at: Vector3) => Hanging, down: number): Point[] {
  const H = body.spec.stature,
    g = body.spec.build.trunkGirth;
  const hip = w.leftUpperLeg[1];
  const from = hip + 0.062 * H,
    middle = groinHeight(body, w) + 0.016 * H,
    sides = hip + 0.012 * H;
  const ring = ringPoints(
    { center: [0, 0, -0.007 * H], u: [0, 0, lerp(0.066, 0.0545, down ** 2) * H * g], v: [lerp(0.0925, 0.094, down) * H * g, 0, 0] },
    TRUNK_COLUMNS,
    hang,
  );
  return ring.map((p, s) => {
    const a = (2 * Math.PI * s) / TRUNK_COLUMNS;
    const y = lerp(from, lerp(middle, sides, Math.abs(Math.sin(a)) ** 1.4), down);
    // Behind, the seat: fuller beside the middle.
    const seat = Math.cos(a) < 0 ? 1 + 0.2 * down * Math.abs(Math.sin(2 * a)) : 1;
    const at: Vector3 = [p.at[0], y, p.at[2] * seat];
    return { ...p, at, hang: hang(at) };
  });
}

/** The hem parts into two loops over three vertices between the legs. */
function legLoops(mesh: MeshBuilder, body: Body, w: Positions, hem: Loop, hang: (at: Vector3) => Hanging): Pick<TrunkLoops, 'leftLeg' | 'rightLeg'> {
  const H = body.spec.stature;
  const groin = groinHeight(body, w);
  const front = mesh.placeOf(hem[0]!),
    back = mesh.placeOf(hem[TRUNK_COLUMNS / 2]!);
  const between = (u: number): Vector3 => [0, lerp(front[1], groin, Math.sin(Math.PI * u)) - 0.004 * H * Math.sin(Math.PI * u), lerp(front[2], back[2], u)];
  const [f, m, b] = [0.28, 0.5, 0.72].map((u) => mesh.vertex({ at: between(u), hang: hang(between(u)), color: CLAY })) as [number, number, number];
  const column = (s: number) => hem[(s + TRUNK_COLUMNS) % TRUNK_COLUMNS]!;
  const span = (from: number, to: number) => Array.from({ length: from - to + 1 }, (_, i) => column(from - i));
  return { leftLeg: [...span(6, 0), f, m, b, ...span(12, 7)], rightLeg: [m, f, ...span(24, 13), column(12), b] };
}

/** The edge of an armhole around a column, from its top over the side of smaller columns. */
function armLoop(rows: readonly Loop[], column: number): Loop {
  const at = (r: number, c: number) => rows[r]![(column + c) % TRUNK_COLUMNS]!;
  const n = HOLE_ROWS,
    k = HOLE_HALF;
  const down = Array.from({ length: n - 1 }, (_, i) => n - 1 - i);
  return [
    at(n, 0),
    ...[-1, -2].map((c) => at(n, c)),
    ...down.map((r) => at(r, -k)),
    ...[-2, -1, 0, 1, 2].map((c) => at(0, c)),
    ...down.reverse().map((r) => at(r, k)),
    ...[2, 1].map((c) => at(n, c)),
  ];
}

type HeadRow = readonly [share: number, halfWidth: number, halfDepth: number, forward: number];

/** Part of the head's height, half width, half depth, forward, as parts of stature: a jaw, a face flatter than the back of the skull. */
function headRows(_: Body): readonly HeadRow[] {
  return [
    [0.0, 0.0275, 0.034, 0.009],
    [0.12, 0.035, 0.0445, 0.009],
    [0.3, 0.0395, 0.0505, 0.005],
    [0.5, 0.043, 0.0545, 0.001],
    [0.7, 0.0425, 0.0535, -0.002],
    [0.87, 0.0335, 0.0425, -0.004],
    [0.965, 0.0185, 0.023, -0.004],
  ];
}

/** Part of the head's height over which the face is darker, and how far round it goes (columns from the middle). */
const FACE = { from: 0.2, to: 0.72, columns: 4 } as const;

function headPoints(body: Body, [share, rx, rz, z]: HeadRow): Point[] {
  const H = body.spec.stature,
    s = body.spec.build.headSize;
  const chin = (body.spec.proportions.chinHeight ?? 0.87) * H;
  const hang: Hanging =
    share === 0
      ? [
          [JOINT.neck, 0.35],
          [JOINT.head, 0.65],
        ]
      : [[JOINT.head, 1]];
  return ringPoints({ center: [0, chin + share * (H - chin), z * H], u: [0, 0, rz * H * s], v: [rx * H * s, 0, 0] }, TRUNK_COLUMNS, () => hang).map(
    (p, column) => {
      const aside = Math.min(column, TRUNK_COLUMNS - column);
      const face = share >= FACE.from && share <= FACE.to && aside <= FACE.columns;
      // The plane of the face is flat from cheek to cheek.
      const at: Vector3 = face ? [p.at[0], p.at[1], p.at[2] - (1 - aside / (FACE.columns + 1)) ** 2 * 0.004 * H * s] : p.at;
      return { ...p, at, color: face ? CLAY_DARK : CLAY };
    },
  );
}
