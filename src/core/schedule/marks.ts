import type { FootingPiece } from '../ground/ground';
import type { Program } from './program';

/** How finely a course is looked at for pieces, m, and how close (m) a place on it is found. */
const LOOK_M = 0.2;
const CLOSE_M = 1e-9;
/** A stone so far (m) beside the course is stepped on; a tread, if the course crosses it. */
const BESIDE_M = 0.35;

/** On short treads a foot that goes up leaves its heel free, one that goes down its toes: parts of the sole's length. Common practice. */
const HEEL_FREE = 0.14;
const TOES_FREE = 0.1;
/** A tread longer than so many soles is none to be careful on. */
const SHORT_TREAD = 1.6;

/** A piece of footing on the way. */
export interface Mark {
  readonly kind: FootingPiece['kind'];
  readonly group: number;
  /** Place of the ankle on the course, m. */
  readonly at: number;
  readonly y: number;
  /** How far (m) to the left of the course the foot itself stands; null: half a step width from it. */
  readonly onto: number | null;
}

/** The pieces of the ground that a program's course passes, in their order along it, each pass once. */
export function marksAlong({ course, ground, body }: Program): Mark[] {
  const pieces = ground.pieces ?? [];
  if (pieces.length === 0) return [];
  const { heelBack, tipAhead } = body.sole;
  // The middle of the sole comes over the middle of the piece.
  const back = (tipAhead - heelBack) / 2;
  const end = Number.isFinite(course.length) ? course.length : Math.max(...pieces.map((p) => Math.hypot(p.x, p.z))) + 2;
  const at = [0, 0, 0, 0];
  // A tread is as broad as its stairs: the course crosses its middle line; a stone it passes.
  const ahead = (p: FootingPiece, s: number) => {
    course.at(s, at, 0);
    const heading = p.kind === 'tread' ? p.heading : at[2]!;
    return (p.x - at[0]!) * Math.sin(heading) + (p.z - at[1]!) * Math.cos(heading);
  };
  const beside = (p: FootingPiece, s: number) => {
    course.at(s, at, 0);
    const heading = p.kind === 'tread' ? p.heading : at[2]!;
    return (p.x - at[0]!) * Math.cos(heading) - (p.z - at[1]!) * Math.sin(heading);
  };
  /** How far (m) past the middle of a tread a foot is set that goes along (1) or against (−1) it. */
  const careful = (p: FootingPiece, along: number): number => {
    const sole = heelBack + tipAhead;
    if (p.kind !== 'tread' || p.length > SHORT_TREAD * sole || p.rise === 0) return 0;
    return sole * (p.rise * along > 0 ? -HEEL_FREE : TOES_FREE);
  };
  const marks: Mark[] = [];
  for (const p of pieces) {
    let before = ahead(p, 0);
    for (let s = LOOK_M; s <= end + LOOK_M; s += LOOK_M) {
      const after = ahead(p, s);
      if ((before > 0 && after <= 0) || (p.kind === 'tread' && before < 0 && after >= 0)) {
        let lo = s - LOOK_M,
          hi = s;
        while (hi - lo > CLOSE_M) {
          const mid = (lo + hi) / 2;
          if (ahead(p, mid) * before > 0) lo = mid;
          else hi = mid;
        }
        const aside = beside(p, lo);
        const near = p.kind === 'tread' ? Math.abs(aside) <= p.breadth / 2 : Math.abs(aside) <= p.breadth / 2 + BESIDE_M;
        const along = lo - back + careful(p, Math.cos(at[2]! - p.heading));
        if (near && along > 0) marks.push({ kind: p.kind, group: p.group, at: along, y: p.y, onto: p.kind === 'stone' ? aside : null });
      }
      before = after;
    }
  }
  return inReach(
    marks.sort((a, b) => a.at - b.at),
    body.legLength,
  );
}

/** Pieces farther apart along the course than this (parts of the leg) are not stepped from one to the next: there are steps between. */
const REACH_LEGS = 1.2;

/** Marks of one group that lie too far apart, as where a course goes along stairs rather than up them, told as several groups. */
function inReach(marks: readonly Mark[], legLength: number): Mark[] {
  let fresh = marks.reduce((most, m) => Math.max(most, m.group), 0);
  let [own, given] = [NaN, NaN];
  return marks.map((mark, i) => {
    const before = marks[i - 1];
    const goes = before !== undefined && before.group === mark.group;
    if (!goes || mark.group !== own) [own, given] = [mark.group, mark.group];
    // Stones that lie too far apart are said to.
    if (goes && mark.kind === 'tread' && mark.at - before.at > REACH_LEGS * legLength) given = ++fresh;
    return given === mark.group ? mark : { ...mark, group: given };
  });
}
