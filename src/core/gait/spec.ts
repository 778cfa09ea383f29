import { PARAMETER_LIST, type Channel, type ChannelParameter, type Group, type Parameter, type PARAMETERS, type ScalarParameter } from './parameters';

type Value<P> = P extends ChannelParameter ? Channel : P extends ScalarParameter ? number : never;
export const HELD = ['strideLength', 'speed', 'strideTime'] as const;
export type Held = (typeof HELD)[number];
type Values = { -readonly [G in Group]: { -readonly [K in keyof (typeof PARAMETERS)[G]]: Value<(typeof PARAMETERS)[G][K]> } };

/** What the hands carry. The lantern's swing is computed; both hands on the cart go where its handle is. */
export const CARRIES = ['nothing', 'cart', 'lanternLeft', 'lanternRight'] as const;
export type Carry = (typeof CARRIES)[number];

/** A gait as plain data. Values in the units of the parameter table, for a body whose legs are `legLength` metres. */
export type GaitSpec = Values & {
  format: 'nimbret.gait';
  version: 3;
  name: string;
  /** What it is, in one line. */
  about: string;
  tags: string[];
  /** Leg length (m) of the body the lengths and times are meant for. */
  legLength: number;
  /** Which of stride length, speed and stride time stays when another is edited. */
  held: Held;
  carry: Carry;
  /** Values of the right side where they differ, by dotted path of a `perSide` parameter. */
  right: Record<string, number | Channel>;
};

/** The gait all defaults of the table make: a natural walk for a 1.72 m body. */
export function defaultGait(): GaitSpec {
  const gait = {
    format: 'nimbret.gait',
    version: 3,
    name: 'Walk',
    about: '',
    tags: [],
    legLength: REFERENCE_LEG_M,
    held: 'strideTime',
    carry: 'nothing',
    right: {},
    ...parameterValues((p) => p.default),
  } as unknown as GaitSpec;
  gait.timing.speed = gait.timing.strideLength / gait.timing.strideTime;
  return gait;
}

/** Groups of values, each made from its table entry; channels are copied. */
export function parameterValues(value: (p: Parameter) => number | Channel | undefined): Record<string, Record<string, number | Channel>> {
  const groups: Record<string, Record<string, number | Channel>> = {};
  for (const { group, key, parameter } of PARAMETER_LIST) {
    const v = value(parameter);
    if (v !== undefined) (groups[group] ??= {})[key] = typeof v === 'number' ? v : copyChannel(v);
  }
  return groups;
}

export const copyChannel = (c: Channel): Channel => (c.curve ? { ...c, curve: c.curve.map((k) => ({ ...k })) } : { ...c });

/** Leg length of the 1.72 m body the table's defaults are for: 0.491 × 1.72 m. */
export const REFERENCE_LEG_M = 0.491 * 1.72;
