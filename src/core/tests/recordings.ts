import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { bring, type Brought } from '../formats/bring';
import { readMotionFile, type MotionFile } from '../formats/motion-file';

/**
 * Real motion capture in BVH, of recorded people, that this project did not write: it comes with Debian's package
 * assimp-testmodels, whose own list says where. Known here by how many pictures they have.
 */
export interface Recording {
  readonly bytes: Uint8Array;
  readonly file: MotionFile;
  readonly brought: Brought;
}

const known = new Map<number, Recording>();

/** The recording with so many pictures. Throws where the package is not installed. */
export async function recording(frames: number): Promise<Recording> {
  if (known.size === 0) {
    for (const path of recordingPaths()) {
      const bytes = new Uint8Array(readFileSync(path));
      const file = await readMotionFile(bytes, 'recording.bvh');
      known.set(file.clips[0]!.clip.frames, { bytes, file, brought: bring(file.clips[0]!) });
    }
  }
  const found = known.get(frames);
  if (!found) throw new Error(`no recording has ${frames} pictures; there are ${[...known.keys()].join(', ')}`);
  return found;
}

/** Pictures of each: jumps in place and steps; a walk, a ladder up and down, swings on a bar; a boxer who falls and gets up. */
export const RECORDINGS = { jumps: 2752, ladder: 4511, boxer: 3070 } as const;

/** Where the package keeps its BVH files. */
function recordingPaths(): string[] {
  try {
    return execFileSync('dpkg', ['-L', 'assimp-testmodels'], { encoding: 'utf8' })
      .split('\n')
      .filter((line) => line.toLowerCase().endsWith('.bvh'));
  } catch {
    throw new Error("Debian's package assimp-testmodels is not installed; ./nimbret test installs it");
  }
}
