import type { ClipContact } from '../clip/clip';
import { toRadians } from '../math/scalar';
import { createWorldPose, forwardKinematics, poseSize, withAncestors } from '../body/skeleton';
import { CONTACT_NUMBERS, contactPoints } from '../body/foot-model';
import type { Clip } from '../clip/clip';
import type { FootModel } from '../body/foot-model';
import { footFrame, soleAngles } from '../body/foot-frame';

/** How far the point a foot stands on moves while it does, m, and the frame at which it is farthest. */
export interface PivotSlide {
  readonly contact: ClipContact;
  readonly metres: number;
  readonly worstFrame: number;
}

/** A sole pitched less than this lies flat, and both its heel and its ball stand: as recordings shake, and where a lock made it flat. */
const FLAT = toRadians(3);
const LOCKED_FLAT = 1e-4;
/** Of a made foot that stands exactly the pivots are the points within this (m) of the lowest. */
const PIVOT_EPS_M = 2e-5;
/** How feet stand: shaking as recorded, where a lock put them, or exactly, as made ones do. */
type FeetAre = 'recorded' | 'locked' | 'made';
/** A sole all of which is this far (m) over the floor is on something else, where a heel may hang. */
const OFF_FLOOR = 0.05;

/**
 * Slide of each contact at its frames, by the rocker the foot is on: the heel while the toes are up, heel and ball while it is
 * flat, the ball while the heel is up. Does not ask which point is lowest: recordings shake by more than that. Where heel and
 * ball both count, a recorded foot slides by what the stiller of them moves, one that was locked or made by what either does.
 */
export function pivotSlides(
  clip: Clip,
  feet: readonly FootModel[],
  contacts: readonly ClipContact[],
  floor: number,
  feetAre: FeetAre = 'recorded',
): PivotSlide[] {
  const flat = feetAre === 'locked' ? LOCKED_FLAT : FLAT;
  const { skeleton, poses, frames } = clip;
  const size = poseSize(skeleton);
  const world = createWorldPose(skeleton);
  const points = new Float64Array(CONTACT_NUMBERS);
  const angles = new Float64Array(3);
  const looks = new Map(feet.map((foot) => [foot.name, { foot, frame: footFrame(skeleton, foot), only: withAncestors(skeleton, [foot.ankle, foot.toes]) }]));
  return contacts.map((contact) => {
    const { foot, frame, only } = looks.get(contact.foot)!;
    const first = Math.max(0, Math.ceil(contact.from - 1e-6)),
      last = Math.min(frames - 1, Math.floor(contact.to + 1e-6));
    const place = (f: number) => {
      forwardKinematics(skeleton, poses, f * size, world, only);
      contactPoints(foot, world, points, 0);
      soleAngles(world.rotations, foot.ankle * 4, frame.sole, angles, 0);
    };
    place((first + last) >> 1);
    const hangs = Math.min(points[1]!, points[4]!, points[7]!) - floor > OFF_FLOOR;
    const anchors: (Float64Array | null)[] = [null, null, null];
    let metres = 0,
      worstFrame = first,
      ballMoved = 0,
      ballFrame = first;
    const ball = new Float64Array(3);
    for (let f = first; f <= last; f++) {
      place(f);
      if (f === first) ball.set(points.subarray(3, 6));
      const away = Math.hypot(points[3]! - ball[0]!, points[4]! - ball[1]!, points[5]! - ball[2]!);
      if (away > ballMoved) {
        ballMoved = away;
        ballFrame = f;
      }
      const low = Math.min(points[1]!, points[4]!, points[7]!) + PIVOT_EPS_M;
      const stands =
        feetAre === 'made' ? [points[1]! <= low, points[4]! <= low, points[7]! <= low] : [!hangs && angles[1]! > -flat, hangs || angles[1]! < flat, false];
      const moved = stands.flatMap((on, k) => {
        if (!on) {
          // As feet are recorded a heel is told to be up a little late and early: it comes back to where it was.
          if (feetAre !== 'recorded') anchors[k] = null;
          return [];
        }
        const at = k * 3;
        const anchor = (anchors[k] ??= points.slice(at, at + 3));
        return [Math.hypot(points[at]! - anchor[0]!, points[at + 1]! - anchor[1]!, points[at + 2]! - anchor[2]!)];
      });
      if (moved.length === 0) continue;
      // It may already turn about the one while the other still counts: what is still is what it stands on.
      const slid = feetAre === 'recorded' ? Math.min(...moved) : Math.max(...moved);
      if (slid > metres) {
        metres = slid;
        worstFrame = f;
      }
    }
    // On a rung the ball bears whatever way the sole is pitched.
    return ballMoved < metres ? { contact, metres: ballMoved, worstFrame: ballFrame } : { contact, metres, worstFrame };
  });
}
