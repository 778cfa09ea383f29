import { z } from 'zod';
import { SIDE_NAMES } from '../body/roles';
import { PLACE_LIMIT_M } from '../course/spec';

/** Fewest and most steps of a walk. */
export const STEP_COUNT_RANGE = [2, 5000] as const;
/** How far a print may be moved (m), turned (degrees), made later or earlier, and stood on longer (s). */
export const EDIT_RANGES = { along: [-1, 1], aside: [-0.6, 0.6], turnDeg: [-90, 90], later: [-0.5, 0.5], longer: [0, 3], tempo: [0.6, 4] } as const;
/** Most steps that are left out at one place. */
export const MOST_LEFT_OUT = 3;
/** Latest time (s) a print may be held to. */
const LATEST_S = 6000;

const place = z.number().min(-PLACE_LIMIT_M).max(PLACE_LIMIT_M);
const headingDeg = z.number().min(-3600).max(3600);
const gaitName = z.string().min(1).max(80);
const range = (name: keyof typeof EDIT_RANGES) => z.number().min(EDIT_RANGES[name][0]).max(EDIT_RANGES[name][1]);

/** What the user's hand changes about one step, in the frame of the course. */
export const printEditSchema = z.strictObject({
  step: z.number().int().min(1).max(STEP_COUNT_RANGE[1]),
  along: range('along'),
  aside: range('aside'),
  turnDeg: range('turnDeg'),
  /** Lands so much (s) later than the walk has it; its neighbours share that. */
  later: range('later').default(0),
  /** Both feet stay so much (s) longer after it. */
  longer: range('longer').default(0),
  /** The step to it takes so many times as long. */
  tempo: range('tempo').default(1),
  /** A gait of its own. */
  gait: gaitName.nullable().default(null),
  /** It is put in between its neighbours; so many steps are left out before it. */
  added: z.boolean().default(false),
  leftOut: z.number().int().min(0).max(MOST_LEFT_OUT).default(0),
  /** A mark to hit: this place, heading and time (s), whatever the course does; null where it is left to the walk. */
  held: z
    .strictObject({ x: place, z: place, headingDeg: headingDeg.nullable(), time: z.number().min(0).max(LATEST_S).nullable() })
    .nullable()
    .default(null),
});
export type PrintEditSpec = z.infer<typeof printEditSchema>;

/** An edit that changes nothing. */
export const plainPrintEdit = (step: number): PrintEditSpec => ({
  step,
  along: 0,
  aside: 0,
  turnDeg: 0,
  later: 0,
  longer: 0,
  tempo: 1,
  gait: null,
  added: false,
  leftOut: 0,
  held: null,
});

const standsSchema = z.strictObject({ x: place, z: place, headingDeg });

/** Prints freed from the course: where both feet stand at first, and where and when (s) each step lands. */
export const freePrintsSchema = z.strictObject({
  stands: z.strictObject({ left: standsSchema, right: standsSchema }),
  prints: z
    .array(
      z.strictObject({
        foot: z.enum(SIDE_NAMES),
        x: place,
        z: place,
        headingDeg,
        lands: z.number().min(0).max(LATEST_S),
        /** The walk rests behind it. */
        rests: z.boolean().default(false),
        gait: gaitName.nullable().default(null),
      }),
    )
    .min(STEP_COUNT_RANGE[0])
    .max(STEP_COUNT_RANGE[1])
    .refine((all) => all.every((p, i) => i === 0 || p.lands > all[i - 1]!.lands), { message: 'prints must land one after another' })
    .refine((all) => all[all.length - 1]!.rests, { message: 'the last print must be one the walk rests on' }),
});
export type FreePrintsSpec = z.infer<typeof freePrintsSchema>;
