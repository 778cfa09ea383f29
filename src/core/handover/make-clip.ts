import type { Carrier } from '../clip/carried';
import { clipDocument, type ClipDocument } from '../formats/clip-info';
import type { GaitSpec } from '../gait/spec';
import { finish } from '../math/finish';
import { measuringCrossing } from '../measure/crossing';
import { mannequinSkin } from '../measure/skin';
import type { Motion } from '../motion/motion';
import { sampleClip, type SampleOptions } from '../motion/sample';
import { notesOf, type Note } from './notes';

/** A motion to be handed over, made for the pictures it will be sampled in, with the gait as it was asked for. */
export interface Order {
  readonly motion: Motion;
  readonly asked: GaitSpec;
}

export interface MadeClip {
  readonly document: ClipDocument;
  /** In words, what was changed or could not be solved exactly. */
  readonly notes: readonly Note[];
}

/** How a motion is written. */
export type MakeOptions = SampleOptions & { readonly inPlace: boolean; readonly carrier?: Carrier | null };

/** Samples a motion at a frame rate into a clip ready to be written. */
export const makeClip = (order: Order, rate: number, options: MakeOptions): MadeClip => finish(makingClip(order, rate, options));

/** The same; looks for limbs that run into each other bit by bit. */
export function* makingClip({ motion, asked }: Order, rate: number, options: MakeOptions): Generator<undefined, MadeClip> {
  const clip = sampleClip(motion, rate, options);
  const crossing = yield* measuringCrossing(clip, mannequinSkin(motion.body));
  yield* motion.surveying();
  return {
    document: clipDocument(motion.body, clip, motion.pace, options.inPlace, motion.ground.spec ?? null, options.carrier ?? null),
    notes: notesOf(asked, motion, rate, crossing),
  };
}
