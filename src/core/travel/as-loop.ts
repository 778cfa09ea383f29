import { poseSize } from '../body/skeleton';
import type { Clip } from '../clip/clip';
import { angleBetween } from '../math/quaternion';
import type { FootModel } from '../body/foot-model';
import { createPlacement } from '../math/placement';
import { extent } from '../math/scalar';
import { pointsAt, traceClip, TRACE_MARGIN } from './trace';

/** How far the step from the last picture to the first may exceed the largest step inside a loop. */
const TOLERANCE = 1.5;
const FEWEST_FRAMES = 8;

/**
 * Takes a clip of unknown kind as a loop where its last picture leads on to its first as smoothly as pictures follow each
 * other inside. The travel of one loop is what keeps a foot still that stands across the seam; without one, the way from
 * first to last picture and the missing step between its neighbours.
 */
export function asLoop(clip: Clip, feet: readonly FootModel[]): Clip {
  // A file that tells its contacts tells whether it loops, too.
  if (clip.loop || clip.contacts !== null || clip.frames < FEWEST_FRAMES || !closes(clip)) return clip;
  const size = poseSize(clip.skeleton);
  const n = clip.frames;
  const at = (f: number, k: number) => clip.poses[f * size + k]!;
  const step = (f: number, k: number) => at(f + 1, k) - at(f, k);
  const along = (k: number) => at(n - 1, k) - at(0, k) + (-step(n - 3, k) + 4 * step(n - 2, k) + 4 * step(0, k) - step(1, k)) / 6;
  const [x, z] = [along(0), along(2)];
  // Less than a few steps' change is the loop's own sway, not travel.
  if (Math.hypot(x, z) <= 4 * largestStep(clip)) return { ...clip, loop: true };
  const held = plantedTravel(clip, feet, x, z);
  return { ...clip, loop: true, loopTravel: held ? createPlacement(held[0], 0, held[1]) : createPlacement(x, 0, z) };
}

/** A planted point is as low (m) at both ends of the seam as the lowest of all, within this. */
const PLANTED_M = 5e-5;

function plantedTravel(clip: Clip, feet: readonly FootModel[], x: number, z: number): [number, number] | null {
  const traces = traceClip(clip, feet).soles;
  const ground = Math.min(...traces.map((t) => extent(t.lowest.subarray(TRACE_MARGIN, clip.frames + TRACE_MARGIN))[0]));
  const slack = 0.05 * Math.hypot(x, z);
  const found: [number, number][] = [];
  for (const { points } of traces)
    for (let k = 0; k < 3; k++) {
      const last = pointsAt(clip.frames - 1) + k * 3,
        first = pointsAt(0) + k * 3;
      if (points[last + 1]! - ground > PLANTED_M || points[first + 1]! - ground > PLANTED_M) continue;
      const travel: [number, number] = [points[last]! - points[first]!, points[last + 2]! - points[first + 2]!];
      if (Math.hypot(travel[0] - x, travel[1] - z) < slack) found.push(travel);
    }
  return found.length > 0 ? [found.reduce((s, t) => s + t[0], 0) / found.length, found.reduce((s, t) => s + t[1], 0) / found.length] : null;
}

function largestStep(clip: Clip): number {
  const size = poseSize(clip.skeleton);
  let most = 0;
  for (let f = 1; f < clip.frames; f++)
    most = Math.max(most, Math.hypot(clip.poses[f * size]! - clip.poses[(f - 1) * size]!, clip.poses[f * size + 2]! - clip.poses[(f - 1) * size + 2]!));
  return most;
}

/** A motion whose ends move less than this part of its liveliest moment starts and stops; it is no cycle. */
const AT_REST = 0.05;

function closes(clip: Clip): boolean {
  const size = poseSize(clip.skeleton);
  const quats = clip.skeleton.moving.length * 3;
  let liveliest = 0;
  let atEnds = 0;
  for (let j = 0; j < clip.skeleton.names.length; j++) {
    const step = (a: number, b: number) => angleBetween(clip.poses, a * size + quats + j * 4, clip.poses, b * size + quats + j * 4);
    let most = 0;
    for (let f = 1; f < clip.frames; f++) most = Math.max(most, step(f - 1, f));
    liveliest = Math.max(liveliest, most);
    atEnds = Math.max(atEnds, step(0, 1), step(clip.frames - 2, clip.frames - 1));
    if (step(clip.frames - 1, 0) > TOLERANCE * most + 1e-3) return false;
  }
  return liveliest > 1e-3 && atEnds > AT_REST * liveliest;
}
