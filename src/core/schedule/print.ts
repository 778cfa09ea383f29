import type { Side } from '../body/roles';
import { COURSE_NUMBERS } from '../course/course';
import type { SidedGait } from '../gait/sides';
import { solePlane } from '../ground/sole-plane';
import type { Foothold } from './foothold';
import type { Program } from './program';

/** A foothold's place with where the body's support is against the course there. */
export interface Print extends Pick<Foothold, 'x' | 'y' | 'z' | 'heading' | 'slopeX' | 'slopeZ'> {
  /** Arc length on the course, m. */
  readonly s: number;
  /** Place against the course's point at s, m. */
  readonly offsetX: number;
  readonly offsetZ: number;
  /** Height (m) of the foothold's plane at the course's point. */
  readonly level: number;
  /** How far (m) the ground drops away under the sole. */
  readonly gap: number;
}

/** Where a print lies besides its place on the course. */
interface PrintShift {
  readonly aside: number;
  readonly turn: number;
}
const UNMOVED: PrintShift = { aside: 0, turn: 0 };

/** Places the print of a side at arc length s: half the step width to its side of the hips, turned as its foot is. */
export function placePrint(program: Program, { gait, sides }: SidedGait, side: Side, s: number, shift: PrintShift = UNMOVED): Print {
  const { direction, feet } = gait;
  const sign = side === 0 ? 1 : -1;
  const at = [0, 0, 0, 0].slice(0, COURSE_NUMBERS);
  program.course.at(s, at, 0);
  const facing = at[2]! - direction.travel;
  const across = (sign * feet.stepWidth) / 2 + shift.aside;
  const offsetX = Math.cos(facing + direction.hips) * across,
    offsetZ = -Math.sin(facing + direction.hips) * across;
  const x = at[0]! + offsetX,
    z = at[1]! + offsetZ;
  const heading = facing + direction.hips + direction.feet + sign * sides[side].feet.toeOut + shift.turn;
  const { y, slopeX, slopeZ, gap } = solePlane(program.ground, program.body.legs[side].sole, x, z, heading);
  return { s, x, y, z, heading, slopeX, slopeZ, offsetX, offsetZ, gap, level: y - slopeX * offsetX - slopeZ * offsetZ };
}

/** Step (m) and reach (parts of the sole's length) of the search for a place where the whole sole lies flat. */
const SEARCH_STEP_M = 0.005;
const SEARCH_SOLES = 1.5;
/** A drop under the sole smaller than this is none, m. */
const LEVEL_M = 1e-6;

/**
 * The nearest print at or near s that rests wholly on footing: where the ground is in pieces (treads), steps land on pieces.
 * Where none is near the print stays where it was asked for, on its highest supports. Not before `after` m.
 */
export function settlePrint(program: Program, sided: SidedGait, side: Side, s: number, after: number, shift?: PrintShift): Print {
  const rests = (p: Print) => p.gap <= LEVEL_M && program.ground.footing(p.x, p.z);
  const asked = placePrint(program, sided, side, s, shift);
  if (rests(asked)) return asked;
  const { heelBack, tipAhead } = program.body.legs[side].sole;
  const most = Math.ceil((SEARCH_SOLES * (heelBack + tipAhead)) / SEARCH_STEP_M);
  for (let k = 1; k <= most; k++)
    for (const sign of [1, -1]) {
      const place = s + sign * k * SEARCH_STEP_M;
      if (place < after) continue;
      const print = placePrint(program, sided, side, place, shift);
      if (rests(print)) return print;
    }
  return asked;
}
