import { composePlacement, createPlacement, inversePlacement, type Placement } from '../math/placement';
import type { Motion } from './motion';
import { placed } from './placed';

/** The part of a motion that is shown beside another: all in the shown one's time and place. */
export interface Shown extends Pick<Motion, 'body' | 'pose' | 'place' | 'duration' | 'repeat'> {
  /** Footholds the two are tied at: the shown one's and this one's. */
  readonly tie?: readonly [Placement, Placement];
}

/**
 * A motion in another's time and place: what it does at `at` (s) is done at `onto`, so many times as fast, moved by `by`. It
 * goes on for ever where it repeats; else it stands before its beginning and past its end.
 */
function retimed(motion: Motion, by: Placement, at: number, onto: number, rate: number): Shown {
  const { body, duration, repeat, pose, place } = placed(motion, by);
  const own = (t: number): number => {
    const u = at + (t - onto) * rate;
    return repeat ? u : Math.min(duration, Math.max(0, u));
  };
  return {
    body,
    duration: Math.max(0, onto + (duration - at) / rate),
    repeat,
    pose: (t, out, o) => pose(own(t), out, o),
    place: (t, out) => place(own(t), out),
  };
}

/** What takes one placement to another. */
function betweenPlacements(from: Placement, to: Placement): Placement {
  const out = createPlacement();
  inversePlacement(out, 0, from, 0);
  composePlacement(out, 0, to, 0, out, 0);
  return out;
}

/** A landing of a foot: when (s), where its foothold lies, and where the root is then. */
interface Landing {
  readonly at: number;
  readonly hold: Placement;
  readonly root: Placement;
}

/** The landing of a foot that comes next from a time on, or else its last one; null where it never lands. */
function landingOf(motion: Motion, side: 0 | 1, from: number): Landing | null {
  const span = motion.repeat ? 2 * motion.duration : Infinity;
  const own = motion.footholds(motion.repeat ? from : 0, motion.repeat ? from + span : motion.duration).filter((h) => h.side === side);
  const hold = own.find((h) => h.landing >= from - 1e-6) ?? own.at(-1);
  if (!hold) return null;
  const at = Math.max(hold.landing, motion.repeat ? -Infinity : 0);
  const root = createPlacement();
  motion.place(at, root);
  return { at, hold: createPlacement(hold.x, 0, hold.z, hold.heading), root };
}

/** How two motions are shown together: laid over each other at a landing of a foot, or side by side in step. */
export const LAID = ['left', 'right', 'inStep'] as const;
export type Laid = (typeof LAID)[number];

/** Room (m) between two figures side by side. */
const APART_M = 0.9;

/**
 * Another motion as it is shown together with one that is looked at, tied at their landings next after `from` (s): laid over it,
 * or to its left and in step, stride for stride. Null where one of them never lands.
 */
export function laidMotion(shown: Motion, other: Motion, laid: Laid, from = 0): Shown | null {
  const side = laid === 'right' ? 1 : 0;
  const a = landingOf(shown, side, from),
    b = landingOf(other, side, 0);
  if (!a || !b) return null;
  if (laid !== 'inStep') return retimed(other, betweenPlacements(b.hold, a.hold), b.at, a.at, 1);
  const beside = createPlacement();
  composePlacement(beside, 0, a.root, 0, createPlacement(APART_M, 0, 0, 0), 0);
  const by = betweenPlacements(b.root, beside);
  const tied = createPlacement();
  composePlacement(tied, 0, by, 0, b.hold, 0);
  return { ...retimed(other, by, b.at, a.at, other.strideTime / shown.strideTime), tie: [a.hold, tied] };
}
