import { UPS } from '../src/core/clip/in-world';
import type { ClipSpec } from '../src/core/travel/clip-spec';
import { AXES, HOLDS, TRAVEL_KINDS, type Axis, type Hold, type TravelKind } from '../src/core/travel/names';
import { defaultLock, defaultTravel, noEdits, noRepair, type EditSpec, type RepairSpec, type TravelSpec } from '../src/core/travel/spec';
import { layerSchema, type Layer } from '../src/core/travel/layer-spec';
import { z } from 'zod';
import { ROLES } from '../src/core/body/roles';
import { describeIssue } from '../src/core/formats/json/decode';
import { InputFault, oneOf, readInput, readNumber, readWhole } from './input';

/** Options of `travel`. */
export const TRAVEL_OPTIONS = {
  kind: { type: 'string' },
  axes: { type: 'string' },
  distance: { type: 'string' },
  smooth: { type: 'string' },
  lock: { type: 'boolean' },
  hold: { type: 'string' },
  reach: { type: 'string' },
  mend: { type: 'string' },
  calm: { type: 'string' },
  loop: { type: 'boolean' },
  'poor-loop': { type: 'boolean' },
  contacts: { type: 'boolean' },
  rounds: { type: 'string' },
  mirror: { type: 'boolean' },
  reverse: { type: 'boolean' },
  faster: { type: 'string' },
  each: { type: 'string' },
  unit: { type: 'string' },
  up: { type: 'string' },
  turn: { type: 'string' },
  gait: { type: 'string' },
  body: { type: 'string' },
  stature: { type: 'string' },
  on: { type: 'string' },
  compare: { type: 'boolean' },
  role: { type: 'string', multiple: true },
  trim: { type: 'string' },
  layers: { type: 'string' },
  cycles: { type: 'string' },
  json: { type: 'boolean' },
  out: { type: 'string' },
} as const;

type Values = { [K in keyof typeof TRAVEL_OPTIONS]?: string | boolean | string[] };

/** Repairs by the words that name them. */
const REPAIRS = { 'rest-pose': 'restPose', spikes: 'spikes', tilt: 'tilt', floor: 'floor' } as const;

/** What is to be mended. */
export const repairOf = (words = '', calm: string | undefined): RepairSpec => ({
  ...noRepair(),
  ...Object.fromEntries(
    words
      .split(',')
      .filter((w) => w !== '')
      .map((w) => [REPAIRS[oneOf('mend', w.trim(), Object.keys(REPAIRS) as (keyof typeof REPAIRS)[])], true]),
  ),
  jitterHz: calm === undefined ? null : readNumber('calm', calm, 8, 0.5, 60),
});

/** What is done to the pictures. */
export const editsOf = (values: { trim?: string; rounds?: string; mirror?: boolean; reverse?: boolean; faster?: string; each?: string }): EditSpec => ({
  ...noEdits(),
  mirror: values.mirror === true,
  reverse: values.reverse === true,
  speed: readNumber('faster', values.faster, 1, 0.05, 20),
  repeat: readWhole('rounds', values.rounds, 1, 1, 200),
  trim: trimOf(values.trim),
  hold: readWhole('each', values.each, 1, 1, 4),
});

/** What is asked for about travel and feet. */
export function specOf(values: Values): TravelSpec {
  const text = (k: keyof typeof TRAVEL_OPTIONS) => values[k] as string | undefined;
  const kind = text('kind') === undefined ? 'asIs' : oneOf<TravelKind>('kind', text('kind')!.replace(/-/g, ''), TRAVEL_KINDS);
  const kept =
    text('axes') === undefined
      ? null
      : text('axes')!
          .split(',')
          .filter((a) => a !== '')
          .map((a) => oneOf<Axis>('axes', a.trim(), AXES));
  const base = defaultTravel();
  return {
    ...base,
    kind,
    axes: kept
      ? { forward: kept.includes('forward'), sideways: kept.includes('sideways'), height: kept.includes('height'), turn: kept.includes('turn') }
      : base.axes,
    smoothHz: readNumber('smooth', text('smooth'), base.smoothHz, 0.05, 20),
    distance: text('distance') === undefined ? null : readNumber('distance', text('distance'), 0, -10_000, 10_000),
    lock: values.lock
      ? {
          ...defaultLock(),
          hold: text('hold') === undefined ? 'both' : oneOf<Hold>('hold', text('hold')!, HOLDS),
          reach: readNumber('reach', text('reach'), defaultLock().reach, 0.8, 1),
        }
      : null,
  };
}

/** What is told of a file that it does not tell itself. */
export const saidOf = (values: { unit?: string; up?: string; turn?: string }): ClipSpec['said'] => ({
  unit: values.unit === undefined ? null : readNumber('unit', values.unit, 1, 1e-6, 1000),
  up: values.up === undefined ? null : oneOf('up', values.up, UPS),
  heading: readNumber('turn', values.turn, 0, -360, 360),
  roles: {},
});

/** First and last frame that are kept, as FROM-TO. */
function trimOf(text: string | undefined): EditSpec['trim'] {
  if (text === undefined) return null;
  const [from, to] = /^(\d{1,6})-(\d{1,6})$/.exec(text)?.slice(1).map(Number) ?? [];
  if (from === undefined || to === undefined || to <= from) throw new InputFault([`--trim: "${text}" is not FROM-TO in frames, from 0`]);
  return { from, to };
}

/** Roles that are given to joints by their names, as ROLE=JOINT; a role without a joint is nobody's. */
export function rolesOf(given: readonly string[] | undefined, names: readonly string[]): ClipSpec['said']['roles'] {
  const roles: ClipSpec['said']['roles'] = {};
  for (const text of given ?? []) {
    const [role, joint] = [text.slice(0, text.indexOf('=')), text.slice(text.indexOf('=') + 1)];
    if (!text.includes('=')) throw new InputFault([`--role: "${text}" is not ROLE=JOINT`]);
    const at = joint === '' ? -1 : names.indexOf(joint);
    if (joint !== '' && at < 0)
      throw new InputFault([`--role: no joint is called "${joint}"; there are ${names.slice(0, 8).join(', ')}${names.length > 8 ? ', …' : ''}`]);
    roles[oneOf('role', role, ROLES)] = at;
  }
  return roles;
}

/** Layers of corrections from a file: a JSON list of them, as a project has them. */
export async function layersOf(file: string | undefined): Promise<readonly Layer[]> {
  if (file === undefined) return [];
  const text = (await readInput(file)).toString('utf8');
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new InputFault([`${file}: it is not JSON`]);
  }
  const read = z.array(layerSchema).max(64).safeParse(json);
  if (!read.success) throw new InputFault(read.error.issues.slice(0, 5).map((issue) => `${file}: ${describeIssue(issue)}`));
  return read.data;
}
