import type { Skeleton } from '../body/skeleton';

/** A short text that tells skeletons of the same names and hierarchy. */
export function signature({ names, parents }: Skeleton): string {
  // FNV-1a over names and parents, twice with other starts: enough to tell the skeletons of one project apart.
  const text = names.map((n, j) => `${n}\u0000${parents[j]}`).join('\u0001');
  const run = (start: number) => {
    let h = start;
    for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 16777619) >>> 0;
    return h.toString(16).padStart(8, '0');
  };
  return `${names.length}-${run(2166136261)}${run(40389)}`;
}
