import { clipDocument, type ClipDocument } from '../formats/clip-info';
import type { GaitSpec } from '../gait/spec';
import type { Motion } from '../motion/motion';
import { sampleClip, type SampleOptions } from '../motion/sample';
import { notesOf } from './notes';

/** A motion to be handed over, made for the pictures it will be sampled in, with the gait as it was asked for. */
export interface Order {
  readonly motion: Motion;
  readonly asked: GaitSpec;
}

export interface MadeClip {
  readonly document: ClipDocument;
  /** In words, what was changed or could not be solved exactly. */
  readonly notes: readonly string[];
}

/** Samples a motion at a frame rate into a clip ready to be written. */
export function makeClip({ motion, asked }: Order, rate: number, options: SampleOptions & { inPlace: boolean }): MadeClip {
  const clip = sampleClip(motion, rate, options);
  return { document: clipDocument(motion.body, clip, motion.pace, options.inPlace), notes: notesOf(asked, motion, rate) };
}
