import type { Body } from '../body/body';
import type { Clip } from '../clip/clip';
import { splitTravel } from '../travel/split';

/** What a written clip says about itself besides its motion; SI units, direction in degrees (left positive). */
interface ClipInfo {
  readonly name: string;
  readonly rate: number;
  readonly frames: number;
  readonly loop: boolean;
  readonly inPlace: boolean;
  readonly speed: number;
  readonly strideLength: number;
  readonly strideTime: number;
  readonly dutyFactor: number;
  readonly direction: number;
  /** Travel of one loop, or of the whole clip: x, z, m. */
  readonly travel: readonly [number, number];
  /** Times in seconds from the clip's start; a loop's last contact may end after it. */
  readonly contacts: readonly { readonly foot: 'left' | 'right'; readonly landing: number; readonly leaving: number }[];
}

/** A clip to be written, with the body it is for. */
export interface ClipDocument {
  readonly body: Body;
  readonly clip: Clip;
  readonly info: ClipInfo;
}

/** Makes a clip ready to be written: in place or travelling, with what is known of its gait. */
export function clipDocument(
  body: Body,
  clip: Clip,
  timing: { speed: number; strideLength: number; strideTime: number; dutyFactor: number },
  directionDeg: number,
  inPlace: boolean,
): ClipDocument {
  const size = clip.poses.length / clip.frames;
  const last = (clip.frames - 1) * size;
  const travel = clip.loop
    ? ([clip.loopTravel[0], clip.loopTravel[2]] as const)
    : ([clip.poses[last]! - clip.poses[0]!, clip.poses[last + 2]! - clip.poses[2]!] as const);
  return {
    body,
    clip: inPlace ? splitTravel(clip).inPlace : clip,
    info: {
      name: clip.name,
      rate: clip.rate,
      frames: clip.frames,
      loop: clip.loop,
      inPlace,
      speed: timing.speed,
      strideLength: timing.strideLength,
      strideTime: timing.strideTime,
      dutyFactor: timing.dutyFactor,
      direction: directionDeg,
      travel,
      contacts: (clip.contacts ?? []).map((c) => ({ foot: c.foot, landing: c.from / clip.rate, leaving: c.to / clip.rate })),
    },
  };
}
