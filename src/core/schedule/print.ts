import type { Side } from '../body/roles';
import { COURSE_NUMBERS } from '../course/course';
import type { SidedGait } from '../gait/sides';
import type { GaitSpec } from '../gait/spec';
import { solePlane } from '../ground/sole-plane';
import { lerp, smoothstep, softRamp } from '../math/scalar';
import type { Foothold } from './foothold';
import type { Program } from './program';

/** A foothold's place with where the body's support is against the course there. */
export interface Print extends Pick<Foothold, 'x' | 'y' | 'z' | 'heading' | 'slopeX' | 'slopeZ'> {
  /** Arc length on the course, m. */
  readonly s: number;
  /** Where it carries the body, against the course's point at s, m. */
  readonly carryX: number;
  readonly carryZ: number;
  /** Height (m) of the foothold's plane at the course's point. */
  readonly level: number;
  /** How far (m) the ground drops away under the sole. */
  readonly gap: number;
}

/** The place alone, for a foothold. */
export const placeOf = ({ x, y, z, heading, slopeX, slopeZ }: Print): Pick<Print, 'x' | 'y' | 'z' | 'heading' | 'slopeX' | 'slopeZ'> => ({
  x,
  y,
  z,
  heading,
  slopeX,
  slopeZ,
});

/** Where a print lies besides its place on the course. */
export interface PrintShift {
  /** Metres to the left of where its gait has it, radians to the left. */
  readonly aside: number;
  readonly turn: number;
  /** Place (m) of the foot to the left of the course, instead of half a step width. */
  readonly onto?: number | null;
}
const UNMOVED: PrintShift = { aside: 0, turn: 0 };

/** What stays between feet that pass ahead of each other (parts of the step width), and that close side by side (parts of their breadth); over how much (m) opening sets in. */
const CLOSED_STEP = 0.6;
const CLOSED_BREADTHS = 1.7;
const OPENING_M = 0.03;

/** Distance (m) of the feet across the hips: where the body travels sideways they open and close instead of crossing. */
function stepWidthOf({ direction, feet, timing }: Pick<GaitSpec, 'direction' | 'feet' | 'timing'>, breadth: number): number {
  const aside = Math.abs(Math.sin(direction.travel - direction.hips));
  const ahead = CLOSED_STEP * feet.stepWidth;
  const closed = lerp(ahead, Math.max(ahead, CLOSED_BREADTHS * breadth), smoothstep(0.5, 0.9, aside));
  const needed = (aside * Math.abs(timing.strideLength)) / 2 + closed;
  return feet.stepWidth + softRamp(needed - feet.stepWidth - OPENING_M, OPENING_M);
}

/** Where (x, z, m) a side's print lies by its gait at arc length s, whatever the ground. */
export function printAt(program: Pick<Program, 'course' | 'faces' | 'body'>, { direction, feet, timing }: GaitSpec, side: Side, s: number): [number, number] {
  const at = [0, 0, 0, 0];
  program.course.at(s, at, 0);
  const hips = (program.faces ? program.faces.heading(s) : at[2]! - direction.travel) + direction.hips;
  const across = ((side === 0 ? 1 : -1) * stepWidthOf({ direction, feet, timing }, program.body.sole.breadth)) / 2;
  return [at[0]! + Math.cos(hips) * across, at[1]! - Math.sin(hips) * across];
}

/** How far (m) a foot lands from the other at most in a gait that goes its way steadily, `step` m of it at once. */
export function widestStep(gait: GaitSpec, step: number, breadth: number): number {
  const width = stepWidthOf(gait, breadth);
  return Math.sqrt(step * step + width * width + 2 * step * width * Math.abs(Math.sin(gait.direction.travel - gait.direction.hips)));
}

/**
 * Places the print of a side at arc length s: half the step width to its side of the hips, turned as its foot is. `overhang`
 * m of heel and toes may hang free.
 */
export function placePrint(program: Program, { gait, sides }: SidedGait, side: Side, s: number, shift: PrintShift = UNMOVED, overhang = 0): Print {
  const { direction } = gait;
  const sign = side === 0 ? 1 : -1;
  const at = [0, 0, 0, 0].slice(0, COURSE_NUMBERS);
  program.course.at(s, at, 0);
  const facing = program.faces ? program.faces.heading(s) : at[2]! - direction.travel;
  const onto = shift.onto ?? null;
  const across = (onto ?? (sign * stepWidthOf(gait, program.body.sole.breadth)) / 2) + shift.aside;
  const offsetX = Math.cos(facing + direction.hips) * across,
    offsetZ = -Math.sin(facing + direction.hips) * across;
  const x = at[0]! + offsetX,
    z = at[1]! + offsetZ;
  const heading = facing + direction.hips + direction.feet + sign * sides[side].feet.toeOut + shift.turn;
  const { y, slopeX, slopeZ, gap } = solePlane(program.ground, program.body.legs[side].sole, x, z, heading, overhang);
  // Feet that open and close do not take the body with them from side to side.
  const carried = (onto ?? (sign * gait.feet.stepWidth) / 2) + shift.aside;
  const carryX = Math.cos(facing + direction.hips) * carried,
    carryZ = -Math.sin(facing + direction.hips) * carried;
  return { s, x, y, z, heading, slopeX, slopeZ, carryX, carryZ, gap, level: y - slopeX * offsetX - slopeZ * offsetZ };
}

/** Step (m) and reach (parts of the sole's length) of the search for a place to stand. */
const SEARCH_STEP_M = 0.005;
const SEARCH_SOLES = 1.5;
/** A drop under the sole smaller than this is none, m. */
const LEVEL_M = 1e-6;
/** What of its roughness (m) a ground may have under one sole. */
const ROUGH_SHARE = 0.5;
/** At most so much of a sole hangs over an edge, at heel or toes. */
const MOST_OVERHANG = 0.25;
/** Room (m) ahead of the toes before ground that rises, so that the foot can leave. */
const TOE_ROOM_M = 0.04;
/** Room (m) behind the heel before ground that is higher, so that it does not scrape as it rolls. */
const HEEL_ROOM_M = 0.008;

/**
 * The nearest print at or near s that rests on footing: where the ground is in pieces (treads), steps land on pieces. At most
 * a quarter of the sole hangs over an edge. Where no such place is near the print stays where it was asked for, on its
 * highest supports. Not before `after` m.
 */
export function settlePrint(program: Program, sided: SidedGait, side: Side, s: number, after: number, shift?: PrintShift): Print {
  const asked = placePrint(program, sided, side, s, shift);
  const level = levelOf(program.ground);
  if (asked.gap <= level && rests(program, side, asked)) return asked;
  const { heelBack, tipAhead } = program.body.legs[side].sole;
  const overhang = MOST_OVERHANG * (heelBack + tipAhead);
  const most = Math.ceil((SEARCH_SOLES * (heelBack + tipAhead)) / SEARCH_STEP_M);
  for (let k = 0; k <= most; k++)
    for (const sign of k === 0 ? [1] : [1, -1]) {
      const place = s + sign * k * SEARCH_STEP_M;
      if (place < after) continue;
      const print = placePrint(program, sided, side, place, shift, overhang);
      if (print.gap <= level && rests(program, side, print)) return print;
    }
  return asked;
}

const levelOf = ({ rough }: Program['ground']): number => LEVEL_M + ROUGH_SHARE * (rough ?? 0);

/** Whether a foot may stand there: on footing, with nothing in the way of heel, ball and toes, and room ahead to leave. */
function rests({ ground, body }: Program, side: Side, { x, y, z, heading, slopeX, slopeZ }: Print): boolean {
  if (!ground.footing(x, z)) return false;
  const { heelBack, ballAhead, tipAhead, breadth } = body.legs[side].sole;
  const level = levelOf(ground);
  const sin = Math.sin(heading),
    cos = Math.cos(heading);
  const free = (ahead: number, left: number): boolean => {
    const dx = sin * ahead + cos * left,
      dz = cos * ahead - sin * left;
    return ground.height(x + dx, z + dz) <= y + slopeX * dx + slopeZ * dz + level;
  };
  const heel = -heelBack - HEEL_ROOM_M,
    half = breadth / 2;
  return (
    free(heel, 0.6 * half) && free(heel, -0.6 * half) && free(ballAhead, half) && free(ballAhead, -half) && free(tipAhead, 0) && free(tipAhead + TOE_ROOM_M, 0)
  );
}

/** Feet that pass each other, no more than so far (m) ahead, keep so many breadths of a sole apart; from the second on it is a step ahead. */
const PASSING_M = [0.25, 0.28] as const;
const PASSING_BREADTHS = 0.82;

/** How far (m to the left of the foot that stands) a print has to go to lie on its own side of it; where it is well ahead, `ahead` breadths are enough. */
export function throughLeg(print: Place, side: Side, stands: Place, breadth: number, ahead = -Infinity): number {
  const dx = print.x - stands.x,
    dz = print.z - stands.z;
  const [sin, cos] = [Math.sin(stands.heading), Math.cos(stands.heading)];
  const own = side === 0 ? 1 : -1;
  const apart = own * (dx * cos - dz * sin);
  const room = (breadths: number) => Math.max(0, breadths * breadth - apart);
  return own * lerp(room(PASSING_BREADTHS), room(ahead), smoothstep(...PASSING_M, Math.abs(dx * sin + dz * cos)));
}
type Place = Pick<Print, 'x' | 'z' | 'heading'>;
