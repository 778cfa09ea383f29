import { CONTACT_NUMBERS, contactPoints, type FootModel } from '../body/foot-model';
import { createWorldPose, forwardKinematics, poseSize, withAncestors } from '../body/skeleton';
import { createFrameReader, type Clip, type ClipContact, type ContactPart, type PivotPart } from '../clip/clip';
import type { Ground } from '../ground/ground';
import { heightOver } from './trace';

/** A sole point within this of the lowest one (m) is a pivot of a foot that stands exactly. */
const PIVOT_EPS_M = 2e-5;

/** Returns what tells the parts of contacts of a foot that stands exactly: by which points of its sole are lowest over the ground. */
export function createExactParts(clip: Clip, foot: FootModel, ground: Ground | null): (contact: ClipContact) => ContactPart[] {
  const read = createFrameReader(clip);
  const pose = new Float64Array(poseSize(clip.skeleton));
  const world = createWorldPose(clip.skeleton);
  const only = withAncestors(clip.skeleton, [foot.ankle, foot.toes]);
  const points = new Float64Array(CONTACT_NUMBERS);
  const kind = (f: number): PivotPart => {
    read(f, pose, 0);
    forwardKinematics(clip.skeleton, pose, 0, world, only);
    contactPoints(foot, world, points, 0);
    const [heel, ball, tip] = [heightOver(ground, points, 0), heightOver(ground, points, 3), heightOver(ground, points, 6)];
    const lowest = Math.min(heel, ball, tip) + PIVOT_EPS_M;
    return partOf(heel <= lowest, ball <= lowest, tip <= lowest);
  };
  return (contact) => runsOf(Math.ceil(contact.from - 1e-6), Math.floor(contact.to + 1e-6), kind);
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
