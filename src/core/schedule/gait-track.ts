import type { GaitSpec } from '../gait/spec';

/** A gait from `at` (s or m) on, gone over into within `stretch` of the same. Fitted to the body. */
export interface GaitKey {
  readonly at: number;
  readonly stretch: number;
  readonly gait: GaitSpec;
}

/** Which gait a walk takes, over its time or over the distance; the first key holds before it, too. */
export interface GaitTrack {
  readonly over: 'time' | 'distance';
  readonly keys: readonly GaitKey[];
}
