import { describe, expect, it, vi } from 'vitest';
import { bodyOf } from '@/core/body/body';
import { newProjectItems } from '@/core/project/contents';
import type { Item } from '@/core/project/kinds';
import { soleItem, specOf } from '../document/context';
import { bodySpecOf, gaitIdOf, gaitNow, planIdOf } from '../document/selectors';
import { createDocument, undo } from '../document/store';
import { Clock } from '../stage/clock';
import { createSession } from '../stage/session';
import { answersTo } from './sayings';
import { sayingsOf, type Speech } from './vocabulary';

let n = 0;
const items = newProjectItems('project-1', 'Test', () => `id-${++n}`).map((i) => ({ ...i, version: 1 })) as Item[];

function room() {
  const store = createDocument(items);
  const session = createSession();
  const open = vi.fn<(station: string) => void>();
  const s = store.getState();
  const set = soleItem(s, 'set');
  const speech: Speech = {
    store,
    session,
    open,
    clock: new Clock(session),
    motion: { duration: 1, endless: true } as Speech['motion'],
    showSheet: () => undefined,
    offered: {
      part: {
        body: bodySpecOf(s),
        bodies: {},
        gaits: Object.fromEntries(items.filter((i) => i.kind === 'gait').map((i) => [i.id, i.spec])) as never,
        plans: Object.fromEntries(items.filter((i) => i.kind === 'plan').map((i) => [i.id, i.spec])) as never,
        sets: { [set.id]: set.spec },
      },
      body: bodyOf(bodySpecOf(s)),
      gait: gaitIdOf(s),
      plan: planIdOf(s),
      set: set.id,
    },
  };
  /** Says it as the line does: the likeliest answer is taken. Returns why not. */
  const say = (text: string) => {
    const [answer] = answersTo(text, sayingsOf(speech));
    if (!answer) throw new Error(`nothing answers ${text}`);
    return answer.saying.run(answer.rest) ?? null;
  };
  const gait = () => gaitNow(store.getState(), gaitIdOf(store.getState()));
  const walk = () => specOf(store.getState(), 'plan', planIdOf(store.getState()));
  return { store, session, open, say, gait, walk };
}

describe('what can be said', () => {
  it('sets values with their units, at one step of undo each, on both sides', () => {
    const { say, gait, store } = room();
    expect(say('stride 150 cm')).toBeNull();
    expect(gait().timing.strideLength).toBeCloseTo(1.5, 9);
    expect(say('cadence 100')).toBeNull();
    expect(gait().timing.strideTime).toBeCloseTo(1.2, 9);
    expect(say('foot lift 9')).toBeNull();
    expect(gait().feet.lift).toBeCloseTo(0.09, 9);
    expect(store.getState().undo).toHaveLength(3);
    // Said again it is another step.
    say('foot lift 5');
    undo(store);
    expect(gait().feet.lift).toBeCloseTo(0.09, 9);
    undo(store);
    expect(gait().feet.lift).not.toBeCloseTo(0.09, 3);
  });

  it('says why a value is not taken, and changes nothing then', () => {
    const { say, store } = room();
    expect(say('stride length 99')).toMatch(/at most 6/);
    expect(say('stride length')).toMatch(/number is wanted/);
    expect(say('stride length 3 kg')).toMatch(/kg/);
    expect(say('lock the feet')).toMatch(/no clip/);
    expect(store.getState().undo).toHaveLength(0);
  });

  it('takes up gaits of the project and of the library, bodies and walks by name, and goes where they are seen', () => {
    const { say, gait, store, open } = room();
    say('sneak');
    expect(gait().name).toBe('Sneak');
    say('limp');
    expect(gait().name).toBe('Limp');
    expect(open).toHaveBeenLastCalledWith('cycle');
    say('bosun');
    expect(bodySpecOf(store.getState()).name).toBe('Bosun Hale');
    say('save as Old wound');
    expect(gait().name).toBe('Old wound');
  });

  it('bends courses, puts ground down, goes over into gaits, makes walks', () => {
    const { say, walk, session, open } = room();
    say('bend');
    expect(walk().course.knots).toHaveLength(3);
    say('stairs');
    expect(walk().ground.features[0]!.kind).toBe('stairs');
    expect(session.getState().pages).toMatchObject({ steps: 'ground' });
    expect(open).toHaveBeenLastCalledWith('steps');
    say('into run');
    expect(walk().gaits).toHaveLength(1);
    say('new walk To the harbour');
    expect(walk()).toMatchObject({ name: 'To the harbour', gaits: [] });
  });

  it('hands over everything there is', () => {
    const { say, store, session } = room();
    say('hand over all');
    const spec = soleItem(store.getState(), 'asset').spec;
    expect(spec.gaits).toHaveLength(items.filter((i) => i.kind === 'gait').length);
    expect(spec.members.length).toBeGreaterThanOrEqual(8);
    expect(session.getState().writing).toBe(true);
  });

  it('opens stations and their pages, and does what keys do', () => {
    const { say, session, open } = room();
    say('tracks');
    expect(open).toHaveBeenLastCalledWith('steps');
    expect(session.getState().pages.steps).toBe('tracks');
    say('directions');
    expect(open).toHaveBeenLastCalledWith('directions');
    say('from above');
    expect(session.getState().view).toBe('top');
  });
});
