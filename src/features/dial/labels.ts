/** A mark on the rim: where it stands and what it is called. */
export interface Mark {
  /** Part of the cycle. */
  readonly phase: number;
  readonly name: string;
}

/** A label on the rim: the words of one mark, or of several that coincide, and where it stands without touching its neighbours. */
export interface RimLabel {
  readonly phase: number;
  readonly words: string;
}

/** Marks nearer than this (part of the cycle) coincide. */
const SAME = 0.014;
const ROUNDS = 60;

/**
 * Labels of marks round a rim. `width` tells what part of the rim a text takes up. Labels that would touch are pushed apart
 * along the rim, both by as much; the marks stay.
 */
export function rimLabels(marks: readonly Mark[], width: (words: string) => number): RimLabel[] {
  const sorted = [...marks].sort((a, b) => a.phase - b.phase);
  const told: { phase: number; names: string[] }[] = [];
  for (const { phase, name } of sorted) {
    const last = told[told.length - 1];
    if (last && phase - last.phase < SAME) last.names.push(name);
    else told.push({ phase, names: [name] });
  }
  const first = told[0],
    last = told[told.length - 1];
  if (first && last && first !== last && first.phase + 1 - last.phase < SAME) {
    last.names.push(...first.names);
    told.shift();
  }
  // Where both feet do the same at once, it is said once.
  const groups = told.map(({ phase, names }) => ({ phase, words: [...new Set(names)].join(' · ') }));
  const n = groups.length;
  const at = groups.map((g) => g.phase);
  for (let round = 0; round < ROUNDS && n > 1; round++) {
    let moved = false;
    for (let i = 0; i < n; i++) {
      const next = (i + 1) % n;
      const gap = at[next]! + (next === 0 ? 1 : 0) - at[i]!;
      const lack = (width(groups[i]!.words) + width(groups[next]!.words)) / 2 - gap;
      if (lack <= 1e-6) continue;
      at[i] = at[i]! - lack / 2;
      at[next] = at[next]! + lack / 2;
      moved = true;
    }
    if (!moved) break;
  }
  return groups.map((g, i) => ({ words: g.words, phase: at[i]! - Math.floor(at[i]!) }));
}
