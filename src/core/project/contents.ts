import { createBody } from '../body/body';
import { SHIPPED_BODIES, type BodySpec } from '../body/spec';
import { defaultSet } from '../directions/spec';
import { fitGait } from '../gait/fit';
import { findPreset } from '../gait/presets';
import type { GaitSpec } from '../gait/spec';
import { defaultHandover } from '../handover/spec';
import type { ClipSpec } from '../travel/clip-spec';
import { defaultPlan, type PlanSpec } from '../steps/plan';
import { demoWalks } from './demo-walks';
import { ITEM_KINDS, KINDS, type Item, type ItemKind, type SpecByKind } from './kinds';

type NewItem = { [K in ItemKind]: Pick<Item<K>, 'id' | 'kind' | 'spec'> }[ItemKind];

/** Gaits a new project starts with; all others are in the library. */
const STARTING = ['walk', 'run', 'sneak'];

/** Items of a new project; ids come from `newId`. The first item is the project itself, with id `projectId`. */
export function newProjectItems(projectId: string, name: string, newId: () => string): NewItem[] {
  return assemble(
    projectId,
    name,
    newId,
    [SHIPPED_BODIES.marlo, SHIPPED_BODIES.pip, SHIPPED_BODIES.bosun],
    STARTING.map((key) => findPreset(key)!.make()),
  );
}

/** The demo: the mail service of a tidal island. All made up. */
export function demoProjectItems(projectId: string, newId: () => string, clip: ClipSpec | null = null): NewItem[] {
  const named = (key: string, title: string, about?: string, change: (g: GaitSpec) => void = () => {}): GaitSpec => {
    const gait = findPreset(key)!.make();
    gait.name = title;
    if (about) gait.about = about;
    change(gait);
    return gait;
  };
  const gaits = [
    named('walk', 'Marlo’s round'),
    named('run', 'Ahead of the tide'),
    named('sneak', 'Past the terns'),
    named('plod', 'Bosun’s heavy plod'),
    named('skip', 'Pip’s skip'),
    named('walk', 'The mail cart', 'Both hands on the handle of the mail cart, leaning into it.', (g) => {
      g.carry = 'cart';
      g.tags = ['walk', 'prop'];
      g.trunk.lean.offset = 0.14;
      g.trunk.counterTurn.amount = 0.03;
      g.trunk.sideLean.amount = 0.01;
      g.head.nod.offset = -0.04;
    }),
    named('stroll', 'Lighting the lamps', 'A stroll with the lantern in the right hand, looking out for the next lamp.', (g) => {
      g.carry = 'lanternRight';
      g.tags = ['walk', 'prop'];
      g.right['arms.swing'] = { offset: 0.5, amount: 0.1, delay: 0 };
      g.right['arms.elbow'] = { offset: 1.25, amount: 0.05, delay: 0 };
      g.right['arms.out'] = { offset: 0.35, amount: 0, delay: 0 };
    }),
  ];
  const items = assemble(
    projectId,
    'The tidal post',
    newId,
    [SHIPPED_BODIES.marlo, SHIPPED_BODIES.pip, SHIPPED_BODIES.bosun],
    gaits,
    ([, pip, bosun], [round, run, sneak, plod, , cart, lamps]) =>
      demoWalks({ round: round!, run: run!, sneak: sneak!, plod: plod!, cart: cart!, lamps: lamps!, pip: pip!, bosun: bosun! }),
  );
  return clip ? [...items, { id: newId(), kind: 'clip', spec: clip }] : items;
}

function assemble(
  projectId: string,
  name: string,
  newId: () => string,
  bodies: readonly BodySpec[],
  gaits: readonly GaitSpec[],
  walks: (bodies: readonly string[], gaits: readonly string[]) => readonly PlanSpec[] = (_, ids) => [{ ...defaultPlan(), gait: ids[0]! }],
): NewItem[] {
  const item = <K extends ItemKind>(kind: K, spec: SpecByKind[K]) => ({ id: newId(), kind, spec }) as NewItem;
  const legs = createBody(bodies[0]!).legLength;
  const bodyItems = bodies.map((b) => item('body', b));
  const gaitItems = gaits.map((g) => item('gait', fitGait(g, legs)));
  const gait = gaitItems[0]!.id;
  return [
    { id: projectId, kind: 'project', spec: { format: 'nimbret.project', version: 1, name, body: bodyItems[0]!.id, gait } },
    ...bodyItems,
    ...gaitItems,
    ...walks(
      bodyItems.map((b) => b.id),
      gaitItems.map((g) => g.id),
    ).map((plan) => item('plan', plan)),
    item('set', { ...defaultSet(), gait }),
    item('asset', defaultHandover()),
  ];
}

/**
 * Items with those put in that a project cannot do without and that are not there, at version 0: they are stored when they
 * are first changed. A project that lost its last gait by whatever way opens all the same.
 */
export function withMissing(items: readonly Item[], newId: () => string): Item[] {
  const lost = ITEM_KINDS.filter((kind) => kind !== 'project' && !KINDS[kind].none && !items.some((i) => i.kind === kind));
  if (lost.length === 0) return [...items];
  const fresh = newProjectItems('none', 'none', newId).filter((i, at, all) => lost.includes(i.kind) && all.findIndex((o) => o.kind === i.kind) === at);
  const all: Item[] = [...items, ...fresh.map((i) => ({ ...i, version: 0 }) as Item)];
  return ITEM_KINDS.flatMap((kind) => all.filter((i) => i.kind === kind));
}
