import { poseSize, type Skeleton } from '../body/skeleton';
import { placeRoot, repeatPlacement, type Placement } from '../math/placement';

/** What a standing foot turns about: its heel, nothing (the whole sole lies flat), its ball, the tip of its toes. */
export type PivotPart = 'heel' | 'flat' | 'ball' | 'tip';

/** A stretch of a contact, both ends inside, in which the foot turns about one part of its sole; neighbours may share a picture. */
export interface ContactPart {
  readonly part: PivotPart;
  readonly from: number;
  readonly to: number;
}

/** A contact of a clip: frames may be fractional (the event lies between pictures). Loops may reach past the last frame. */
export interface ClipContact {
  readonly foot: 'left' | 'right';
  readonly from: number;
  readonly to: number;
}

/**
 * A sampled motion: `frames` poses at `rate` a second. A loop has N frames for N/rate seconds; the frame after the last is
 * the first again, moved on by the travel, and is not stored.
 */
export interface Clip {
  readonly name: string;
  readonly skeleton: Skeleton;
  readonly frames: number;
  readonly rate: number;
  readonly loop: boolean;
  /** frames × poseSize numbers: translations of the moving joints, then quaternions. */
  readonly poses: Float64Array;
  /** What one loop adds to joint 0; no change for clips that do not loop or stay in place. */
  readonly loopTravel: Placement;
  /** Contacts where they are known, otherwise null. */
  readonly contacts: readonly ClipContact[] | null;
}

/** Whether the travel of a loop goes anywhere. */
const travels = ({ loopTravel: [x, y, z, yaw] }: Pick<Clip, 'loopTravel'>): boolean => x !== 0 || y !== 0 || z !== 0 || yaw !== 0;

/** A reader of stored frames, also outside a loop's own: frame f into out[at..] with the loop's travel on joint 0. */
export function createFrameReader(clip: Clip): (f: number, out: Float64Array, at: number) => void {
  const { frames, loop, poses, skeleton } = clip;
  const size = poseSize(skeleton);
  const quats = skeleton.moving.length * 3;
  const moved = new Float64Array(4);
  const carries = skeleton.moving[0] === 0 && travels(clip);
  return (f, out, at) => {
    const turn = loop ? Math.floor(f / frames) : 0;
    const local = loop ? f - turn * frames : Math.min(frames - 1, Math.max(0, f));
    for (let k = 0, p = local * size; k < size; k++, p++) out[at + k] = poses[p]!;
    if (turn === 0 || !carries) return;
    repeatPlacement(moved, 0, clip.loopTravel, 0, turn);
    placeRoot(out, at, at + quats, moved, 0);
  };
}
