import { layFree } from './free-layout';
import type { LaidWalk } from './laid';
import { layWalk } from './layout';
import type { Print } from './print';
import type { Program } from './program';
import { stepEdits, type Shift } from './step-edits';
import { walkContacts, type WalkContact } from './walk-contacts';

/** Times (s) met this closely are met; a walk whose pace depends on its times is laid out anew so often until they are. */
const CLOSE_S = 1e-7;
const ROUNDS = 5;

/** Lays a walk out and sets its contacts, held prints where and when they are held; neighbours share what that takes. */
export function layHeld(program: Program, standing: number): { laid: LaidWalk; contacts: readonly WalkContact[] } {
  if (program.free) {
    const laid = layFree(program, standing);
    return { laid, contacts: walkContacts(program, laid, stepEdits({ edits: [], gaits: program.gaits })) };
  }
  const held = program.edits.filter((e) => e.held);
  const free = { ...program, edits: program.edits.map((e) => ({ ...e, held: null })) };
  const shifts = new Map<number, Shift>();
  for (let round = 0; ; round++) {
    const edits = stepEdits(program, shifts);
    const laid = layWalk(program, standing, edits);
    const contacts = walkContacts(program, laid, edits);
    if (held.length === 0 || round === ROUNDS) return { laid, contacts };
    // Where the prints would lie were they not held.
    const loose = round === 0 ? walkContacts(free, laid, edits) : [];
    let most = round === 0 ? Infinity : 0;
    for (const { step, held: place } of held) {
      const own = contacts.find((c) => c.step === step);
      if (!own) continue;
      const was = shifts.get(step);
      const later = place!.time === null ? 0 : place!.time - own.landing;
      const from = loose.find((c) => c.step === step && c.beat === own.beat);
      const away = was ?? (from ? { ...awayFrom(program, from.print, own.print), turn: 0, later: 0 } : { along: 0, aside: 0, turn: 0, later: 0 });
      shifts.set(step, { ...away, later: away.later + later });
      most = Math.max(most, Math.abs(later));
    }
    if (most < CLOSE_S) return { laid, contacts };
  }
}

/** How far (m) one print lies from another along the course and to its left. */
function awayFrom({ course }: Program, from: Print, to: Print): { along: number; aside: number } {
  const at = [0, 0, 0, 0];
  course.at(to.s, at, 0);
  const across = (p: Print) => p.carryX * Math.cos(at[2]!) - p.carryZ * Math.sin(at[2]!);
  return { along: to.s - from.s, aside: across(to) - across(from) };
}
