import type { GroundFeature } from '../ground/spec';
import { seeded } from '../math/random';
import { defaultPlan, type PlanSpec, type TrackSpec } from '../steps/plan';
import { plainPrintEdit } from '../steps/print-spec';
import type { GaitSpec } from '../gait/spec';

/** A walk drawn by a seed: course, ground, tracks and edits of every kind, for gaits of the given keys. */
export function randomWalk(seed: number, gaits: readonly string[], gaitOf: (key: string) => GaitSpec): { readonly plan: PlanSpec; readonly rough: boolean } {
  const random = seeded(seed);
  const between = (a: number, b: number) => a + (b - a) * random();
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const gait = one(gaits);
  const v = gaitOf(gait).timing.speed;
  let [x, z, heading] = [0, 0, 0];
  const knots: PlanSpec['course']['knots'] = [{ x: 0, z: 0, by: 'smooth' }];
  const pieces = 1 + Math.floor(random() * 3);
  for (let i = 0; i < pieces; i++) {
    heading += between(-0.7, 0.7);
    const long = between(2, 5);
    x += Math.sin(heading) * long;
    z += Math.cos(heading) * long;
    knots.push({ x, z, by: one(['smooth', 'straight', 'circle'] as const), ...(random() < 0.15 ? { turnDeg: between(-180, 180) } : {}) });
  }
  const at = { id: 'f', name: 'f', x: between(-1, 1), z: between(1, 3), headingDeg: between(-15, 15) };
  const features: GroundFeature[] = [];
  const kind = random();
  if (kind < 0.2) features.push({ kind: 'slope', ...at, length: between(1, 20), breadth: 40, angleDeg: between(-12, 12) });
  else if (kind < 0.35)
    features.push({ kind: 'rough', ...at, z: -10, x: 0, headingDeg: 0, length: 40, breadth: 40, amount: between(0.01, 0.04), wave: between(2, 4), seed });
  else if (kind < 0.45)
    features.push({
      kind: 'stairs',
      ...at,
      x: 0,
      headingDeg: 0,
      riser: between(0.12, 0.18) * one([1, -1]),
      tread: between(0.27, 0.34),
      count: 3 + Math.floor(random() * 5),
      breadth: 40,
    });
  const track = (least: number, most: number, over: TrackSpec['over']): TrackSpec => ({
    over,
    keys: Array.from({ length: 1 + Math.floor(random() * 3) }, (_, i) => ({
      at: i * between(1.5, 2),
      value: between(least, most),
      next: one(['held', 'linear', 'smooth'] as const),
    })),
  });
  /** A change of one step's time, gait or count; steps from 7 on, so that no step has two. */
  let nextStep = 7;
  const randomEdit = () => {
    const edit = plainPrintEdit(nextStep++);
    const what = random();
    if (what < 0.25) edit.later = between(-0.15, 0.2);
    else if (what < 0.45) edit.longer = between(0, 0.5);
    else if (what < 0.6) edit.tempo = between(0.8, 1.6);
    else if (what < 0.75) edit.gait = one(gaits);
    else if (what < 0.9) edit.added = true;
    else edit.leftOut = 1;
    return edit;
  };
  const maybe = <T>(share: number, made: () => T): T | null => (random() < share ? made() : null);
  const plan: PlanSpec = {
    ...defaultPlan(),
    name: `walk ${seed}`,
    gait,
    steps: maybe(0.4, () => 2 + Math.floor(random() * 9)),
    firstFoot: one(['left', 'right'] as const),
    course: { knots },
    ground: { ...defaultPlan().ground, features },
    gaits: random() < 0.2 ? [{ at: between(1, 3), stretch: between(0.5, 2), gait: one(gaits) }] : [],
    pace: maybe(0.3, () => track(0.5 * v, 1.2 * v, one(['time', 'distance'] as const))),
    lengthShare: random(),
    halts: random() < 0.2 ? [{ at: between(1, 3), rest: between(0.3, 2) }] : [],
    amount: maybe(0.2, () => track(0, 1, 'time')),
    belt: maybe(0.1, () => track(-1, 1, 'time')),
    clock: maybe(0.1, () => track(0.3, 1.2, 'time')),
    edits:
      random() < 0.3
        ? [{ ...plainPrintEdit(1 + Math.floor(random() * 6)), along: between(-0.12, 0.12), aside: between(-0.06, 0.06), turnDeg: between(-15, 15) }]
        : [],
    lean: between(0, 1.5),
    settle: between(0, 2),
    standing: between(1, 2),
  };
  for (let i = random() < 0.5 ? Math.floor(random() * 3) : 0; i > 0; i--) plan.edits.push(randomEdit());
  if (random() < 0.15)
    plan.facing = random() < 0.5 ? { kind: 'held', headingDeg: between(-180, 180) } : { kind: 'point', x: between(-4, 4), z: between(-2, 8) };
  return { plan, rough: kind >= 0.2 && kind < 0.35 };
}
