import { z } from 'zod';
import { KEY_GAP, KEY_SLOPE_RANGE, KEY_VALUE_RANGE, MOST_KEYS, TANGENTS, type CurveKey } from './curve';
import { DELAY_RANGE, PARAMETER_LIST, PARAMETERS, type Parameter, type Range } from './parameters';
import { CARRIES, HELD, type GaitSpec } from './spec';
import { upgradeGait } from './upgrade';

const inRange = ([min, max]: Range) => z.number().min(min).max(max);

const keySchema = z.strictObject({
  at: z
    .number()
    .min(0)
    .max(1 - 1e-9),
  value: inRange(KEY_VALUE_RANGE),
  tangent: z.enum(TANGENTS),
  slope: inRange(KEY_SLOPE_RANGE).optional(),
});

/** Keys of one curve: in order, apart from each other also over the seam. */
export const curveSchema = z
  .array(keySchema)
  .min(1)
  .max(MOST_KEYS)
  .superRefine((keys: CurveKey[], ctx) => {
    keys.forEach((key, i) => {
      const next = keys[i + 1]?.at ?? keys[0]!.at + 1;
      if (keys.length > 1 && next - key.at < KEY_GAP - 1e-9)
        ctx.addIssue({ code: 'custom', path: [i, 'at'], message: `keys must ascend and lie ${KEY_GAP} of the stride apart` });
    });
  });

function parameterSchema(p: Parameter): z.ZodType {
  if (p.kind === 'scalar') return p.unit === 'count' ? inRange(p.range).int() : inRange(p.range);
  return z.strictObject({ offset: inRange(p.offset), amount: inRange(p.amount), delay: inRange(DELAY_RANGE), curve: curveSchema.optional() });
}

const groupSchemas = Object.fromEntries(
  Object.entries(PARAMETERS).map(([group, entries]) => [
    group,
    z.strictObject(Object.fromEntries(Object.entries(entries as Record<string, Parameter>).map(([key, p]) => [key, parameterSchema(p)]))),
  ]),
);

const rightSchema = z.strictObject(
  Object.fromEntries(PARAMETER_LIST.filter((e) => e.parameter.perSide).map((e) => [e.path, parameterSchema(e.parameter).optional()])),
);

/** Largest relative disagreement allowed between speed and stride length / stride time. */
const TIMING_EPS = 1e-6;

/**
 * The schema of a gait, made from the parameter table; also checks speed × stride time = stride length. Gaits of older
 * versions are upgraded before they are checked.
 */
export const gaitSpecSchema = z.preprocess(
  upgradeGait,
  z
    .strictObject({
      format: z.literal('nimbret.gait'),
      version: z.literal(3),
      name: z.string().trim().min(1).max(80),
      about: z.string().trim().max(200),
      tags: z.array(z.string().trim().min(1).max(30)).max(12),
      legLength: z.number().min(0.05).max(3),
      held: z.enum(HELD),
      carry: z.enum(CARRIES),
      right: rightSchema,
      ...groupSchemas,
    })
    .superRefine((gait, ctx) => {
      const { strideLength, speed, strideTime } = (gait as unknown as GaitSpec).timing;
      if (Math.abs(speed * strideTime - strideLength) > TIMING_EPS * Math.max(1e-3, Math.abs(strideLength)))
        ctx.addIssue({
          code: 'custom',
          path: ['timing', 'speed'],
          message: `speed × stride time is ${(speed * strideTime).toFixed(4)} m, but stride length says ${strideLength.toFixed(4)} m`,
        });
    }),
) as unknown as z.ZodType<GaitSpec>;
