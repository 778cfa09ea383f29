import { expect, it } from 'vitest';
import { presetFor, shippedBody } from '../tests/cast';
import { richGaits, richWalk } from '../tests/rich-walk';
import { build } from '../project/motion-spec';
import { draftedHolds } from './drafted';
import { holdPrint, movePrint } from './edit-prints';
import { freed } from './free';
import type { PlanSpec } from './plan';

const body = shippedBody('marlo');
const gaits = richGaits((key) => presetFor(key, body));
const walk = (plan: PlanSpec) => build({ kind: 'plan', plan: 'plan' }, { body: body.spec, bodies: {}, gaits, plans: { plan }, sets: {} }).motion;
const plain: PlanSpec = { ...richWalk({ walk: 'walk', run: 'run', sneak: 'sneak', bystander: 'pip' }), facing: null };

/** Where step 6 is drawn after it was dragged, beside where the walk has it once it is planned anew. */
function dragged(was: PlanSpec) {
  const motion = walk(was);
  const is = structuredClone(was);
  const holds = motion.footholds(0, motion.duration);
  const place = new Float64Array(4);
  const heading = (t: number) => {
    motion.place(t, place);
    return place[3]!;
  };
  movePrint(is, was, 6, { x: 0.06, z: -0.04, turnDeg: 8 }, heading(holds.find((h) => h.step === 6)!.landing));
  const drawn = draftedHolds(holds, was, is, heading);
  const then = walk(is).footholds(0, 600);
  const own = (all: typeof holds) => all.filter((h) => h.step === 6).map((h) => [h.x, h.z, h.heading]);
  return { drawn: own(drawn), then: own(then), others: [drawn, holds].map((all) => all.filter((h) => h.step !== 6)) };
}

it.each([
  ['moved along its course', plain],
  [
    'held by a mark',
    (() => {
      const plan = structuredClone(plain);
      const motion = walk(plan);
      holdPrint(
        plan,
        motion.footholds(0, 99).find((h) => h.step === 6)!,
      );
      return plan;
    })(),
  ],
  ['free of its course', { ...plain, free: freed(walk(plain), []) }],
])('a print that is dragged is drawn where the walk will have it: %s', (_, was) => {
  const { drawn, then, others } = dragged(was);
  drawn[0]!.forEach((v, k) => expect(v).toBeCloseTo(then[0]![k]!, 2));
  expect(others[0]).toEqual(others[1]);
});

it('what was not touched stays the same list', () => {
  const holds = walk(plain).footholds(0, 60);
  expect(draftedHolds(holds, plain, { ...plain }, () => 0)).toBe(holds);
});
