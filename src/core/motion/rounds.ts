import { createPlacement, repeatPlacement, type Placement } from '../math/placement';
import { clamp } from '../math/scalar';

/** A part of a round this close to the next counts as the next: what k / n × duration rounds to. */
const ROUND_EPS = 1e-13;

/** Takes times of a repeating motion apart into whole rounds and a time inside one. */
export interface Rounds {
  /** Time inside the round, s, at [0]. */
  readonly local: Float64Array;
  /** Whole rounds before it. */
  turns: number;
  /** What those rounds add; no change for a motion that does not repeat. */
  readonly moved: Placement;
  set(t: number): void;
}

/** For a round of `duration` s that adds `repeat`; without one, times are held inside the motion. */
export function createRounds(duration: number, repeat: Placement | null): Rounds {
  const moved = createPlacement();
  const local = new Float64Array(1);
  const rounds: Rounds = {
    local,
    moved,
    turns: 0,
    set(t) {
      if (!repeat) {
        local[0] = clamp(t, 0, duration);
        return;
      }
      const q = t / duration;
      let k = Math.floor(q),
        part = q - k;
      if (1 - part < ROUND_EPS) {
        k++;
        part = 0;
      }
      local[0] = part * duration;
      if (k === rounds.turns) return;
      rounds.turns = k;
      repeatPlacement(moved, 0, repeat, 0, k);
    },
  };
  return rounds;
}
