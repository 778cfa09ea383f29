import { z } from 'zod';

/** Places lie within this of the origin, m. */
export const PLACE_LIMIT_M = 5000;
/** Heights of a field lie within this of the level ground, m. */
export const HEIGHT_LIMIT_M = 500;
const MOST_FEATURES = 200;
const MOST_STONES = 500;
/** Most cells of a height field along one side, and heights of one. */
const FIELD_SIDE = 512;

const place = z.number().min(-PLACE_LIMIT_M).max(PLACE_LIMIT_M);
const angle = z.number().min(-1080).max(1080);
const size = (least: number, most: number) => z.number().min(least).max(most);

/** What every feature has: an id of its own, a name, where it lies (m) and its heading (degrees to the left of +Z). */
const common = {
  id: z.string().min(1).max(64),
  name: z.string().trim().min(1).max(80),
  x: place,
  z: place,
  headingDeg: angle,
};

const slopeSchema = z.strictObject({
  kind: z.literal('slope'),
  ...common,
  /** Where it begins is its lower (or upper) edge; m along its heading and across it. */
  length: size(0.2, 2000),
  breadth: size(0.3, 2000),
  /** Degrees; below 0 it goes down. */
  angleDeg: size(-35, 35),
});
const stairsSchema = z.strictObject({
  kind: z.literal('stairs'),
  ...common,
  /** Below 0 they go down. */
  riser: size(-0.4, 0.4),
  tread: size(0.15, 2),
  count: z.number().int().min(1).max(200),
  breadth: size(0.3, 200),
});
const stoneSchema = z.strictObject({ x: place, z: place, radius: size(0.05, 5), height: size(-1, 1) });
const stonesSchema = z.strictObject({
  kind: z.literal('stones'),
  ...common,
  /** Water between the stones: m along the heading and across it, and how deep. No footing there. */
  length: size(0.2, 2000),
  breadth: size(0.3, 2000),
  depth: size(0, 3),
  /** Middles against the feature's own place and heading, m. */
  stones: z.array(stoneSchema).min(1).max(MOST_STONES),
});
const roughSchema = z.strictObject({
  kind: z.literal('rough'),
  ...common,
  length: size(0.5, 4000),
  breadth: size(0.5, 4000),
  /** Heights go this far (m) up and down, over waves of at least so many m. */
  amount: size(0, 0.5),
  wave: size(0.5, 50),
  seed: z.number().int().min(0).max(1_000_000),
});
/** Whether a text is base64 of so many heights, two bytes each. */
function tellsHeights(text: string, count: number): boolean {
  const letters = Math.ceil((16 * count) / 6);
  return text.length === 4 * Math.ceil(letters / 4) && /^[A-Za-z0-9+/]*$/.test(text.slice(0, letters)) && /^=*$/.test(text.slice(letters));
}

const fieldSchema = z
  .strictObject({
    kind: z.literal('field'),
    ...common,
    length: size(0.5, 2000),
    breadth: size(0.5, 2000),
    columns: z.number().int().min(2).max(FIELD_SIDE),
    rows: z.number().int().min(2).max(FIELD_SIDE),
    /** Heights (m) that 0 and 65535 stand for. */
    low: size(-HEIGHT_LIMIT_M, HEIGHT_LIMIT_M),
    high: size(-HEIGHT_LIMIT_M, HEIGHT_LIMIT_M),
    /** Heights row by row from where the field begins, left to right, each two bytes with the lesser first, in base64. */
    heights: z.string().max(FIELD_SIDE * FIELD_SIDE * 3),
  })
  .refine((f) => tellsHeights(f.heights, f.columns * f.rows), { path: ['heights'], message: 'must be base64 of columns × rows heights, two bytes each' });
const obstacleSchema = z.strictObject({
  kind: z.literal('obstacle'),
  ...common,
  shape: z.enum(['disc', 'box']),
  /** A disc's diameter is its length; m. */
  length: size(0.02, 500),
  breadth: size(0.02, 500),
  height: size(0.02, 50),
});
const bystanderSchema = z.strictObject({
  kind: z.literal('bystander'),
  ...common,
  /** The body that stands there: a shipped one's key or a body's id in the project. */
  body: z.string().min(1).max(64),
});

const featureSchema = z.discriminatedUnion('kind', [slopeSchema, stairsSchema, stonesSchema, roughSchema, fieldSchema, obstacleSchema, bystanderSchema]);
export type GroundFeature = z.infer<typeof featureSchema>;
export type FeatureKind = GroundFeature['kind'];

/** A ground: level at height 0 but for its features. */
export const groundSpecSchema = z.strictObject({
  format: z.literal('nimbret.ground'),
  version: z.literal(1),
  features: z.array(featureSchema).max(MOST_FEATURES),
});
export type GroundSpec = z.infer<typeof groundSpecSchema>;

export const levelSpec = (): GroundSpec => ({ format: 'nimbret.ground', version: 1, features: [] });
