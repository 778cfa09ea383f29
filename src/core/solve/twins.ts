import { wrapPhase } from '../math/scalar';
import type { Foothold } from '../schedule/foothold';
import type { Schedule } from '../schedule/schedule';
import type { Stance } from './stance';
import type { Swing } from './swing-state';

/** Phases closer than this are the same. */
const SAME_PHASE = 1e-7;

/** What a gait's own cycle has for a foothold of a walk in it. */
export interface Twins {
  /** Stance of the cycle that lands at the same phase; null where there is none. */
  stance(landing: number): Stance | null;
  /** The swing from there on. */
  swing(landing: number): Swing | null;
}

/** A foot through a cycle, as far as twins are looked for in it. */
interface CycleTrack {
  readonly holds: readonly Foothold[];
  stance(i: number): Stance;
  swing(i: number): Swing;
}

/** Finds twins of one side's footholds by the phase in which they land. */
export function createTwins(walk: Schedule, cycle: Schedule, track: CycleTrack): Twins {
  const indexAt = (landing: number): number => {
    const phase = walk.phaseStart + landing / walk.strideTime;
    return track.holds.findIndex((h, i) => {
      const apart = wrapPhase(phase - h.landing / cycle.strideTime + 0.5) - 0.5;
      return i + 1 < track.holds.length && Math.abs(apart) < SAME_PHASE;
    });
  };
  return {
    stance(landing) {
      const i = indexAt(landing);
      return i < 0 ? null : track.stance(i);
    },
    swing(landing) {
      const i = indexAt(landing);
      return i < 0 ? null : track.swing(i);
    },
  };
}
