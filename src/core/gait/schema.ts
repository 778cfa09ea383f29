import { z } from 'zod';
import { DELAY_RANGE, PARAMETERS, type Parameter, type Range } from './parameters';
import { HELD, type GaitSpec } from './spec';

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
