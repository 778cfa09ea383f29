import type { Side } from '../body/roles';
import type { SidedGait } from '../gait/sides';
import { wrapAngle } from '../math/scalar';
import { placePrint, type Print } from './print';
import type { HeldPlace, Program } from './program';

/** Looks for the place of the course beside a held print: so often, until it moves less than this (m). */
const LOOKS = 40;
const CLOSE_M = 1e-10;

/** A print exactly where it is held; `near` m along the course. */
export function heldPrint(program: Program, sided: SidedGait, side: Side, { x, z, heading }: HeldPlace, near: number): Print {
  const at = [0, 0, 0, 0];
  let s = near;
  for (let i = 0; i < LOOKS; i++) {
    program.course.at(s, at, 0);
    const [sin, cos] = [Math.sin(at[2]!), Math.cos(at[2]!)];
    const ahead = (x - at[0]!) * sin + (z - at[1]!) * cos,
      left = (x - at[0]!) * cos - (z - at[1]!) * sin;
    // Inside a bend the course goes farther than the print.
    s += ahead / Math.max(0.3, 1 - at[3]! * left);
    if (Math.abs(ahead) < CLOSE_M) break;
  }
  program.course.at(s, at, 0);
  const onto = (x - at[0]!) * Math.cos(at[2]!) - (z - at[1]!) * Math.sin(at[2]!);
  const plain = placePrint(program, sided, side, s, { aside: 0, turn: 0, onto });
  return heading === null ? plain : placePrint(program, sided, side, s, { aside: 0, turn: wrapAngle(heading - plain.heading), onto });
}
