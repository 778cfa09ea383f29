import { createBody } from '../body/body';
import { SHIPPED_BODIES, type BodySpec } from '../body/spec';
import { defaultSet } from '../directions/spec';
import { fitGait } from '../gait/fit';
import { PRESETS, findPreset } from '../gait/presets';
import type { GaitSpec } from '../gait/spec';
import { follow } from '../gait/timing';
import { defaultHandover } from '../handover/spec';
import { defaultPlan } from '../steps/plan';
import type { Item, ItemKind, SpecByKind } from './items';

type NewItem = { [K in ItemKind]: Pick<Item<K>, 'id' | 'kind' | 'spec'> }[ItemKind];

/** Items of a new project; ids come from `newId`. The first item is the project itself, with id `projectId`. */
export function newProjectItems(projectId: string, name: string, newId: () => string): NewItem[] {
  return assemble(
    projectId,
    name,
    newId,
    [SHIPPED_BODIES.marlo, SHIPPED_BODIES.pip, SHIPPED_BODIES.bosun],
    PRESETS.map((p) => p.make()),
  );
}

/** The demo: the mail service of a tidal island. All made up. */
export function demoProjectItems(projectId: string, newId: () => string): NewItem[] {
  const named = (key: string, title: string, change: (g: GaitSpec) => void = () => {}): GaitSpec => {
    const gait = findPreset(key)!.make();
    gait.name = title;
    change(gait);
    follow(gait.timing, 'speed');
    return gait;
  };
  const gaits = [
    named('walk', 'Marlo’s round'),
    named('run', 'Ahead of the tide'),
    named('sneak', 'Past the terns'),
    named('walk', 'Bosun’s heavy plod', (g) => {
      Object.assign(g.timing, { strideLength: 1.14, strideTime: 1.25, dutyFactor: 0.67 });
      Object.assign(g.feet, { stepWidth: 0.17, toeOut: 0.24, landingPitch: 0.16, liftOffPitch: 0.85, swingOut: 0.03 });
      Object.assign(g.hips, { crouch: 0.035, sway: 1.7 });
      g.trunk.lean.offset = 0.12;
      g.trunk.sideLean.amount = 0.06;
      g.arms.out.offset = 0.3;
      g.arms.swing.amount = 0.24;
    }),
    named('run', 'Pip’s errand trot', (g) => {
      Object.assign(g.timing, { strideLength: 1.6, strideTime: 0.7, dutyFactor: 0.4 });
      g.feet.lift = 0.12;
      g.arms.swing.amount = 0.8;
    }),
  ];
  return assemble(projectId, 'The tidal post', newId, [SHIPPED_BODIES.marlo, SHIPPED_BODIES.pip, SHIPPED_BODIES.bosun], gaits);
}

function assemble(projectId: string, name: string, newId: () => string, bodies: readonly BodySpec[], gaits: readonly GaitSpec[]): NewItem[] {
  const item = <K extends ItemKind>(kind: K, spec: SpecByKind[K]) => ({ id: newId(), kind, spec }) as NewItem;
  const legs = createBody(bodies[0]!).legLength;
  const bodyItems = bodies.map((b) => item('body', b));
  const gaitItems = gaits.map((g) => item('gait', fitGait(g, legs)));
  const gait = gaitItems[0]!.id;
  return [
    { id: projectId, kind: 'project', spec: { format: 'nimbret.project', version: 1, name, body: bodyItems[0]!.id, gait } },
    ...bodyItems,
    ...gaitItems,
    item('plan', { ...defaultPlan(), gait }),
    item('set', { ...defaultSet(), gait }),
    item('asset', defaultHandover()),
  ];
}
