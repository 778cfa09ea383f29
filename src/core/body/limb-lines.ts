import type { JointWord, Part } from './joint-words';
import { SIDE_NAMES, type SideName } from './roles';
import { restWorld, type Skeleton } from './skeleton';

type Vector = readonly [number, number, number];

/** A skeleton as lines from its roots to its ends, with what is needed to compare them. Lengths in the skeleton's unit. */
export interface Lines {
  /** Joints of each line, root first. */
  readonly lines: readonly (readonly number[])[];
  /** Place of each joint at rest, 3 numbers a joint. */
  readonly rest: Float64Array;
  /** Where a joint without children ends; null where the file does not tell. */
  readonly ends: readonly (Vector | null)[];
  distance(a: number, b: number): number;
}

/** All lines of a skeleton. */
export function linesOf(skeleton: Skeleton, ends: readonly (Vector | null)[]): Lines {
  const { parents } = skeleton;
  const hasChild = new Uint8Array(parents.length);
  parents.forEach((p) => {
    if (p >= 0) hasChild[p] = 1;
  });
  const lines: number[][] = [];
  parents.forEach((_, leaf) => {
    if (hasChild[leaf]) return;
    const line: number[] = [];
    for (let j = leaf; j >= 0; j = parents[j]!) line.push(j);
    lines.push(line.reverse());
  });
  const rest = restWorld(skeleton).positions;
  const distance = (a: number, b: number) => Math.hypot(rest[a * 3]! - rest[b * 3]!, rest[a * 3 + 1]! - rest[b * 3 + 1]!, rest[a * 3 + 2]! - rest[b * 3 + 2]!);
  return { lines, rest, ends, distance };
}

/** A pair of limbs: left and right line, and the joint where they part. */
export interface Pair {
  readonly left: readonly number[];
  readonly right: readonly number[];
  readonly parting: number;
  /** Whether names say which is which. */
  readonly named: boolean;
}

const LIMB_PARTS = { leg: ['upperLeg', 'lowerLeg', 'foot', 'toes'], arm: ['shoulder', 'upperArm', 'lowerArm', 'hand'] } as const satisfies Record<
  string,
  readonly Part[]
>;

/** The pair of limbs that names tell; null where they do not tell both sides. */
export function namedPair(limb: 'leg' | 'arm', { lines, distance }: Lines, words: readonly JointWord[]): Pair | null {
  const best = (side: SideName): readonly number[] | null => {
    let found: readonly number[] | null = null,
      most = 0;
    for (const line of lines) {
      let score = 0;
      for (const j of line) if (words[j]!.side === side) for (const part of LIMB_PARTS[limb]) score += words[j]!.parts.get(part) ?? 0;
      // Of lines that say as much, one that does not end in a finger, and the longest.
      if (score === 0) continue;
      const aside = line.some((j) => words[j]!.parts.has('aside')) ? 0.5 : 0;
      const length = line.reduce((sum, j, i) => sum + (i > 0 ? distance(line[i - 1]!, j) : 0), 0);
      const value = score - aside + 1e-4 * Math.min(1000, length / (1 + length));
      if (value > most) [most, found] = [value, line];
    }
    // One word alone that only perhaps means a limb is none.
    return most >= 2 ? found : null;
  };
  const [left, right] = SIDE_NAMES.map(best);
  return left && right ? { left, right, parting: partingOf(left, right), named: true } : null;
}

/** The last joint two lines share; −1 where they share none. */
export function partingOf(a: readonly number[], b: readonly number[]): number {
  let k = 0;
  while (k < a.length && a[k] === b[k]) k++;
  return k > 0 ? a[k - 1]! : -1;
}

/** Bones of two limbs may differ by this part of their whole length. */
const ALIKE = 0.08;

/** Pairs of lines that are as long, bone by bone, from where they part; the nearest to the root first, then the longest. */
export function alikePairs({ lines, distance, ends }: Lines): Pair[] {
  const found: { pair: Pair; depth: number; length: number }[] = [];
  const bones = (line: readonly number[], from: number) => {
    const lengths = line.slice(from).map((j, i) => distance(line[from - 1 + i]!, j));
    const end = ends[line[line.length - 1]!];
    return end ? [...lengths, Math.hypot(...end)] : lengths;
  };
  for (let a = 0; a < lines.length; a++)
    for (let b = a + 1; b < lines.length; b++) {
      const [one, other] = [lines[a]!, lines[b]!];
      const parting = partingOf(one, other);
      if (parting < 0 || one.length !== other.length) continue;
      const from = one.indexOf(parting) + 1;
      const [x, y] = [bones(one, from), bones(other, from)];
      const length = x.reduce((s, v) => s + v, 0);
      if (x.length < 3 || x.length !== y.length || !(length > 0) || x.some((v, i) => Math.abs(v - y[i]!) > ALIKE * length)) continue;
      found.push({ pair: { left: one, right: other, parting, named: false }, depth: from, length });
    }
  return found.sort((p, q) => p.depth - q.depth || q.length - p.length).map((f) => f.pair);
}
