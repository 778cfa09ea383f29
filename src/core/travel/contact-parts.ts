import { CONTACT_NUMBERS, contactPoints, type FootModel } from '../body/foot-model';
import { createWorldPose, forwardKinematics, poseSize, withAncestors } from '../body/skeleton';
import { createFrameReader, type Clip, type ClipContact, type ContactPart, type PivotPart } from '../clip/clip';
import type { Ground } from '../ground/ground';
import { heightOver } from './trace';

/** A sole point within this of the lowest one (m) is a pivot of a foot that stands exactly. */
const PIVOT_EPS_M = 2e-5;

/**
 * Over uneven ground and edges a sole lies in a plane of its own; what bears there are its points that do not move (m from picture
 * to picture) or, where each does a little, those that hardly move.
 */
/** Ground this close (m) to a plane under the sole is one. */
const PLANE_M = 1e-5;
/** A sole that stands so far (m) over what is under it bears on an edge beside. */
const FLOATS_M = 0.004;
const STILL_M = [2e-7, 3e-6, 2e-5] as const;

/**
 * Returns what tells the parts of contacts of a foot that stands exactly: by which points of its sole are lowest over the ground; over
 * ground that is not level, by which of them do not move.
 */
export function createExactParts(clip: Clip, foot: FootModel, ground: Ground | null): (contact: ClipContact) => ContactPart[] {
  const read = createFrameReader(clip);
  const pose = new Float64Array(poseSize(clip.skeleton));
  const world = createWorldPose(clip.skeleton);
  const only = withAncestors(clip.skeleton, [foot.ankle, foot.toes]);
  // The pictures before, at and after the one that is looked at.
  const kept = [0, 1, 2].map(() => ({ frame: NaN, points: new Float64Array(CONTACT_NUMBERS) }));
  const pointsOf = (f: number): Float64Array => {
    const own = kept[((f % 3) + 3) % 3]!;
    if (own.frame === f) return own.points;
    own.frame = f;
    read(f, pose, 0);
    forwardKinematics(clip.skeleton, pose, 0, world, only);
    contactPoints(foot, world, own.points, 0);
    return own.points;
  };
  const away = (k: number, f: number, g: number): number => {
    const [p, q] = [pointsOf(f), pointsOf(g)];
    return Math.hypot(p[k * 3]! - q[k * 3]!, p[k * 3 + 1]! - q[k * 3 + 1]!, p[k * 3 + 2]! - q[k * 3 + 2]!);
  };
  const kind = (f: number): PivotPart => {
    const points = pointsOf(f);
    const heights = [heightOver(ground, points, 0), heightOver(ground, points, 3), heightOver(ground, points, 6)] as const;
    const lowest = Math.min(...heights);
    if (ground && (lowest > FLOATS_M || !inPlane(points, heights))) {
      const moves = [0, 1, 2].map((k) => Math.min(away(k, f, f - 1), away(k, f, f + 1)));
      const bears = STILL_M.find((most) => Math.min(...moves) < most);
      const [heel, ball, tip] = moves.map((m) => m < bears!);
      if (bears !== undefined) return partOf(heel!, ball!, tip!);
    }
    const [heel, ball, tip] = heights.map((h) => h <= lowest + PIVOT_EPS_M);
    return partOf(heel!, ball!, tip!);
  };
  return (contact) => runsOf(Math.ceil(contact.from - 1e-6), Math.floor(contact.to + 1e-6), kind);
}

/** Whether the ground under heel, ball and tip is one plane: there the lowest points bear. */
function inPlane(points: Float64Array, heights: readonly number[]): boolean {
  const under = [0, 1, 2].map((k) => points[k * 3 + 1]! - heights[k]!);
  const along = (a: number, b: number) => Math.hypot(points[a * 3]! - points[b * 3]!, points[a * 3 + 2]! - points[b * 3 + 2]!);
  const part = along(0, 1) / Math.max(1e-6, along(0, 1) + along(1, 2));
  return Math.abs(under[0]! + (under[2]! - under[0]!) * part - under[1]!) < PLANE_M;
}

/** The part of the sole that bears where heel, ball and tip do or do not. */
export const partOf = (heel: boolean, ball: boolean, tip: boolean): PivotPart => (heel ? (ball || tip ? 'flat' : 'heel') : ball || !tip ? 'ball' : 'tip');

/** Stretches of frames of one kind. */
export function runsOf(first: number, last: number, kind: (f: number) => PivotPart): ContactPart[] {
  const parts: ContactPart[] = [];
  for (let f = first; f <= last; f++) {
    const part = kind(f);
    const own = parts[parts.length - 1];
    if (own?.part === part) parts[parts.length - 1] = { ...own, to: f };
    else parts.push({ part, from: f, to: f });
  }
  return parts;
}
