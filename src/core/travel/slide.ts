import { finish } from '../math/finish';
import { CONTACT_NUMBERS, contactPoints } from '../body/foot-model';
import { createWorldPose, forwardKinematics, poseSize, withAncestors } from '../body/skeleton';
import type { ClipContact, PivotPart } from '../clip/clip';
import { createInterpolator } from '../clip/interpolate';
import { createExactParts } from './contact-parts';
import type { ClipTrace } from './trace';

/** The slide of one contact, mm; the frame at which it is largest, and what the foot turned about there. */
export interface ContactSlide {
  readonly contact: ClipContact;
  readonly atFramesMm: number;
  readonly betweenMm: number;
  readonly worstFrame: number;
  readonly worstPart: PivotPart | null;
}

/** Samples per frame for what happens between frames. */
const SUBSTEPS = 4;
/** Points of the sole that must be still in each part: 0 heel, 1 ball, 2 tip. */
const POINTS: Readonly<Record<PivotPart, readonly number[]>> = { heel: [0], flat: [0, 1], ball: [1], tip: [2] };

/**
 * Slide of each contact: the largest distance a pivot of the sole goes from where it came to bear, for as long as it bears without
 * a break (heel; heel and ball where the sole lies flat; ball; toe tip), hand-overs included. At frames, and between them at
 * SUBSTEPS times the rate with LINEAR interpolation. Arriving and leaving are none of it; being dragged from one stand to another
 * is, but for feet that were locked where they stand, of which it is told apart.
 * Contacts without parts get those in which their points lie lowest. Yields after each.
 */
export function* measuringSlide(trace: ClipTrace, contacts: readonly ClipContact[]): Generator<undefined, ContactSlide[]> {
  const { clip, soles } = trace;
  const pose = new Float64Array(poseSize(clip.skeleton));
  const world = createWorldPose(clip.skeleton);
  const points = new Float64Array(CONTACT_NUMBERS),
    anchor = new Float64Array(CONTACT_NUMBERS);
  const looks = soles.map((sole) => {
    const only = withAncestors(clip.skeleton, [sole.foot.ankle, sole.foot.toes]);
    return { foot: sole.foot, only, read: createInterpolator(clip, only), exact: createExactParts(clip, sole.foot, trace.ground) };
  });
  const slides: ContactSlide[] = [];
  for (const contact of contacts) {
    const { foot, only, read, exact } = looks.find((l) => l.foot.name === contact.foot)!;
    const parts = contact.parts ?? exact(contact);
    const first = Math.ceil(contact.from - 1e-6),
      last = Math.floor(contact.to + 1e-6);
    const place = (frame: number) => {
      read(frame, pose, 0);
      forwardKinematics(clip.skeleton, pose, 0, world, only);
      contactPoints(foot, world, points, 0);
    };
    // A foot that does not stand exactly may be dragged from where a point first bore: that is a slide as well.
    const drags = contact.sure !== undefined && contact.sure < 1;
    const pivots = new Uint8Array(Math.max(0, last - first + 1));
    for (const { part, from, to } of parts)
      for (let f = Math.max(first, Math.ceil(from - 1e-6)); f <= Math.min(last, to + 1e-6); f++)
        for (const k of POINTS[part]) pivots[f - first] = pivots[f - first]! | (1 << k);
    let held = 0,
      seen = 0,
      atFrames = 0,
      between = 0,
      worst = 0,
      worstFrame = first;
    for (let s = first * SUBSTEPS; s <= last * SUBSTEPS; s++) {
      const f = Math.floor(s / SUBSTEPS);
      const onFrame = s % SUBSTEPS === 0;
      // Between two frames only a pivot of both can be asked to hold.
      const bits = onFrame ? pivots[f - first]! : pivots[f - first]! & pivots[f + 1 - first]!;
      if (bits !== 0) place(s / SUBSTEPS);
      const keeps = drags ? seen : held;
      for (let k = 0; k < 3; k++) {
        const bit = 1 << k;
        if (!(bits & bit)) continue;
        if (!(keeps & bit)) for (let c = k * 3; c < k * 3 + 3; c++) anchor[c] = points[c]!;
        const moved = Math.hypot(points[k * 3]! - anchor[k * 3]!, points[k * 3 + 1]! - anchor[k * 3 + 1]!, points[k * 3 + 2]! - anchor[k * 3 + 2]!);
        if (onFrame) atFrames = Math.max(atFrames, moved);
        between = Math.max(between, moved);
        if (moved > worst) {
          worst = moved;
          worstFrame = s / SUBSTEPS;
        }
      }
      held = onFrame ? bits : held & bits;
      seen |= bits;
    }
    const worstPart = parts.find((p) => worstFrame >= p.from && worstFrame <= p.to)?.part ?? null;
    slides.push({ contact, atFramesMm: atFrames * 1000, betweenMm: between * 1000, worstFrame, worstPart });
    yield undefined;
  }
  return slides;
}

/** The same at once. */
export function measureSlide(trace: ClipTrace, contacts: readonly ClipContact[]): ContactSlide[] {
  return finish(measuringSlide(trace, contacts));
}

/** The largest slide at frames of contacts, mm; null of none. */
export const worstSlide = (slides: readonly ContactSlide[]): number | null =>
  slides.length > 0 ? slides.reduce((most, s) => Math.max(most, s.atFramesMm), 0) : null;
