import { describe, expect, it } from 'vitest';
import { bodyOf } from '../body/body';
import { defaultHandover, handoverSpecSchema, IN_USE, type HandoverSpec } from '../handover/spec';
import { packMotions } from '../handover/pack';
import { EXPORT_FORMATS } from '../formats/format';
import { withoutGone } from '../steps/names';
import { defaultPlan, type PlanSpec } from '../steps/plan';
import { printEditSchema } from '../steps/print-spec';
import { chosenMotions, type Offered } from './chosen';
import { newProjectItems } from './contents';
import { withReferences, type Item } from './kinds';
import { build } from './motion-spec';

/** What the project of a hand-over of version 1 chose, as it was kept then. */
const V1 = {
  format: 'nimbret.handover',
  version: 1,
  name: 'Hand-over',
  rate: 30,
  inPlace: true,
  formats: ['bvh'],
  cycle: true,
  plan: false,
  clips: ['c1'],
  directions: [0, 90],
};

let n = 0;
const items = newProjectItems('p', 'Shore', () => `i${++n}`);
const byKind = <K extends Item['kind']>(kind: K) =>
  Object.fromEntries(items.flatMap((i) => (i.kind === kind ? [[i.id, i.spec]] : []))) as Record<string, Item<K>['spec']>;
const gaits = byKind('gait');
const [walk, run, sneak] = Object.keys(gaits) as [string, string, string];
const bodies = byKind('body');
const marlo = bodyOf(Object.values(bodies)[0]!);

const edit = printEditSchema.parse({ step: 4, along: 0.05, aside: 0, turnDeg: 0, gait: run });
/** A walk whose print has a gait of its own, which begins in another and goes over into a third. */
const rich: PlanSpec = {
  ...defaultPlan(),
  name: 'Rich',
  gait: walk,
  steps: 8,
  opens: { gait: run, phase: 0.2 },
  gaits: [{ at: 3, stretch: 1, gait: sneak }],
  edits: [edit],
};
const offered: Offered = {
  part: {
    body: marlo.spec,
    bodies,
    gaits,
    plans: { plain: { ...defaultPlan(), gait: walk }, rich },
    sets: { set: { ...Object.values(byKind('set'))[0]!, gait: walk, twins: true } },
  },
  body: marlo,
  gait: walk,
  plan: 'plain',
  set: 'set',
};
const none: HandoverSpec = { ...defaultHandover(), gaits: [], walks: [], clips: [], members: [] };

describe('a hand-over chooses', () => {
  it('what it chose in version 1: the gait and the walk in use, directions without twins', () => {
    const now = handoverSpecSchema.parse(V1);
    expect(now).toMatchObject({ version: 2, gaits: [IN_USE], walks: [], clips: ['c1'], rate: 30, inPlace: true, formats: ['bvh'], cycles: 1, contacts: false });
    expect(chosenMotions(now, offered)).toEqual([
      { kind: 'cycle', gait: walk },
      // Ahead is the cycle itself.
      { kind: 'member', set: 'set', directionDeg: 90, twin: false },
    ]);
    expect(chosenMotions(handoverSpecSchema.parse({ ...V1, cycle: false, plan: true, directions: [0] }), { ...offered, plan: 'rich' })).toEqual([
      { kind: 'plan', plan: 'rich' },
      { kind: 'member', set: 'set', directionDeg: 0, twin: false },
    ]);
    // What version 1 refused is refused still.
    for (const broken of [{ cycle: 'yes' }, { directions: 'all' }, { walks: ['x'] }, { members: [] }]) {
      const { success } = handoverSpecSchema.safeParse({ ...V1, ...broken });
      expect([broken, success]).toEqual([broken, 'walks' in broken || 'members' in broken]);
    }
  });

  it('any gaits, walks and members, twins among them, in the order of the project', () => {
    const all = {
      ...none,
      gaits: [sneak, IN_USE, run],
      walks: ['rich', 'plain', 'gone'],
      members: [90, 45].flatMap((directionDeg) => [true, false].map((twin) => ({ directionDeg, twin }))),
    };
    expect(chosenMotions(all, offered)).toEqual([
      ...[walk, run, sneak].map((gait) => ({ kind: 'cycle', gait })),
      ...['plain', 'rich'].map((plan) => ({ kind: 'plan', plan })),
      ...[45, 90].flatMap((directionDeg) => [false, true].map((twin) => ({ kind: 'member', set: 'set', directionDeg, twin }))),
    ]);
  });

  it('items that get new ids when their project is copied', () => {
    const moved = withReferences('asset', { ...none, gaits: [IN_USE, walk], walks: ['plain'], clips: ['c1'] }, (id) => (id === IN_USE ? id : `${id}!`));
    expect([moved.gaits, moved.walks, moved.clips]).toEqual([[IN_USE, `${walk}!`], ['plain!'], ['c1!']]);
  });

  it('walks that change their gait, which are written like any other', async () => {
    const orders = chosenMotions({ ...none, walks: ['rich'] }, offered).map((spec) => () => build(spec, offered.part, { rate: 24 }));
    const [file] = await packMotions(orders, { rate: 24, inPlace: false, formats: EXPORT_FORMATS.slice(0, 1) });
    expect(file!.name).toMatch(/_rich_/);
    expect(file!.check.slideMm.atFrames).toBeLessThan(0.1);
  });

  it('a walk whose gaits are gone by its own, or the one in use', () => {
    const known = (id: string) => id in gaits;
    const gone = { ...rich, gait: 'lost', gaits: [{ at: 3, stretch: 1, gait: 'lost too' }], edits: [] };
    expect(withoutGone(gone, known, run)).toMatchObject({ gait: run, gaits: [{ gait: run }], opens: { gait: run } });
    expect(withoutGone(rich, known, run)).toBe(rich);
  });
});
