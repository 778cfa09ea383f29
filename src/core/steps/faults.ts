import type { Foothold, Motion } from '../motion/motion';
import { wrapAngle } from '../math/scalar';
import { footingNear, liesFlat } from './footing-near';
import type { PlanSpec } from './plan';

/** Farthest (legs) from foot to foot that is stepped, besides what is flown between, and the most (rad) one foot turns against the other. */
export const MOST_STEP_LEGS = 1.35;
const MOST_TURN_RAD = (62 * Math.PI) / 180;
/** Highest (legs) a print lies over or under the other foot's that is still a step: two treads of stairs and a little more. Common practice. */
const MOST_RISE_LEGS = 0.55;
/** So far (soles' breadths) a foot may be across the other one's line before they cross, and ahead of it (m) before that is a step. */
const CROSSING_BREADTHS = 0.75;
const BESIDE_M = 0.25;
/** Less than this (m) is not said: it would be told as nothing. */
const LEAST_M = 0.0005;
/** What is wrong with a print, in words, by how much (mm, degrees), and what would do. */
export interface PrintFault {
  readonly step: number;
  readonly side: 0 | 1;
  readonly words: string;
  /** When the print is landed on, s. */
  readonly at: number;
}

/** For so many prints without a place to stand the nearest one is looked for; a walk through a lake has thousands. */
const MOST_SOUGHT = 20;

/** A mark is hit within this, s. */
const ON_TIME_S = 1e-3;

/** Prints of a walk that cannot be stepped as they lie, and marks of its plan that are missed; the figure does the nearest it can. */
export function printFaults({ body, ground, footholds, place, duration }: Motion, plan?: Pick<PlanSpec, 'edits' | 'free' | 'clock'>): PrintFault[] {
  const faults: PrintFault[] = [];
  const [a, b] = [new Float64Array(4), new Float64Array(4)];
  /** How far (m) the body flies from when one foot leaves to when the other lands. */
  const flown = (leaves: number, lands: number): number => {
    if (leaves >= lands) return 0;
    place(leaves, a);
    place(lands, b);
    return Math.hypot(b[0]! - a[0]!, b[2]! - a[2]!);
  };
  const holds = footholds(0, duration);
  const marks = new Map(
    plan && !plan.free && !plan.clock ? plan.edits.flatMap((e) => (e.held && e.held.time !== null ? [[e.step, e.held.time] as const] : [])) : [],
  );
  const last: (Foothold | null)[] = [null, null];
  let before: Foothold | null = null;
  let sought = 0;
  const nearest = (hold: Foothold): string => (sought++ < MOST_SOUGHT ? `; ${footingNear(ground, body.sole, hold)}` : '');
  for (const hold of holds) {
    const { step, side } = hold;
    const say = (words: string) => faults.push({ step, side, words, at: Math.max(0, hold.landing) });
    const other = last[1 - side];
    if (hold.landing > 0 && other) {
      const reach = Math.hypot(hold.x - other.x, hold.z - other.z);
      const most = MOST_STEP_LEGS * body.legLength + flown(other.leaving, hold.landing);
      if (reach - most > LEAST_M) say(`${Math.round((reach - most) * 1000)} mm too far to reach; ${most.toFixed(2)} m at most`);
      const rise = hold.y - other.y;
      if (Math.abs(rise) > MOST_RISE_LEGS * body.legLength)
        say(`${Math.abs(rise).toFixed(2)} m ${rise > 0 ? 'higher' : 'lower'} than the other foot; ${(MOST_RISE_LEGS * body.legLength).toFixed(2)} m at most`);
      const turn = Math.abs(wrapAngle(hold.heading - other.heading));
      if (turn > MOST_TURN_RAD)
        say(`turns ${Math.round((turn * 180) / Math.PI)}° against the other foot; ${Math.round((MOST_TURN_RAD * 180) / Math.PI)}° at most`);
      const dx = hold.x - other.x,
        dz = hold.z - other.z;
      const aside = dx * Math.cos(other.heading) - dz * Math.sin(other.heading),
        ahead = dx * Math.sin(other.heading) + dz * Math.cos(other.heading);
      const crossed = (side === 0 ? -aside : aside) + CROSSING_BREADTHS * body.sole.breadth;
      if (crossed > LEAST_M && Math.abs(ahead) < BESIDE_M)
        say(`crosses the other foot by ${Math.round(crossed * 1000)} mm; so much farther ${side === 0 ? 'left' : 'right'} would do`);
    }
    const late = hold.landing - (marks.get(step) ?? hold.landing);
    if (Math.abs(late) > ON_TIME_S) {
      const kept = (late > 0 ? Math.ceil : Math.floor)(hold.landing * 100) / 100;
      say(`lands ${Math.round(Math.abs(late) * 1000)} ms ${late > 0 ? 'after' : 'before'} its mark; ${kept.toFixed(2)} s would do`);
    }
    // Told once for all steps in a row.
    if (hold.tooFast && !before?.tooFast) say(`asked to go at ${hold.tooFast.asked.toFixed(2)} m/s; ${hold.tooFast.most.toFixed(2)} m/s at most in its gait`);
    before = hold;
    if (!ground.footing(hold.x, hold.z)) say(`no footing here${nearest(hold)}`);
    else if (hold.landing > 0 && !liesFlat(ground, body.sole, hold)) say(`the sole finds no flat place here${nearest(hold)}`);
    last[side] = hold;
  }
  return faults;
}
