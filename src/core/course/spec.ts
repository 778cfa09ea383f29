import { z } from 'zod';

/** How a course comes to a knot: smoothly through it, straight, or on a circle that goes on from where it came. */
export const KNOT_WAYS = ['smooth', 'straight', 'circle'] as const;
export type KnotWay = (typeof KNOT_WAYS)[number];

/** Places lie within this of the origin, m. */
export const PLACE_LIMIT_M = 5000;
const MOST_KNOTS = 500;

const place = z.number().min(-PLACE_LIMIT_M).max(PLACE_LIMIT_M);

/** A knot of a course, m; `turnDeg`: a turn on the spot at it, degrees to the left. */
const knotSchema = z.strictObject({ x: place, z: place, by: z.enum(KNOT_WAYS), turnDeg: z.number().min(-1080).max(1080).optional() });
export type CourseKnot = z.infer<typeof knotSchema>;

/** A course as it is drawn: where it begins and the knots it leads to. */
export const courseSpecSchema = z.strictObject({
  knots: z.array(knotSchema).min(2).max(MOST_KNOTS),
});
export type CourseSpec = z.infer<typeof courseSpecSchema>;

/** A straight course of so many metres from a place, towards +Z. */
export const straightSpec = (length: number, x = 0, z = 0): CourseSpec => ({
  knots: [
    { x, z, by: 'smooth' },
    { x, z: z + length, by: 'straight' },
  ],
});
