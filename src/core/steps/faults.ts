import type { Foothold, Motion } from '../motion/motion';
import { toDegrees, wrapAngle } from '../math/scalar';
import { footingNear, liesFlat } from './footing-near';

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
  /** Whether nobody could step it as it lies; what comes later, or goes slower, than was asked can be stepped. */
  readonly cannot: boolean;
}

/** For so many prints without a place to stand the nearest one is looked for; a walk through a lake has thousands. */
const MOST_SOUGHT = 20;

/** A mark is hit within this, s. */
const ON_TIME_S = 1e-3;

/** Prints of a walk that cannot be stepped as they lie, or as quick, and marks that are missed; the figure does the nearest it can. */
export function printFaults(motion: Motion): PrintFault[] {
  const { body, ground, duration } = motion;
  const faults: PrintFault[] = [];
  const last: (Foothold | null)[] = [null, null];
  let before: Foothold | null = null;
  let sought = 0;
  const nearest = (hold: Foothold): string => (sought++ < MOST_SOUGHT ? `; ${footingNear(ground, body.sole, hold)}` : '');
  for (const hold of motion.footholds(0, duration)) {
    const { step, side } = hold;
    const say = (words: string, cannot = true) => faults.push({ step, side, words, at: Math.max(0, hold.landing), cannot });
    const other = last[1 - side];
    if (hold.landing > 0 && other) for (const words of stepFaults(motion, hold, other)) say(words);
    // What comes late all through, and where it goes too fast, is told once for all steps in a row.
    const late = lateBy(hold);
    if (Math.abs(late) > ON_TIME_S && Math.abs(late - (before ? lateBy(before) : 0)) > ON_TIME_S) say(missedWords(hold.landing, late), false);
    if (hold.tooFast && !before?.tooFast)
      say(`asked to go at ${hold.tooFast.asked.toFixed(2)} m/s; ${hold.tooFast.most.toFixed(2)} m/s at most in its gait`, false);
    if (!ground.footing(hold.x, hold.z)) say(`no footing here${nearest(hold)}`);
    else if (hold.landing > 0 && !liesFlat(ground, body.sole, hold)) say(`the sole finds no flat place here${nearest(hold)}`);
    before = last[side] = hold;
  }
  return faults;
}

/** What is wrong with a step from one foot's print to the other's: too far, high, turned, or through the other leg. */
function stepFaults({ body, place }: Motion, hold: Foothold, other: Foothold): string[] {
  const words: string[] = [];
  const dx = hold.x - other.x,
    dz = hold.z - other.z;
  const reach = Math.hypot(dx, dz);
  const most = MOST_STEP_LEGS * body.legLength + flownBetween(place, other.leaving, hold.landing);
  if (reach - most > LEAST_M) words.push(`${Math.round((reach - most) * 1000)} mm too far to reach; ${most.toFixed(2)} m at most`);
  const rise = hold.y - other.y;
  const highest = MOST_RISE_LEGS * body.legLength;
  if (Math.abs(rise) > highest)
    words.push(`${Math.abs(rise).toFixed(2)} m ${rise > 0 ? 'higher' : 'lower'} than the other foot; ${highest.toFixed(2)} m at most`);
  const turn = Math.abs(wrapAngle(hold.heading - other.heading));
  if (turn > MOST_TURN_RAD) words.push(`turns ${toDegrees(turn).toFixed(0)}° against the other foot; ${toDegrees(MOST_TURN_RAD).toFixed(0)}° at most`);
  const [sin, cos] = [Math.sin(other.heading), Math.cos(other.heading)];
  const crossed = (hold.side === 0 ? -1 : 1) * (dx * cos - dz * sin) + CROSSING_BREADTHS * body.sole.breadth;
  if (crossed > LEAST_M && Math.abs(dx * sin + dz * cos) < BESIDE_M)
    words.push(`crosses the other foot by ${Math.round(crossed * 1000)} mm; so much farther ${hold.side === 0 ? 'left' : 'right'} would do`);
  return words;
}

/** How far (m) the body flies from when one foot leaves to when the other lands. */
function flownBetween(place: Motion['place'], leaves: number, lands: number): number {
  if (leaves >= lands) return 0;
  const [a, b] = [new Float64Array(4), new Float64Array(4)];
  place(leaves, a);
  place(lands, b);
  return Math.hypot(b[0]! - a[0]!, b[2]! - a[2]!);
}

/** By how much (s) a print is landed on after its mark; 0 where it has none. */
const lateBy = ({ landing, mark }: Foothold): number => landing - (mark ?? landing);

/** A mark that is missed, and the nearest hundredth of a second that is not. */
function missedWords(landing: number, late: number): string {
  const kept = (late > 0 ? Math.ceil : Math.floor)(landing * 100) / 100;
  return `lands ${Math.round(Math.abs(late) * 1000)} ms ${late > 0 ? 'after' : 'before'} its mark; ${kept.toFixed(2)} s would do`;
}
