import { poseSize } from '../body/skeleton';
import { createPlacement } from '../math/placement';
import { createFrameReader, type Clip } from './clip';

/** A loop as a clip of so many rounds one after the other, each moved on by the loop's travel; it does not loop itself. */
export function unrolled(clip: Clip, rounds: number): Clip {
  const size = poseSize(clip.skeleton);
  const frames = clip.frames * rounds;
  const read = createFrameReader(clip);
  const poses = new Float64Array(frames * size);
  for (let f = 0; f < frames; f++) read(f, poses, f * size);
  return { ...clip, frames, poses, loop: false, loopTravel: createPlacement(), contacts: null };
}
