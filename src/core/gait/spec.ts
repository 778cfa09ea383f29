import { PARAMETERS, type Channel, type ChannelParameter, type Group, type Parameter, type ScalarParameter } from './parameters';

type Value<P> = P extends ChannelParameter ? Channel : P extends ScalarParameter ? number : never;
export const HELD = ['strideLength', 'speed', 'strideTime'] as const;
export type Held = (typeof HELD)[number];
type Values = { -readonly [G in Group]: { -readonly [K in keyof (typeof PARAMETERS)[G]]: Value<(typeof PARAMETERS)[G][K]> } };

/** A gait as plain data. Values in the units of the parameter table, for a body whose legs are `legLength` metres. */
export type GaitSpec = Values & {
  format: 'nimbret.gait';
  version: 1;
  name: string;
  /** Leg length (m) of the body the lengths and times are meant for. */
  legLength: number;
  /** Which of stride length, speed and stride time stays when another is edited. */
  held: Held;
};

/** The gait all defaults of the table make: a natural walk for a 1.72 m body. */
export function defaultGait(): GaitSpec {
  const groups = Object.fromEntries(
    Object.entries(PARAMETERS).map(([group, entries]) => [
      group,
      Object.fromEntries(Object.entries(entries as Record<string, Parameter>).map(([key, p]) => [key, p.kind === 'channel' ? { ...p.default } : p.default])),
    ]),
  ) as Values;
  const gait = { format: 'nimbret.gait', version: 1, name: 'Walk', legLength: REFERENCE_LEG_M, held: 'strideTime', ...groups } as GaitSpec;
  gait.timing.speed = gait.timing.strideLength / gait.timing.strideTime;
  return gait;
}

/** Leg length of the 1.72 m body the table's defaults are for: 0.491 × 1.72 m. */
const REFERENCE_LEG_M = 0.491 * 1.72;
