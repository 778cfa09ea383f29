import { UPS } from '../src/core/clip/in-world';
import type { ClipSpec } from '../src/core/travel/clip-spec';
import { AXES, HOLDS, TRAVEL_KINDS, type Axis, type Hold, type TravelKind } from '../src/core/travel/names';
import { defaultLock, defaultTravel, noEdits, noRepair, type EditSpec, type RepairSpec, type TravelSpec } from '../src/core/travel/spec';
import { oneOf, readNumber, readWhole } from './input';

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
  cycles: { type: 'string' },
  json: { type: 'boolean' },
  out: { type: 'string' },
} as const;

type Values = { [K in keyof typeof TRAVEL_OPTIONS]?: string | boolean };

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
export const editsOf = (values: { rounds?: string; mirror?: boolean; reverse?: boolean; faster?: string; each?: string }): EditSpec => ({
  ...noEdits(),
  mirror: values.mirror === true,
  reverse: values.reverse === true,
  speed: readNumber('faster', values.faster, 1, 0.05, 20),
  repeat: readWhole('rounds', values.rounds, 1, 1, 200),
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
