import { poseSize, type Skeleton } from '../body/skeleton';
import { placeRoot, repeatPlacement, type Placement } from '../math/placement';

/** What a standing foot turns about: its heel, nothing (the whole sole lies flat), its ball, the tip of its toes. */
export type PivotPart = 'heel' | 'flat' | 'ball' | 'tip';

/** A stretch of a contact, frames, both ends inside, in which the foot turns about one part of its sole; neighbours may share a picture. */
export interface ContactPart {
  readonly part: PivotPart;
  readonly from: number;
  readonly to: number;
}

/** How a foot is on the ground: it stands, steps on the spot, turns on its ball, or is dragged to another place. */
export type ContactManner = 'stands' | 'shuffles' | 'twists' | 'dragged';

/**
 * A contact of a clip, from landing to lift-off of the toes: frames may be fractional (the event lies between pictures). Loops may
 * reach past the last frame. Before its first part the foot arrives, after its last it leaves, between parts that do not meet it is
 * dragged on; without parts nothing is known but its ends.
 */
export interface ClipContact {
  readonly foot: 'left' | 'right';
  readonly from: number;
  readonly to: number;
  readonly parts?: readonly ContactPart[];
  readonly manner?: ContactManner;
  /** 0 to 1: 1 where its pivots stand exactly. */
  readonly sure?: number;
}

/** Contacts by foot, then by time. */
export const inOrder = (contacts: readonly ClipContact[]): ClipContact[] =>
  [...contacts].sort((a, b) => (a.foot === b.foot ? a.from - b.from : a.foot === 'left' ? -1 : 1));

/** A contact moved by so many frames, its parts with it. */
export const movedContact = (c: ClipContact, by: number): ClipContact => ({
  ...c,
  from: c.from + by,
  to: c.to + by,
  ...(c.parts ? { parts: c.parts.map((p) => ({ ...p, from: p.from + by, to: p.to + by })) } : {}),
});

/** A contact cut to a stretch of frames, its parts with it. */
export const contactWithin = (c: ClipContact, from: number, to: number): ClipContact => ({
  ...c,
  from: Math.max(from, c.from),
  to: Math.min(to, c.to),
  ...(c.parts ? { parts: c.parts.map((p) => ({ ...p, from: Math.max(from, p.from), to: Math.min(to, p.to) })).filter((p) => p.to >= p.from) } : {}),
});

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
  /** Contacts where they are known, otherwise null; on the deck where there is one. */
  readonly contacts: readonly ClipContact[] | null;
  /** Where a floor that moves lies at each frame: frames placements. Absent where the floor lies still. */
  readonly deck?: Float64Array;
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
