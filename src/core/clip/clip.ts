import { poseSize, type Skeleton } from '../body/skeleton';

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
  /** Displacement of joint 0 over one loop (x, y, z in m); zero for clips that do not loop or stay in place. */
  readonly loopTravel: readonly [number, number, number];
  /** Contacts where they are known, otherwise null. */
  readonly contacts: readonly ClipContact[] | null;
}

/** Copies frame f, which may lie outside a loop's stored frames, into out[at..] with the loop's travel applied to joint 0. */
export function readFrame(clip: Clip, f: number, out: Float64Array, at: number): void {
  const size = poseSize(clip.skeleton);
  const turn = clip.loop ? Math.floor(f / clip.frames) : 0;
  const local = clip.loop ? f - turn * clip.frames : Math.min(clip.frames - 1, Math.max(0, f));
  out.set(clip.poses.subarray(local * size, (local + 1) * size), at);
  if (turn !== 0 && clip.skeleton.moving[0] === 0) for (let k = 0; k < 3; k++) out[at + k] = out[at + k]! + turn * clip.loopTravel[k]!;
}
