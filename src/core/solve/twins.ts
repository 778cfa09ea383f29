import { wrapPhase } from '../math/scalar';
import type { Foothold } from '../schedule/foothold';
import { stridesAt, type Schedule } from '../schedule/schedule';
import type { Stance } from './stance';
import type { Swing } from './swing-state';
import type { Twin } from './twin';

/** Phases closer than this are the same. */
const SAME_PHASE = 1e-7;

/** What is known already for the stances and swings of one foot. */
export interface Twins {
  /** Whether the first and last footholds may have twins, too. */
  readonly ends: boolean;
  /** Stance that lands at the same phase, or half a stride from it with the other foot; null where there is none. */
  stance(landing: number): Twin<Stance> | null;
  /** The swing from there on. */
  swing(landing: number): Twin<Swing> | null;
}

/** A foot through a cycle, as far as twins are looked for in it. */
interface CycleTrack {
  readonly holds: readonly Foothold[];
  stance(i: number): Stance;
  swing(i: number): Swing;
}

/** Twins of one side's footholds in a walk: what the gait's own cycle has at their phase. */
export const walkTwins = (walk: Schedule, cycle: Schedule, track: CycleTrack): Twins => find(walk, cycle, track, false);

/** Twins of one side's footholds in a cycle: what the other foot's `track` has half a stride from them. */
export const mirrorTwins = (cycle: Schedule, track: CycleTrack): Twins => find(cycle, cycle, track, true);

function find(own: Schedule, cycle: Schedule, track: CycleTrack, mirrored: boolean): Twins {
  const indexAt = (landing: number): number => {
    const phase = stridesAt(own, landing) + (mirrored ? 0.5 : 0);
    return track.holds.findIndex((h, i) => {
      const apart = wrapPhase(phase - h.landing / cycle.strideTime + 0.5) - 0.5;
      return i + 1 < track.holds.length && Math.abs(apart) < SAME_PHASE;
    });
  };
  return {
    // A walk's first and last footholds are its own.
    ends: mirrored,
    stance(landing) {
      const i = indexAt(landing);
      return i < 0 ? null : { of: track.stance(i), mirrored };
    },
    swing(landing) {
      const i = indexAt(landing);
      return i < 0 ? null : { of: track.swing(i), mirrored };
    },
  };
}
