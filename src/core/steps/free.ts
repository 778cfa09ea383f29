import { LEFT, RIGHT, type Side } from '../body/roles';
import type { Course } from '../course/course';
import { printedCourse, type Heading } from '../course/printed';
import type { GaitSpec } from '../gait/spec';
import { lerp, toDegrees, toRadians, wrapAngle } from '../math/scalar';
import type { Motion } from '../motion/motion';
import type { FreePrint, FreePrints } from '../schedule/program';
import type { FreePrintsSpec, PrintEditSpec } from './print-spec';

/** Feet walk this many of their breadths apart. */
const APART_BREADTHS = 1.2;

/** The way of the body over prints: beside each, with its neighbours' say in place and heading, so that a foot that steps wide or turned now and then does not drag the body along. */
function bodyWay(feet: readonly (Heading & { readonly side: Side; readonly rests: boolean })[], start: Heading, breadth: number): Heading[] {
  const over = feet.map(({ side, x, z, heading }): Heading => {
    const aside = ((side === LEFT ? -1 : 1) * APART_BREADTHS * breadth) / 2;
    return { x: x + Math.cos(heading) * aside, z: z - Math.sin(heading) * aside, heading };
  });
  return over.map((own, i) => {
    const before = over[i - 1] ?? start;
    // It rests between the feet that stand.
    if (feet[i]!.rests) return between(i > 0 ? feet[i - 1]! : start, feet[i]!, 0.5);
    return between(between(before, over[i + 1]!, 0.5), own, 0.5);
  });
}

function between(a: Heading, b: Heading, part: number): Heading {
  return { x: lerp(a.x, b.x, part), z: lerp(a.z, b.z, part), heading: a.heading + part * wrapAngle(b.heading - a.heading) };
}

const sideOf = (foot: 'left' | 'right'): Side => (foot === 'left' ? LEFT : RIGHT);

/** Free prints with the course that goes by them. */
export function freeWalk({ stands, prints }: FreePrintsSpec, breadth: number, gaitOf: (id: string) => GaitSpec): { course: Course; free: FreePrints } {
  const radians = <P extends { x: number; z: number; headingDeg: number }>(p: P) => ({ ...p, heading: toRadians(p.headingDeg) });
  const standing = [radians(stands.left), radians(stands.right)] as const;
  const feet = prints.map((p) => ({ ...radians(p), side: sideOf(p.foot) }));
  const start = between(standing[0], standing[1], 0.5);
  const { course, at } = printedCourse([start, ...bodyWay(feet, start, breadth)]);
  const free = feet.map((p, i): FreePrint => ({
    side: p.side,
    x: p.x,
    z: p.z,
    heading: p.heading,
    at: at[i + 1]!,
    lands: p.lands,
    rests: p.rests,
    gait: p.gait === null ? null : gaitOf(p.gait),
  }));
  return { course, free: { stands: standing, prints: free } };
}

/** The prints of a walk as they lie now, freed from what made them but for gaits of their own. */
export function freed(motion: Motion, edits: readonly Pick<PrintEditSpec, 'step' | 'gait'>[] = []): FreePrintsSpec {
  const holds = motion.footholds(0, motion.duration);
  const stand = (side: Side) => {
    const { x, z, heading } = holds.find((h) => h.side === side)!;
    return { x, z, headingDeg: toDegrees(heading) };
  };
  const lands = holds.filter((h, i) => h.step > 0 && holds.findIndex((o) => o.step === h.step) === i);
  const rests = (i: number): boolean => i === lands.length - 1 || lands[i]!.rests;
  return {
    stands: { left: stand(LEFT), right: stand(RIGHT) },
    prints: lands.map((h, i) => ({
      foot: h.side === LEFT ? 'left' : 'right',
      x: h.x,
      z: h.z,
      headingDeg: toDegrees(h.heading),
      lands: h.landing,
      rests: rests(i),
      gait: edits.find((e) => e.step === h.step)?.gait ?? null,
    })),
  };
}
