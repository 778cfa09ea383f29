import { rotate } from '../math/quaternion';
import type { FootModel } from './foot-model';
import { PROPORTIONS } from './proportions';
import { SIDE_NAMES, type SideName } from './roles';
import { restWorld, type Skeleton, type WorldPose } from './skeleton';
import type { Sole } from './sole';

type Vector = readonly [number, number, number];

export interface Legs {
  readonly feet: readonly FootModel[];
  /** Mean of both legs' thigh + shank, in the skeleton's unit. */
  readonly legLength: number;
}

/**
 * Finds two legs in any skeleton by the joints' names and takes their soles from the rest pose: heel and height by the
 * proportions of a foot where the file does not tell them. Null when there are no two such legs.
 */
export function findLegs(skeleton: Skeleton, ends: readonly (Vector | null)[], sole: Sole | null): Legs | null {
  const rest = restWorld(skeleton);
  const feet: FootModel[] = [];
  let total = 0;
  for (const side of SIDE_NAMES) {
    const ankle = findAnkle(skeleton, side);
    if (ankle < 0) return null;
    const knee = skeleton.parents[ankle]!,
      hip = skeleton.parents[knee]!;
    const length = distance(rest, hip, knee) + distance(rest, knee, ankle);
    if (!(length > 0)) return null;
    total += length;
    feet.push(soleOf(skeleton, rest, ends, sole, side, [hip, knee, ankle], length));
  }
  return { feet, legLength: total / 2 };
}

/** Words of a joint name: LeftUpLeg, l_shin, Foot.R, rfoot. */
function words(name: string): string[] {
  const split = name.replace(/([a-z0-9])([A-Z])/g, '$1 $2').replace(/([A-Z])([A-Z][a-z])/g, '$1 $2');
  return split
    .toLowerCase()
    .replace(/[^a-z]+/g, ' ')
    .trim()
    .split(' ')
    .flatMap((w) => /^([lr])(foot|ankle|toe|toes|shin)$/.exec(w)?.slice(1) ?? [w]);
}

function findAnkle(skeleton: Skeleton, side: SideName): number {
  return skeleton.names.findIndex((name, j) => {
    const w = words(name);
    const knee = skeleton.parents[j]!;
    return (w.includes(side) || w.includes(side[0]!)) && w.some((x) => x === 'foot' || x === 'ankle') && knee >= 0 && skeleton.parents[knee]! >= 0;
  });
}

function distance({ positions: p }: WorldPose, a: number, b: number): number {
  return Math.hypot(p[a * 3]! - p[b * 3]!, p[a * 3 + 1]! - p[b * 3 + 1]!, p[a * 3 + 2]! - p[b * 3 + 2]!);
}

function soleOf(
  skeleton: Skeleton,
  rest: WorldPose,
  ends: readonly (Vector | null)[],
  sole: Sole | null,
  name: SideName,
  [hip, knee, ankle]: readonly [number, number, number],
  length: number,
): FootModel {
  const child = [...skeleton.parents].findIndex((p, j) => p === ankle && words(skeleton.names[j]!).some((w) => w.startsWith('toe') || w === 'ball'));
  const toes = child >= 0 ? child : [...skeleton.parents].indexOf(ankle) >= 0 ? [...skeleton.parents].indexOf(ankle) : ankle;
  const perLeg = 1 / (PROPORTIONS.thigh + PROPORTIONS.shank);
  const p = rest.positions;
  const to = [p[toes * 3]! - p[ankle * 3]!, p[toes * 3 + 1]! - p[ankle * 3 + 1]!, p[toes * 3 + 2]! - p[ankle * 3 + 2]!];
  const flat = Math.hypot(to[0]!, to[2]!);
  const forward = flat > 1e-6 ? [to[0]! / flat, to[2]! / flat] : [0, 1];
  const end = ends[toes] ?? null;
  const under = sole?.toeJointHeight ?? (end && end[1] < 0 ? -end[1] : PROPORTIONS.toeJointHeight * perLeg * length);
  const toeLength = sole
    ? sole.tipAhead - sole.ballAhead
    : end
      ? Math.hypot(end[0], end[2])
      : PROPORTIONS.footLength * (1 - PROPORTIONS.ballShare) * perLeg * length;
  const heelBack = sole?.heelBack ?? ((flat + toeLength) * PROPORTIONS.heelShare) / (1 - PROPORTIONS.heelShare);
  const height = sole?.ankleHeight ?? (toes === ankle ? PROPORTIONS.ankleHeight * perLeg * length : under - to[1]!);
  const local = (joint: number, ahead: number, down: number): Vector => {
    const inverse = [-rest.rotations[joint * 4]!, -rest.rotations[joint * 4 + 1]!, -rest.rotations[joint * 4 + 2]!, rest.rotations[joint * 4 + 3]!];
    const v = [0, 0, 0];
    rotate(v, 0, inverse, 0, forward[0]! * ahead, -down, forward[1]! * ahead);
    return v as unknown as Vector;
  };
  return { name, hip, knee, ankle, toes, heel: local(ankle, -heelBack, height), ball: local(toes, 0, under), tip: local(toes, toeLength, under) };
}
