import type { CourseKnot } from '../course/spec';
import type { GroundFeature } from '../ground/spec';
import { defaultPlan, type PlanSpec } from '../steps/plan';

/** Gaits and bodies of the demo by what its walks call them. */
export interface DemoCast {
  readonly round: string;
  readonly run: string;
  readonly sneak: string;
  readonly plod: string;
  readonly cart: string;
  readonly lamps: string;
  readonly pip: string;
  readonly bosun: string;
}

const at = (id: string, name: string, x: number, z: number, headingDeg = 0) => ({ id, name, x, z, headingDeg });
const start = (x = 0, z = 0): CourseKnot => ({ x, z, by: 'smooth' });
const smooth = (x: number, z: number): CourseKnot => ({ x, z, by: 'smooth' });
const straight = (x: number, z: number, more: Partial<CourseKnot> = {}): CourseKnot => ({ x, z, by: 'straight', ...more });

function walk(name: string, gait: string, knots: CourseKnot[], features: GroundFeature[], more: Partial<PlanSpec> = {}): PlanSpec {
  return { ...defaultPlan(), name, gait, steps: null, course: { knots }, ground: { ...defaultPlan().ground, features }, ...more };
}

/** The walks of the tidal post. All places are made up. */
export function demoWalks(cast: DemoCast): PlanSpec[] {
  return [
    walk(
      'Along the causeway, up the harbour steps',
      cast.lamps,
      [start(), straight(0, 4), smooth(0.7, 6.6), straight(0.7, 14.5)],
      [{ kind: 'stairs', ...at('harbour-steps', 'harbour steps', 0.7, 8.2), riser: 0.17, tread: 0.31, count: 8, breadth: 2.4 }],
      { halts: [{ at: 7, rest: 1.5 }] },
    ),
    walk(
      'Pip’s errand on the run',
      cast.run,
      [
        start(),
        straight(0, 5),
        { x: 1.6, z: 5, by: 'circle' },
        straight(1.6, 3.4),
        { x: 0, z: 3.4, by: 'circle' },
        straight(0, 8),
        { x: -1.6, z: 8, by: 'circle' },
        straight(-1.6, 0),
      ],
      [
        { kind: 'bystander', ...at('bosun', 'Bosun waits', 0.8, 4.3, 180), body: cast.bosun },
        { kind: 'obstacle', ...at('beacon', 'beacon post', -0.8, 7.2), shape: 'disc', length: 0.24, breadth: 0.24, height: 2.2 },
      ],
      { body: cast.pip },
    ),
    walk(
      'Past the terns',
      cast.sneak,
      [start(), smooth(0.2, 1.6), smooth(1.3, 3.2), smooth(0.9, 4.9), smooth(-0.6, 6.4), smooth(0, 8.4)],
      [
        { kind: 'obstacle', ...at('nest-1', 'nest', 0, 3.4), shape: 'disc', length: 0.7, breadth: 0.7, height: 0.18 },
        { kind: 'obstacle', ...at('nest-2', 'nest 2', 0.85, 6.5), shape: 'disc', length: 0.6, breadth: 0.6, height: 0.18 },
        { kind: 'obstacle', ...at('nest-3', 'nest 3', -1.4, 4.8), shape: 'disc', length: 0.8, breadth: 0.8, height: 0.18 },
        { kind: 'rough', ...at('turf', 'turf', 0, -2), length: 14, breadth: 8, amount: 0.04, wave: 2.4, seed: 11 },
      ],
    ),
    walk(
      'Over the stepping stones',
      cast.round,
      [start(), straight(0, 9.5)],
      [
        {
          kind: 'stones',
          ...at('stones', 'stepping stones', 0, 2.6),
          length: 4.6,
          breadth: 4,
          depth: 0.35,
          stones: [0.06, -0.05, 0.08, -0.07, 0.05, -0.06, 0.04].map((x, i) => ({
            x,
            z: 0.4 + 0.62 * i,
            radius: 0.25,
            height: [0, 0.04, -0.02, 0.03, 0.01, -0.03, 0.02][i]!,
          })),
        },
      ],
    ),
    walk(
      'The cart up the shingle bank',
      cast.cart,
      [start(), straight(0, 7.5), { x: 2.2, z: 9.7, by: 'circle' }, straight(5.5, 9.7)],
      [{ kind: 'slope', ...at('bank', 'shingle bank', 0, 2.2), length: 3.6, breadth: 9, angleDeg: 5 }],
    ),
  ];
}
