import { parameterAt, readValue } from '@/core/gait/access';
import { fitGait } from '@/core/gait/fit';
import { PARAMETER_LIST, type ParameterEntry, type Range } from '@/core/gait/parameters';
import { PRESETS } from '@/core/gait/presets';
import { HELD, type Held } from '@/core/gait/spec';
import { cadence } from '@/core/gait/timing';
import { everything, type Offered } from '@/core/project/chosen';
import { defaultLock } from '@/core/travel/spec';
import { readTyped } from '../channel/typed';
import { shownUnit, type StripUnit } from '../channel/units';
import { chooseBody, chooseGait, setParameter, setTimingValue } from '../cycle/editing';
import { idsOf, soleItem, specOf } from '../document/context';
import { freshMark } from '../document/history';
import { gaitFor, gaitIdOf, gaitNow, planIdOf, walkIds } from '../document/selectors';
import { editItem, type DocumentStore } from '../document/store';
import { addGait, freeName } from '../library/actions';
import { KEY_TABLE, type KeyContext } from '../shell/key-table';
import { STATIONS } from '../shell/stations';
import { redoAloud, undoAloud } from '../shell/undoing';
import { STATION_PAGES } from '../stage/pages';
import type { SessionStore } from '../stage/session';
import { bend } from '../steps/course-editing';
import { addGaitKey } from '../steps/editing';
import { putDown } from '../steps/ground-actions';
import { STAMPS } from '../steps/stamps';
import { chooseWalk, newWalk } from '../steps/walk-actions';
import { clipIdOf } from '../travel/use-clip';
import type { Saying } from './sayings';

/** What sayings act on. */
export interface Speech extends Omit<KeyContext, 'say'> {
  readonly store: DocumentStore;
  readonly session: SessionStore;
  readonly offered: Offered;
}

/** Everything that can be said at present. */
export const sayingsOf = (speech: Speech): Saying[] => [
  ...timingValues(speech),
  ...gaitValues(speech),
  ...items(speech),
  ...walkActs(speech),
  ...otherActs(speech),
  ...places(speech),
  ...keys(speech),
];

/** Opens a station, and a page of it. */
function go({ session, open }: Speech, station: string, page?: string): void {
  const { pages, set } = session.getState();
  if (page !== undefined) set({ pages: { ...pages, [station]: page } });
  if (globalThis.location?.pathname.split('/').pop() !== station) open(station);
}

const wants = (label: string): string => label || 'a number';

/** A number typed behind words, as its strip reads it, given on; why it is none, or is taken otherwise. */
function taken(
  rest: string,
  { path, unit, range, fps }: { path: string; unit: StripUnit; range: Range; fps: number },
  give: (value: number) => string | null | void,
): string | null {
  const shown = shownUnit(unit, path);
  if (rest === '') return `A number is wanted behind it${shown.label ? `, in ${shown.label}` : ''}.`;
  const read = readTyped(rest, unit, shown, range, fps);
  if ('refused' in read) return read.refused;
  if (read.why) return read.why;
  return give(read.value) ?? null;
}

function timingValues(speech: Speech): Saying[] {
  const { store, session } = speech;
  const { fps } = session.getState();
  const set = (which: Held, value: number) => {
    const why = setTimingValue(store, gaitIdOf(store.getState()), which, value, null);
    go(speech, 'cycle', 'Channels');
    return why;
  };
  const timing = HELD.map((which): Saying => {
    const { parameter: p } = parameterAt(`timing.${which}`)!;
    const of = { path: `timing.${which}`, unit: p.unit, range: p.kind === 'scalar' ? p.range : p.amount, fps };
    return { words: p.label, about: 'Cycle', wants: wants(shownUnit(p.unit, of.path).label), run: (rest) => taken(rest, of, (v) => set(which, v)) };
  });
  const now = () => gaitNow(store.getState(), gaitIdOf(store.getState())).timing.strideTime;
  return [
    ...timing,
    {
      words: 'Cadence',
      also: 'steps a minute',
      about: 'Cycle',
      wants: `steps a minute, now ${cadence(now()).toFixed(0)}`,
      run: (rest) => taken(rest, { path: 'timing.cadence', unit: 'count', range: [1, 600], fps }, (v) => set('strideTime', 120 / v)),
    },
  ];
}

const GROUP_WORDS: Readonly<Record<string, string>> = { legs: 'knees', follow: 'follow-through', timing: 'limbs' };

/** The numbers of the gait in use; of a channel its amount. */
function gaitValues(speech: Speech): Saying[] {
  const { store, session } = speech;
  const { fps } = session.getState();
  const held = new Set<string>(HELD.map((k) => `timing.${k}`));
  const saying = (entry: ParameterEntry): Saying => {
    const { path, parameter: p, group } = entry;
    const of = { path, unit: p.unit, range: p.kind === 'scalar' ? p.range : p.amount, fps };
    return {
      words: p.label,
      also: GROUP_WORDS[group] ?? group,
      about: `Cycle, ${GROUP_WORDS[group] ?? group}`,
      wants: wants(shownUnit(p.unit, path).label),
      run: (rest) =>
        taken(rest, of, (value) => {
          const gait = gaitIdOf(store.getState());
          // Both sides are one step of undo, what is said next another.
          const mark = freshMark(`say ${path}`);
          for (const side of ['left', 'right'] as const)
            if (side === 'left' || readValue(gaitNow(store.getState(), gait), entry, 'right') !== readValue(gaitNow(store.getState(), gait), entry))
              setParameter(store, gait, entry, p.kind === 'scalar' ? null : 'amount', value, mark, side);
          go(speech, 'cycle', 'Channels');
        }),
    };
  };
  return PARAMETER_LIST.filter((e) => !held.has(e.path)).map(saying);
}

/** Bodies, gaits and walks to be taken up by their names. */
function items(speech: Speech): Saying[] {
  const { store, session } = speech;
  const state = store.getState();
  const { set } = session.getState();
  const gaits = idsOf(state, 'gait').map((id) => ({ id, name: specOf(state, 'gait', id).name }));
  const names = gaits.map((g) => g.name);
  return [
    ...idsOf(state, 'body').map((id): Saying => ({ words: specOf(state, 'body', id).name, also: 'body', about: 'body', run: () => chooseBody(store, id) })),
    ...gaits.map(({ id, name }): Saying => ({
      words: name,
      also: 'gait use',
      about: 'gait of this project',
      run: () => {
        chooseGait(store, id);
        go(speech, 'cycle');
      },
    })),
    ...PRESETS.filter((p) => !names.includes(p.make().name)).map((p): Saying => ({
      words: p.make().name,
      also: 'gait use',
      about: 'gait of the library',
      run: () => {
        const made = fitGait(p.make(), speech.offered.body.legLength);
        addGait(store, made);
        go(speech, 'cycle');
        set({ notice: { text: `“${made.name}” was made and is in use.`, undo: true } });
      },
    })),
    ...walkIds(state).map((id): Saying => ({
      words: specOf(state, 'plan', id).name,
      also: 'walk',
      about: 'walk of this project',
      run: () => {
        chooseWalk(store, id);
        go(speech, 'steps');
      },
    })),
  ];
}

/** What is done to the walk that is laid out. */
function walkActs(speech: Speech): Saying[] {
  const { store, session } = speech;
  const state = store.getState();
  const change = (label: string, recipe: Parameters<typeof editItem<'plan'>>[3]) => editItem<'plan'>(store, planIdOf(store.getState()), label, recipe);
  return [
    {
      words: 'Bend the course',
      also: 'bent curve',
      about: 'Steps',
      run: () => {
        change('bend the course', bend);
        go(speech, 'steps', 'course');
      },
    },
    ...STAMPS.map(({ label, make }): Saying => ({
      words: `Put down ${label.toLowerCase()}`,
      also: 'ground',
      about: 'Steps',
      run: () => {
        putDown(store, session, label, make);
        go(speech, 'steps', 'ground');
      },
    })),
    ...idsOf(state, 'gait').map((id): Saying => ({
      words: `Over into ${specOf(state, 'gait', id).name}`,
      also: 'walk to gait change',
      about: 'Steps, on the way',
      run: () => {
        change('add a gait', (p) => addGaitKey(p, gaitFor(store.getState(), id)));
        go(speech, 'steps', 'tracks');
      },
    })),
    {
      words: 'New walk',
      about: 'Steps',
      wants: 'its name',
      run: (rest) => {
        newWalk(store, rest || 'New walk');
        go(speech, 'steps');
      },
    },
  ];
}

function otherActs(speech: Speech): Saying[] {
  const { store, session, offered } = speech;
  return [
    {
      words: 'Save as',
      also: 'new gait',
      about: 'Cycle',
      wants: 'the new gait’s name',
      run: (rest) => {
        const state = store.getState();
        const gait = specOf(state, 'gait', gaitIdOf(state));
        const names = idsOf(state, 'gait').map((id) => specOf(state, 'gait', id).name);
        addGait(store, { ...gait, name: freeName(rest || gait.name, names) });
        go(speech, 'cycle');
      },
    },
    {
      words: 'Lock the feet',
      also: 'clip',
      about: 'Travel',
      run: () => {
        const clip = clipIdOf(store.getState(), session.getState().clip);
        if (clip === null) return 'There is no clip whose feet could be locked: import one at Travel.';
        editItem<'clip'>(store, clip, 'lock the feet', (c) => void (c.travel.lock ??= defaultLock()));
        go(speech, 'travel', 'feet');
        return null;
      },
    },
    {
      words: 'Hand over everything',
      also: 'all export write files',
      about: 'Hand-over',
      run: () => {
        const state = store.getState();
        editItem<'asset'>(store, soleItem(state, 'asset').id, 'what is handed over', (h) => void Object.assign(h, everything(offered, idsOf(state, 'clip'))));
        session.setState({ writing: true });
        go(speech, 'hand-over');
      },
    },
    { words: 'Undo', about: 'Ctrl+Z', run: () => undoAloud(store, session) },
    { words: 'Redo', about: 'Ctrl+Shift+Z', run: () => redoAloud(store, session) },
  ];
}

/** Stations and their pages. */
const places = (speech: Speech): Saying[] =>
  STATIONS.flatMap(({ id, label }) => [
    { words: label, also: 'go station', about: 'station', run: () => go(speech, id) },
    ...((STATION_PAGES as Readonly<Record<string, readonly string[]>>)[id] ?? []).map((page): Saying => ({
      words: `${page[0]!.toUpperCase()}${page.slice(1)}`,
      also: label,
      about: `page of ${label}`,
      run: () => go(speech, id, page),
    })),
  ]);

/** What keys do, but for the stations. */
const keys = ({ clock, motion, showSheet, open }: Speech): Saying[] =>
  KEY_TABLE.filter(([group]) => group !== 'Stations').flatMap(([group, entries]) =>
    entries
      .filter((e) => e.key !== '/')
      .map((e): Saying => ({ words: e.what, about: `${group}, ${e.shown}`, run: () => e.run({ clock, motion, showSheet, open, say: () => undefined }) })),
  );
