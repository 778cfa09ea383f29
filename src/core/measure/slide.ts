import { finish } from '../math/finish';
import { CONTACT_NUMBERS, contactPoints } from '../body/foot-model';
import { createWorldPose, forwardKinematics, poseSize, withAncestors } from '../body/skeleton';
import type { ClipContact } from '../clip/clip';
import { createInterpolator } from '../clip/interpolate';
import { heightOver, type ClipTrace } from '../travel/trace';

/** The slide of one contact, millimetres, and the frame at which it is largest. */
export interface ContactSlide {
  readonly contact: ClipContact;
  readonly atFramesMm: number;
  readonly betweenMm: number;
  readonly worstFrame: number;
}

/** A sole point within this of the lowest one (m) counts as a pivot. */
const PIVOT_EPS_M = 2e-5;
/** Samples per frame for what happens between frames. */
const SUBSTEPS = 4;

/**
 * Slide of each contact: the largest distance a pivot of the sole (heel, ball or toe tip, whichever is lowest) moves while
 * it stays the pivot. At frames, and between them at SUBSTEPS times the rate with LINEAR interpolation. Yields after each.
 */
export function* measuringSlide({ clip, soles, ground }: ClipTrace, contacts: readonly ClipContact[]): Generator<undefined, ContactSlide[]> {
  const pose = new Float64Array(poseSize(clip.skeleton));
  const world = createWorldPose(clip.skeleton);
  const points = new Float64Array(CONTACT_NUMBERS);
  const looks = soles.map(({ foot }) => {
    const only = withAncestors(clip.skeleton, [foot.ankle, foot.toes]);
    return { foot, only, read: createInterpolator(clip, only) };
  });
  const slides: ContactSlide[] = [];
  for (const contact of contacts) {
    const { foot, only, read } = looks.find((l) => l.foot.name === contact.foot)!;
    const first = Math.ceil(contact.from - 1e-6),
      last = Math.floor(contact.to + 1e-6);
    const place = (frame: number) => {
      read(frame, pose, 0);
      forwardKinematics(clip.skeleton, pose, 0, world, only);
      contactPoints(foot, world, points, 0);
    };
    // Pivots at each frame, one bit a point.
    const pivots: number[] = [];
    for (let f = first; f <= last; f++) {
      place(f);
      pivots.push(pivotBits(ground, points));
    }
    const anchor = new Float64Array(CONTACT_NUMBERS);
    let held = 0,
      atFrames = 0,
      between = 0,
      worst = 0,
      worstFrame = first;
    for (let s = first * SUBSTEPS; s <= last * SUBSTEPS; s++) {
      const frame = s / SUBSTEPS;
      const f = Math.floor(frame);
      const onFrame = s % SUBSTEPS === 0;
      // Between two frames only a pivot of both can be asked to hold.
      const bits = onFrame ? pivots[f - first]! : pivots[f - first]! & pivots[f + 1 - first]!;
      place(frame);
      for (let k = 0; k < 3; k++) {
        const bit = 1 << k;
        if (!(bits & bit)) continue;
        if (!(held & bit)) for (let c = 0; c < 3; c++) anchor[k * 3 + c] = points[k * 3 + c]!;
        const moved = Math.sqrt(
          (points[k * 3]! - anchor[k * 3]!) ** 2 + (points[k * 3 + 1]! - anchor[k * 3 + 1]!) ** 2 + (points[k * 3 + 2]! - anchor[k * 3 + 2]!) ** 2,
        );
        if (onFrame) atFrames = Math.max(atFrames, moved);
        between = Math.max(between, moved);
        if (moved > worst) {
          worst = moved;
          worstFrame = frame;
        }
      }
      held = onFrame ? bits : held & bits;
    }
    slides.push({ contact, atFramesMm: atFrames * 1000, betweenMm: between * 1000, worstFrame });
    yield undefined;
  }
  return slides;
}

/** The same at once. */
export function measureSlide(trace: ClipTrace, contacts: readonly ClipContact[]): ContactSlide[] {
  return finish(measuringSlide(trace, contacts));
}

function pivotBits(ground: ClipTrace['ground'], points: Float64Array): number {
  const heights = [0, 3, 6].map((o) => heightOver(ground, points, o));
  const lowest = Math.min(...heights);
  let bits = 0;
  for (let k = 0; k < 3; k++) if (heights[k]! <= lowest + PIVOT_EPS_M) bits |= 1 << k;
  return bits;
}
