import { z } from 'zod';
import { SIDE_NAMES } from '../body/roles';
import { courseSpecSchema, PLACE_LIMIT_M, straightSpec } from '../course/spec';
import { SWINGING } from '../gait/without-channel';
import { groundSpecSchema } from '../ground/spec';
import { freePrintsSchema, printEditSchema, STEP_COUNT_RANGE } from './print-spec';
import { plainWalk, upgradePlan } from './upgrade';

/** Longest time (s) and distance (m) a key may lie at. */
export const LONGEST = { time: 6000, distance: 10_000 } as const;
export const REST_RANGE = [0.2, 600] as const;

/** How a walk's ends are played. */
export const ENDS_RANGES = {
  /** Lean into gaining and against losing speed, parts of what balance asks for. */
  lean: [0, 1.5],
  /** Settling after the stop, parts of the common one; at 0 the standing figure does not even breathe. */
  settle: [0, 2],
  /** Standing before the first lift-off and after the last landing, parts of the shortest. */
  standing: [1, 3],
} as const;

/** Values of tracks: pace and belt in m/s, place in m along the course, amount and clock as parts. */
export const TRACK_RANGES = { pace: [0, 12], place: [0, 10_000], amount: [0, 1.5], belt: [-6, 6], clock: [0, 4] } as const;
export type TrackName = keyof typeof TRACK_RANGES;

const MOST_KEYS = 200;
const MOST_EDITS = 5000;
const MOST_CHANNELS = 8;

const ascending = (keys: readonly { at: number }[]) => keys.every((k, i) => i === 0 || k.at > keys[i - 1]!.at);

/** A track as a plan has it. */
export interface TrackSpec {
  over: 'time' | 'distance';
  keys: { at: number; value: number; next: 'held' | 'linear' | 'smooth' }[];
}

/** Tracks of the motion's own time are told over time alone. */
const trackSchema = (name: TrackName) =>
  z.strictObject({
    over: name === 'pace' ? z.enum(['time', 'distance']) : z.enum(['time']),
    keys: z
      .array(
        z.strictObject({
          at: z.number().min(0).max(LONGEST.distance),
          value: z.number().min(TRACK_RANGES[name][0]).max(TRACK_RANGES[name][1]),
          next: z.enum(['held', 'linear', 'smooth']),
        }),
      )
      .min(1)
      .max(MOST_KEYS)
      .refine(ascending, { message: 'keys must come one after another' }),
  }) as unknown as z.ZodType<TrackSpec>;

const place = z.number().min(-PLACE_LIMIT_M).max(PLACE_LIMIT_M);
const gaitName = z.string().min(1).max(80);

const inStride = z
  .strictObject({ gait: gaitName.nullable(), phase: z.number().min(0).max(1) })
  .nullable()
  .default(null);

/** A walk: where it goes, on what, in which gait and how fast, from standing to standing. */
export const walkSchema = z.strictObject({
  format: z.literal('nimbret.plan'),
  version: z.literal(2),
  name: z.string().trim().min(1).max(80),
  /** So many steps, or as many as the course takes (null). */
  steps: z.number().int().min(STEP_COUNT_RANGE[0]).max(STEP_COUNT_RANGE[1]).nullable(),
  firstFoot: z.enum(SIDE_NAMES),
  /** The gait that walks it: a preset's key or a gait's id in the project. */
  gait: gaitName,
  /** Gaits it goes over into, at a distance (m) along the course, within a stretch (m). */
  gaits: z
    .array(z.strictObject({ at: z.number().min(0).max(LONGEST.distance), stretch: z.number().min(0).max(50), gait: gaitName }))
    .max(40)
    .refine(ascending, { message: 'gaits must come one after another' }),
  /** The body that walks; null: the project's. */
  body: z.string().min(1).max(64).nullable(),
  /** Whether it begins and ends in full stride, as a gait (null: its own) goes at a phase of its cycle; null: standing. */
  opens: inStride,
  closes: inStride,
  course: courseSpecSchema,
  /** Where the figure faces: along the course (null), in one direction, or a place, m. */
  facing: z
    .discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('held'), headingDeg: z.number().min(-3600).max(3600) }),
      z.strictObject({ kind: z.literal('point'), x: place, z: place }),
    ])
    .nullable()
    .default(null),
  ground: groundSpecSchema,
  lean: z.number().min(ENDS_RANGES.lean[0]).max(ENDS_RANGES.lean[1]),
  settle: z.number().min(ENDS_RANGES.settle[0]).max(ENDS_RANGES.settle[1]),
  standing: z.number().min(ENDS_RANGES.standing[0]).max(ENDS_RANGES.standing[1]),
  /** Speed against the ground under the feet; null: the gait's own. */
  pace: trackSchema('pace').nullable(),
  /** Where to be when, m along the course over time, instead of a pace; the figure walks as fast as that takes. */
  place: trackSchema('place').nullable().default(null),
  /** How much of a change of pace the length of steps takes; the cadence takes the rest. */
  lengthShare: z.number().min(0).max(1),
  /** Rests of so many seconds at a distance (m) along the course. */
  halts: z
    .array(z.strictObject({ at: z.number().min(0).max(LONGEST.distance), rest: z.number().min(REST_RANGE[0]).max(REST_RANGE[1]) }))
    .max(100)
    .refine(ascending, { message: 'halts must come one after another' }),
  /** Amount of the gait's swings over time. */
  amount: trackSchema('amount').nullable(),
  /** The same for single channels of the gait, by path, as head.turn. */
  channels: z
    .array(z.strictObject({ channel: z.enum(SWINGING.map((e) => e.path) as [string, ...string[]]), amount: trackSchema('amount') }))
    .max(MOST_CHANNELS)
    .refine((all) => new Set(all.map((c) => c.channel)).size === all.length, { message: 'each channel has one track' })
    .default([]),
  /** Velocity (m/s) of the ground along the course's first heading. */
  belt: trackSchema('belt').nullable(),
  /** Rate of time itself: 1 as it is, 0 held. */
  clock: trackSchema('clock').nullable(),
  /** Prints changed by hand, in the frame of the course. */
  edits: z.array(printEditSchema).max(MOST_EDITS),
  /** Prints freed from the course, which then follows them; null: as course and edits have them. */
  free: freePrintsSchema.nullable().default(null),
  /** Frame number of the first picture, and the part (s) that is handed over; null: from the start, to the end. */
  shot: z.strictObject({
    firstFrame: z.number().int().min(-100_000).max(100_000),
    from: z.number().min(0).max(LONGEST.time).nullable(),
    to: z.number().min(0).max(LONGEST.time).nullable(),
  }),
});
export type PlanSpec = z.infer<typeof walkSchema>;
export const planSpecSchema = z.preprocess(upgradePlan, walkSchema) as unknown as z.ZodType<PlanSpec>;

export const defaultPlan = (): PlanSpec => ({
  format: 'nimbret.plan',
  version: 2,
  name: 'Along the causeway',
  steps: 10,
  firstFoot: 'left',
  gait: 'walk',
  course: straightSpec(8),
  ...plainWalk(),
});
