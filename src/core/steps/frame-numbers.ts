import type { PlanSpec } from './plan';

/** How the pictures of a walk are numbered: from its shot's first on. */
type Numbered = Pick<PlanSpec['shot'], 'firstFrame' | 'from'>;

/** Animators count pictures from 1 where no shot says otherwise; files count theirs from 0. */
export const FROM_ONE: Numbered = { firstFrame: 1, from: null };
export const FROM_ZERO: Numbered = { firstFrame: 0, from: null };

/** Frame number of a time (s), at so many frames a second; fractional between two. */
export const frameAt = ({ firstFrame, from }: Numbered, fps: number, time: number): number => firstFrame + (time - (from ?? 0)) * fps;

/** The frame that is shown at a time. */
export const frameShown = (shot: Numbered, fps: number, time: number): number => Math.floor(frameAt(shot, fps, time) + 1e-6);

/** Time (s) of a frame, from the walk's start on. */
export const timeOfFrame = ({ firstFrame, from }: Numbered, fps: number, frame: number): number =>
  Math.max(0, (Math.round(frame) - firstFrame) / fps + (from ?? 0));
