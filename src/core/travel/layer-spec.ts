import { z } from 'zod';
import { ROLES } from '../body/roles';

/** What a layer of corrections acts on besides single joints: places and turns that are solved before or with the limbs. */
const LAYER_TARGETS = ['hips', 'chest', 'look', 'leftFoot', 'rightFoot', 'leftHand', 'rightHand'] as const;
export type LayerTarget = (typeof LAYER_TARGETS)[number] | `joint ${(typeof ROLES)[number]}`;

const JOINTS = ROLES.filter((r) => r !== 'root').map((r) => `joint ${r}` as const);
export const ALL_TARGETS = [...LAYER_TARGETS, ...JOINTS] as const;

const metres = z.number().min(-5).max(5);
const radians = z.number().min(-7).max(7);

/** A key of a layer: at a time (s) so far to the left, up and forward (m), and turned about left, up and forward (rad), seen from where the body faces. */
const layerKeySchema = z.strictObject({
  at: z.number().min(0).max(20_000),
  move: z.tuple([metres, metres, metres]),
  turn: z.tuple([radians, radians, radians]),
});
export type LayerKey = z.infer<typeof layerKeySchema>;

/** A layer of corrections on a clip. */
export const layerSchema = z.strictObject({
  name: z.string().trim().min(1).max(80),
  /** Added to what is there, or in its place. */
  mode: z.enum(['additive', 'replacing']),
  target: z.enum(ALL_TARGETS as unknown as [LayerTarget, ...LayerTarget[]]),
  weight: z.number().min(0).max(1),
  mute: z.boolean(),
  solo: z.boolean(),
  /**
   * When it counts: from, to, and how long it takes to come and to go, in s of the clip, or in parts of every stride from a landing
   * of the left foot on; null for the whole clip.
   */
  fade: z
    .strictObject({
      from: z.number().min(0),
      to: z.number().min(0),
      in: z.number().min(0).max(60),
      out: z.number().min(0).max(60),
      over: z.enum(['time', 'phase']).default('time'),
    })
    .nullable(),
  keys: z.array(layerKeySchema).max(2000),
});
export type Layer = z.infer<typeof layerSchema>;

export const newLayer = (name: string, target: LayerTarget): Layer => ({
  name,
  mode: 'additive',
  target,
  weight: 1,
  mute: false,
  solo: false,
  fade: null,
  keys: [],
});
