import { z } from 'zod';
import { DELAY_RANGE, PARAMETERS, type Channel, type ChannelParameter, type Group, type Parameter, type Range, type ScalarParameter } from './parameters';

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

const inRange = ([min, max]: Range) => z.number().min(min).max(max);

function parameterSchema(p: Parameter): z.ZodType {
  if (p.kind === 'scalar') return inRange(p.range);
  return z.strictObject({ offset: inRange(p.offset), amount: inRange(p.amount), delay: inRange(DELAY_RANGE) });
}

const groupSchemas = Object.fromEntries(
  Object.entries(PARAMETERS).map(([group, entries]) => [
    group,
    z.strictObject(Object.fromEntries(Object.entries(entries as Record<string, Parameter>).map(([key, p]) => [key, parameterSchema(p)]))),
  ]),
);

/** Largest relative disagreement allowed between speed and stride length / stride time. */
const TIMING_EPS = 1e-6;

/** The schema of a gait, made from the parameter table; also checks speed × stride time = stride length. */
export const gaitSpecSchema = z
  .strictObject({
    format: z.literal('nimbret.gait'),
    version: z.literal(1),
    name: z.string().trim().min(1).max(80),
    legLength: z.number().min(0.05).max(3),
    held: z.enum(HELD),
    ...groupSchemas,
  })
  .superRefine((gait, ctx) => {
    const { strideLength, speed, strideTime } = (gait as unknown as GaitSpec).timing;
    if (Math.abs(speed * strideTime - strideLength) > TIMING_EPS * strideLength)
      ctx.addIssue({
        code: 'custom',
        path: ['timing', 'speed'],
        message: `speed × stride time is ${(speed * strideTime).toFixed(4)} m, but stride length says ${strideLength.toFixed(4)} m`,
      });
  }) as unknown as z.ZodType<GaitSpec>;

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
export const REFERENCE_LEG_M = 0.491 * 1.72;
