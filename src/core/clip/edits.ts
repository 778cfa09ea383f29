import { poseSize } from '../body/skeleton';
import { createPlacement, inversePlacement } from '../math/placement';
import type { Clip } from './clip';
import { createInterpolator } from './interpolate';

/** Frames `from` to `to` of a clip, both ends inside; it does not loop. Throws RangeError where there are none. */
export function trimmed(clip: Clip, from: number, to: number): Clip {
  const a = Math.max(0, Math.round(from)),
    b = Math.min(clip.frames - 1, Math.round(to));
  if (!(b >= a)) throw new RangeError(`trimmed: need from <= to within 0 to ${clip.frames - 1}; got ${from} to ${to}`);
  if (a === 0 && b === clip.frames - 1 && !clip.loop) return clip;
  const size = poseSize(clip.skeleton);
  return { ...clip, frames: b - a + 1, poses: clip.poses.slice(a * size, (b + 1) * size), loop: false, loopTravel: createPlacement(), contacts: null };
}

/** The clip from its end to its beginning; a loop stays one, from the same first picture on. */
export function reversed(clip: Clip): Clip {
  const size = poseSize(clip.skeleton);
  const { frames } = clip;
  const poses = new Float64Array(clip.poses.length);
  const read = createInterpolator(clip);
  // A loop's picture before its first is its last, one round earlier.
  for (let f = 0; f < frames; f++) read(clip.loop ? -f : frames - 1 - f, poses, f * size);
  const loopTravel = createPlacement();
  if (clip.loop) inversePlacement(loopTravel, 0, clip.loopTravel, 0);
  return { ...clip, poses, loopTravel, contacts: null };
}

/** The clip `speed` times as fast at the same rate; between pictures as glTF LINEAR has it. A loop gets a whole number of pictures. */
export function retimed(clip: Clip, speed: number): Clip {
  if (!(speed > 0)) throw new RangeError(`retimed: need speed > 0; got ${speed}`);
  if (speed === 1) return clip;
  const size = poseSize(clip.skeleton);
  const frames = clip.loop ? Math.max(2, Math.round(clip.frames / speed)) : Math.max(1, Math.floor((clip.frames - 1) / speed + 1e-9) + 1);
  const step = clip.loop ? clip.frames / frames : speed;
  const poses = new Float64Array(frames * size);
  const read = createInterpolator(clip);
  for (let f = 0; f < frames; f++) read(Math.min(f * step, clip.loop ? Infinity : clip.frames - 1), poses, f * size);
  return { ...clip, frames, poses, contacts: null };
}

/** The clip with each pose held for `hold` pictures: on twos, on threes. */
export function heldOn(clip: Clip, hold: number): Clip {
  if (hold === 1) return clip;
  const size = poseSize(clip.skeleton);
  const poses = clip.poses.slice();
  for (let f = 0; f < clip.frames; f++) {
    const from = f - (f % hold);
    if (from !== f) poses.copyWithin(f * size, from * size, (from + 1) * size);
  }
  return { ...clip, poses, contacts: null };
}
