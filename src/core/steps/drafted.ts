import { toRadians } from '../math/scalar';
import type { Foothold } from '../motion/motion';
import type { PlanSpec } from './plan';
import type { PrintEditSpec } from './print-spec';

type Prints = Pick<PlanSpec, 'edits' | 'free'>;

/**
 * Footholds of a walk planned as `was`, those moved by hand since where `is` has them: what is dragged is drawn at once, the walk
 * follows. `headingAt` tells the course's heading (rad) at a time, along which edits are told.
 */
export function draftedHolds(holds: readonly Foothold[], was: Prints, is: Prints, headingAt: (t: number) => number): readonly Foothold[] {
  if (was.edits === is.edits && was.free === is.free) return holds;
  const before = new Map(was.edits.map((e) => [e.step, e])),
    now = new Map(is.edits.map((e) => [e.step, e]));
  return holds.map((hold) => {
    if (hold.step < 1) return hold;
    if (was.free && is.free) return freed(hold, was.free.prints[hold.step - 1], is.free.prints[hold.step - 1]);
    return was.free || is.free ? hold : edited(hold, before.get(hold.step), now.get(hold.step), headingAt);
  });
}

type FreePrint = NonNullable<PlanSpec['free']>['prints'][number];

function freed(hold: Foothold, was: FreePrint | undefined, is: FreePrint | undefined): Foothold {
  if (!was || !is || was === is || SIDE[is.foot] !== hold.side) return hold;
  return { ...hold, x: hold.x + is.x - was.x, z: hold.z + is.z - was.z, heading: hold.heading + toRadians(is.headingDeg - was.headingDeg) };
}
const SIDE = { left: 0, right: 1 } as const;

function edited(hold: Foothold, was: PrintEditSpec | undefined, is: PrintEditSpec | undefined, headingAt: (t: number) => number): Foothold {
  if (was === is) return hold;
  const turn = toRadians((is?.turnDeg ?? 0) - (was?.turnDeg ?? 0));
  const mark = is?.held;
  if (mark) return { ...hold, x: mark.x, z: mark.z, heading: mark.headingDeg === null ? hold.heading + turn : toRadians(mark.headingDeg) };
  const along = (is?.along ?? 0) - (was?.along ?? 0),
    aside = (is?.aside ?? 0) - (was?.aside ?? 0);
  const h = headingAt(hold.landing);
  const [sin, cos] = [Math.sin(h), Math.cos(h)];
  return { ...hold, x: hold.x + along * sin + aside * cos, z: hold.z + along * cos - aside * sin, heading: hold.heading + turn };
}
