import type { Side } from '../body/roles';
import type { SidedGait } from '../gait/sides';
import { solePlane } from '../ground/sole-plane';
import { placePrint, type Print } from './print';
import type { HeldPlace, Program } from './program';

/** Looks for the place of the course beside a held print: so often, until it moves less than this (m). */
const LOOKS = 40;
const CLOSE_M = 1e-10;

/** Place (m) of the course beside which a point lies, near one. */
function besideCourse({ course }: Program, x: number, z: number, near: number): number {
  const at = [0, 0, 0, 0];
  let s = near;
  for (let i = 0; i < LOOKS; i++) {
    course.at(s, at, 0);
    const [sin, cos] = [Math.sin(at[2]!), Math.cos(at[2]!)];
    const ahead = (x - at[0]!) * sin + (z - at[1]!) * cos,
      left = (x - at[0]!) * cos - (z - at[1]!) * sin;
    // Inside a bend the course goes farther than the print.
    s += ahead / Math.max(0.3, 1 - at[3]! * left);
    if (Math.abs(ahead) < CLOSE_M) break;
  }
  return s;
}

/** A print exactly where it is held; `near` m along the course, and turned by `turn` rad where its heading is left to the walk. */
export function heldPrint(program: Program, sided: SidedGait, side: Side, { x, z, heading: asked, at }: HeldPlace, near: number, turn = 0): Print {
  const s = at ?? besideCourse(program, x, z, near);
  const plain = placePrint(program, sided, side, s);
  const heading = asked ?? plain.heading + turn;
  const { y, slopeX, slopeZ, gap } = solePlane(program.ground, program.body.legs[side].sole, x, z, heading, 0);
  const point = [0, 0, 0, 0];
  program.course.at(s, point, 0);
  const carryX = x - point[0]!,
    carryZ = z - point[1]!;
  return { s, x, y, z, heading, slopeX, slopeZ, carryX, carryZ, gap, level: y - slopeX * carryX - slopeZ * carryZ };
}
