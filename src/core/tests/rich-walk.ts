import type { GaitSpec } from '../gait/spec';
import { defaultPlan, type PlanSpec } from '../steps/plan';

/** Ids by which the walk below calls its gaits and the body that stands beside its way. */
export interface RichCast {
  readonly walk: string;
  readonly run: string;
  readonly sneak: string;
  readonly bystander: string;
}

const at = (id: string, x: number, z: number, headingDeg = 0) => ({ id, name: id, x, z, headingDeg });

/**
 * A bent walk of about forty prints with everything in it: stairs, stones, an obstacle, a bystander, a place that is faced, three
 * gaits, a rest, a pace. What is dragged in it is to be seen at once.
 */
export const richWalk = ({ walk, run, sneak, bystander }: RichCast): PlanSpec => ({
  ...defaultPlan(),
  name: 'Everything',
  gait: walk,
  steps: null,
  course: {
    knots: [
      { x: 0, z: 0, by: 'smooth' },
      { x: 0, z: 5, by: 'straight' },
      { x: 2.5, z: 9, by: 'smooth' },
      { x: 2.5, z: 17, by: 'straight' },
      { x: 0.5, z: 22, by: 'smooth' },
      { x: 0.5, z: 28, by: 'straight' },
    ],
  },
  facing: { kind: 'point', x: 14, z: 40 },
  ground: {
    ...defaultPlan().ground,
    features: [
      { kind: 'stairs', ...at('steps', 2.5, 11), riser: 0.15, tread: 0.32, count: 5, breadth: 2 },
      {
        kind: 'stones',
        ...at('stones', 0.5, 23.5),
        length: 3.2,
        breadth: 2,
        depth: 0.5,
        stones: Array.from({ length: 6 }, (_, i) => ({ x: i % 2 ? -0.16 : 0.16, z: 0.3 + i * 0.52, radius: 0.24, height: 0.02 })),
      },
      { kind: 'obstacle', ...at('post', 1.1, 4), shape: 'disc', length: 0.3, breadth: 0.3, height: 1.2 },
      { kind: 'bystander', ...at('waits', -0.9, 3, 90), body: bystander },
    ],
  },
  gaits: [
    { at: 6, stretch: 1.5, gait: run },
    { at: 10, stretch: 1.2, gait: walk },
    { at: 18, stretch: 1.2, gait: sneak },
  ],
  pace: {
    over: 'distance',
    keys: [
      { at: 0, value: 1.3, next: 'smooth' },
      { at: 7, value: 2.4, next: 'smooth' },
      { at: 11, value: 1.1, next: 'smooth' },
    ],
  },
  halts: [{ at: 4.5, rest: 1.2 }],
});

/** The same cast as gaits by id. */
export const richGaits = (presets: (key: string) => GaitSpec): Record<string, GaitSpec> => ({
  walk: presets('walk'),
  run: presets('run'),
  sneak: presets('sneak'),
});
