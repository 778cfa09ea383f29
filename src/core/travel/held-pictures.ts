import type { FootModel } from '../body/foot-model';
import type { Clip } from '../clip/clip';
import type { Ground } from '../ground/ground';
import { detectContacts, detectingContacts, type DetectedMotion } from './contacts';
import { traceClip, type ClipTrace } from './trace';

/** Finds ground, travel and contacts of a clip whose feet stand exactly, also of one held on twos, threes or fours; bit by bit. */
export function* seeingContacts(trace: ClipTrace, feet: readonly FootModel[], legLength: number, ground: Ground | null): Generator<undefined, DetectedMotion> {
  const hold = pictureHold(trace.clip);
  return hold === 1 ? yield* detectingContacts(trace, legLength) : detectHeld(trace.clip, hold, feet, legLength, ground);
}

/** Contacts of held pictures, from one picture of each group. */
function detectHeld(clip: Clip, hold: number, feet: readonly FootModel[], legLength: number, ground: Ground | null): DetectedMotion {
  const size = clip.poses.length / clip.frames;
  const frames = Math.ceil(clip.frames / hold);
  const poses = new Float64Array(frames * size);
  for (let f = 0; f < frames; f++) poses.set(clip.poses.subarray(f * hold * size, (f * hold + 1) * size), f * size);
  const found = detectContacts(traceClip({ ...clip, frames, poses, rate: clip.rate / hold }, feet, ground), legLength);
  return { ...found, contacts: found.contacts.map((c) => ({ ...c, from: Math.ceil(c.from) * hold, to: Math.floor(c.to) * hold + hold - 1 })) };
}

/** How many pictures each pose of a clip stands for: 2 on twos, 3 on threes, 4 at most. */
export function pictureHold({ poses, frames }: Clip): number {
  const size = poses.length / frames;
  const repeats = (f: number) => poses.subarray(f * size, (f + 1) * size).every((v, k) => v === poses[(f - 1) * size + k]);
  for (let n = 4; n > 1; n--) {
    let held = frames > n;
    for (let f = 1; held && f < frames - 1; f++) held = f % n === 0 || repeats(f);
    if (held) return n;
  }
  return 1;
}
