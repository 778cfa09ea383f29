import { PROPORTIONS } from './proportions';
import { jointWords, type JointWord, type Part } from './joint-words';
import { alikePairs, linesOf, namedPair, partingOf, type Lines, type Pair } from './limb-lines';
import { JOINT, JOINT_COUNT, type Role } from './roles';
import type { Skeleton } from './skeleton';

type Vector = readonly [number, number, number];

/** Which joint of a skeleton has which role. */
export interface Roles {
  /** Joint of each role, by JOINT; −1 where none has it. */
  readonly joints: Int32Array;
  /** Roles that were given by shape alone, or by a guess between several. */
  readonly unsure: readonly Role[];
  /** What is unsure, in words. */
  readonly doubts: readonly string[];
}

/** A skeleton that is no biped, and why, in words. */
export interface NoBiped {
  readonly reason: string;
}

export const isBiped = (found: Roles | NoBiped): found is Roles => 'joints' in found;

/**
 * Finds roles by names, hierarchy and the lengths of bones at rest. `ends`: where joints without children end (metres or any
 * unit), null where that is not told.
 */
export function guessRoles(skeleton: Skeleton, ends: readonly (Vector | null)[]): Roles | NoBiped {
  const words = jointWords(skeleton.names);
  const lines = linesOf(skeleton, ends);
  const alike = alikePairs(lines);
  const doubts: string[] = [];
  let legs = namedPair('leg', lines, words);
  if (!legs) {
    const shaped = alike[0];
    if (!shaped) return { reason: 'no two legs were found: no names tell them, and no two lines of bones are alike' };
    const sided = withSides(shaped, lines);
    legs = sided.pair;
    doubts.push('the legs were found by their shape, as no names tell them');
    if (!sided.faces) doubts.push('left and right are a guess: the feet do not tell which way it faces');
  }
  const inLegs = (line: readonly number[]) => line === legs.left || line === legs.right;
  let arms = namedPair('arm', lines, words);
  if (!arms) {
    const shaped = alike.find(
      (p) => !inLegs(p.left) && !inLegs(p.right) && p.parting !== legs.parting && !legs.left.includes(p.left[p.left.indexOf(p.parting) + 1]!),
    );
    if (shaped) {
      arms = sidesAs(shaped, legs, lines);
      doubts.push('the arms were found by their shape, as no names tell them');
    }
  }
  const head = headLine(lines, words, legs, arms);
  const joints = new Int32Array(JOINT_COUNT).fill(-1);
  const shaped = new Set<Role>();
  const put = (role: Role, joint: number, sure: boolean) => {
    joints[JOINT[role]] = joint;
    if (joint >= 0 && !sure) shaped.add(role);
  };
  for (const side of ['left', 'right'] as const) {
    const leg = bestTriple(legs[side], legs.parting, lines, words, LEG);
    if (!leg) return { reason: `the ${side} leg has no thigh and shank: two long bones one after the other are needed` };
    put(`${side}UpperLeg`, leg.joints[0], leg.named);
    put(`${side}LowerLeg`, leg.joints[1], leg.named);
    put(`${side}Foot`, leg.joints[2], leg.named);
    put(`${side}Toes`, toesAfter(legs[side], leg.joints[2], lines, words), leg.named);
    if (!arms) continue;
    const arm = bestTriple(arms[side], arms.parting, lines, words, ARM);
    if (!arm) continue;
    put(`${side}UpperArm`, arm.joints[0], arm.named);
    put(`${side}LowerArm`, arm.joints[1], arm.named);
    put(`${side}Hand`, arm.joints[2], arm.named);
    const before = arms[side][arms[side].indexOf(arm.joints[0]) - 1]!;
    if (before !== arms.parting) put(`${side}Shoulder`, before, arm.named);
  }
  const trunk = arms ?? (head ? { left: head, right: head, parting: head[head.length - 1]! } : null);
  const hips = trunk ? partingOf(legs.left, trunk.left) : legs.parting;
  if (hips < 0) return { reason: 'legs and trunk hang on different roots' };
  put('hips', hips, true);
  if (trunk && arms) putSpine(trunk.left.slice(trunk.left.indexOf(hips) + 1, trunk.left.indexOf(arms.parting) + 1), put);
  if (head) putHead(head, arms?.parting ?? hips, words, put);
  if (!arms) doubts.push('no arms were found');
  const root = skeleton.parents[hips]!;
  if (root >= 0 && skeleton.parents[root]! < 0) put('root', root, true);
  if (isBeast(joints, lines, words)) return { reason: 'it goes on four legs; figures on two legs are read' };
  return { joints, unsure: [...shaped], doubts };
}

/** How a limb's two long bones should be: their ratio, and the names of its three joints. */
interface LimbShape {
  readonly ratio: number;
  readonly parts: readonly [Part, Part, Part];
}
const LEG: LimbShape = { ratio: PROPORTIONS.thigh / PROPORTIONS.shank, parts: ['upperLeg', 'lowerLeg', 'foot'] };
const ARM: LimbShape = { ratio: PROPORTIONS.upperArm / PROPORTIONS.forearm, parts: ['upperArm', 'lowerArm', 'hand'] };

/** Weights of a triple: a name that fits, one that says otherwise, and how far the bones' ratio is off (per natural logarithm). */
const FITS = 1,
  DIFFERS = -2,
  RATIO = 2;

/** The three joints of a limb, the best by names and by two long bones of the right ratio. */
function bestTriple(line: readonly number[], parting: number, { distance }: Lines, words: readonly JointWord[], shape: LimbShape) {
  const own = line.slice(line.indexOf(parting) + 1);
  const length = own.reduce((sum, j, i) => sum + distance(i > 0 ? own[i - 1]! : parting, j), 0);
  if (!(length > 0)) return null;
  const said = (j: number, part: Part): number => {
    const { parts } = words[j]!;
    const says = parts.get(part);
    return says !== undefined ? FITS * says : parts.size > 0 ? DIFFERS : 0;
  };
  let best: { joints: readonly [number, number, number]; named: boolean } | null = null,
    most = -Infinity;
  for (let a = 0; a < own.length; a++)
    for (let b = a + 1; b < own.length; b++)
      for (let c = b + 1; c < own.length; c++) {
        const joints = [own[a]!, own[b]!, own[c]!] as const;
        const upper = distance(joints[0], joints[1]),
          lower = distance(joints[1], joints[2]);
        if (!(Math.min(upper, lower) > 0.08 * length)) continue;
        const names = joints.reduce((sum, j, i) => sum + said(j, shape.parts[i]!), 0);
        // Of joints at the same place the last one turns the bone, the first one ends the one before.
        const late = (own.length - (distance(joints[2], own[c - 1]!) === 0 ? 1 : 0) + a * 0.01 + b * 0.01) * 1e-3;
        const value = names + (3 * Math.min(upper, lower)) / length - RATIO * Math.abs(Math.log(upper / lower / shape.ratio)) + late;
        if (value > most) {
          most = value;
          best = { joints, named: names >= 3 * FITS };
        }
      }
  return best;
}

/** The joint that bends the toes: the next one ahead of the ankle, unless it only marks an end. */
function toesAfter(line: readonly number[], foot: number, { distance }: Lines, words: readonly JointWord[]): number {
  const after = line.slice(line.indexOf(foot) + 1).filter((j) => distance(foot, j) > 0 && !words[j]!.parts.has('end'));
  return after.find((j) => words[j]!.parts.has('toes')) ?? after[0] ?? -1;
}

/** Spine, chest and upper chest: first, middle and last of the joints from the hips to where the arms part. */
function putSpine(between: readonly number[], put: (role: Role, joint: number, sure: boolean) => void): void {
  const n = between.length;
  if (n > 0) put('spine', between[0]!, true);
  if (n === 2) put('chest', between[1]!, true);
  if (n > 2) {
    put('chest', between[n >> 1]!, true);
    put('upperChest', between[n - 1]!, true);
  }
}

function putHead(line: readonly number[], from: number, words: readonly JointWord[], put: (role: Role, joint: number, sure: boolean) => void): void {
  const after = line.slice(line.indexOf(from) + 1).filter((j) => !words[j]!.parts.has('end') && !words[j]!.parts.has('aside'));
  if (after.length === 0) return;
  const named = after.find((j) => words[j]!.parts.has('head'));
  const head = named ?? after[after.length - 1]!;
  put('head', head, named !== undefined);
  const before = after.slice(0, after.indexOf(head));
  const neck = before.find((j) => words[j]!.parts.has('neck')) ?? before[0];
  if (neck !== undefined) put('neck', neck, true);
}

/** The line to the head: the one that names it, else the longest from where the arms part that is neither arm nor leg. */
function headLine({ lines, distance }: Lines, words: readonly JointWord[], legs: Pair, arms: Pair | null): readonly number[] | null {
  const free = lines.filter(
    (l) => l !== legs.left && l !== legs.right && (!arms || (partingOf(l, arms.left) === arms.parting && partingOf(l, arms.right) === arms.parting)),
  );
  const says = (l: readonly number[], part: Part) => l.some((j) => words[j]!.parts.has(part));
  const aside = (l: readonly number[]) => (says(l, 'aside') ? 1 : 0);
  const length = (l: readonly number[]) => l.reduce((sum, j, i) => sum + (i > 0 ? distance(l[i - 1]!, j) : 0), 0);
  const sorted = [...free].sort((a, b) => aside(a) - aside(b) || length(b) - length(a));
  return sorted.find((l) => says(l, 'head')) ?? (arms ? (sorted[0] ?? null) : null);
}

/** Left and right of two lines by which way the feet point: left is up × forward. */
function withSides(pair: Pair, lines: Lines): { pair: Pair; faces: boolean } {
  const { rest, ends } = lines;
  const place = (j: number): Vector => [rest[j * 3]!, rest[j * 3 + 1]!, rest[j * 3 + 2]!];
  const feet = [pair.left, pair.right].map((line) => {
    const own = line.slice(line.indexOf(pair.parting));
    const triple = bestTriple(line, pair.parting, lines, own.length ? emptyWords(rest.length / 3) : [], LEG)?.joints ?? null;
    return triple && { hip: place(triple[0]), ankle: place(triple[2]), last: place(line[line.length - 1]!), end: ends[line[line.length - 1]!] ?? null };
  });
  const [one, other] = feet;
  if (!one || !other) return { pair, faces: false };
  const up = unit([0, 1, 2].map((k) => one.hip[k]! + other.hip[k]! - one.ankle[k]! - other.ankle[k]!));
  const ahead = [0, 1, 2].map((k) => one.last[k]! + other.last[k]! - one.ankle[k]! - other.ankle[k]! + (one.end?.[k] ?? 0) + (other.end?.[k] ?? 0));
  const along = dot(ahead, up);
  const level = ahead.map((v, k) => v - along * up[k]!);
  const faces = Math.hypot(...level) > 0.02 * Math.hypot(...[0, 1, 2].map((k) => one.hip[k]! - one.ankle[k]!));
  const forward = faces ? unit(level) : Math.abs(up[1]!) > 0.5 ? [0, 0, 1] : [0, -1, 0];
  const left = [up[1]! * forward[2]! - up[2]! * forward[1]!, up[2]! * forward[0]! - up[0]! * forward[2]!, up[0]! * forward[1]! - up[1]! * forward[0]!];
  const side = dot(
    [0, 1, 2].map((k) => one.hip[k]! - other.hip[k]!),
    left,
  );
  return { pair: side >= 0 ? pair : { ...pair, left: pair.right, right: pair.left }, faces };
}

const emptyWords = (count: number): JointWord[] => Array.from({ length: count }, () => ({ side: null, parts: new Map() }));
const dot = (a: readonly number[], b: readonly number[]) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
function unit(v: readonly number[]): number[] {
  const l = Math.hypot(...v);
  return l > 0 ? v.map((x) => x / l) : [0, 1, 0];
}

/** The arms' sides are the legs': each on the side of the leg it is nearer to along the line from hip to hip. */
function sidesAs(pair: Pair, legs: Pair, { rest }: Lines): Pair {
  const last = (line: readonly number[]) => line[line.length - 1]!;
  const across = [0, 1, 2].map((k) => rest[last(legs.left) * 3 + k]! - rest[last(legs.right) * 3 + k]!);
  const apart = [0, 1, 2].map((k) => rest[last(pair.left) * 3 + k]! - rest[last(pair.right) * 3 + k]!);
  return dot(across, apart) >= 0 ? pair : { ...pair, left: pair.right, right: pair.left };
}

/** Trunk farther than this (cosine) from the legs' line, with hands as low as this part of the leg, is a beast's. */
const LEVEL_TRUNK = 0.5,
  LOW_HANDS = 0.25;

/** Whether the fore limbs stand beside the hind ones at rest, or names say so of a trunk that lies level. */
function isBeast(joints: Int32Array, { rest }: Lines, words: readonly JointWord[]): boolean {
  const at = (role: Role, k: number) => rest[joints[JOINT[role]]! * 3 + k]!;
  if (joints[JOINT.leftHand]! < 0 || joints[JOINT.leftUpperArm]! < 0) return words.filter((w) => w.parts.has('beast')).length > 3;
  const up = unit([0, 1, 2].map((k) => at('leftUpperLeg', k) + at('rightUpperLeg', k) - at('leftFoot', k) - at('rightFoot', k)));
  const trunk = unit([0, 1, 2].map((k) => at('leftUpperArm', k) + at('rightUpperArm', k) - at('leftUpperLeg', k) - at('rightUpperLeg', k)));
  const leg = dot(
    up,
    [0, 1, 2].map((k) => at('leftUpperLeg', k) - at('leftFoot', k)),
  );
  const hands = dot(
    up,
    [0, 1, 2].map((k) => (at('leftHand', k) + at('rightHand', k) - at('leftFoot', k) - at('rightFoot', k)) / 2),
  );
  const level = dot(trunk, up) < LEVEL_TRUNK;
  return level && (hands < LOW_HANDS * leg || words.some((w) => w.parts.has('beast')));
}
