import { composePlacement, createPlacement, inversePlacement, placeRoot, type Placement } from '../math/placement';
import { placeTargets } from '../solve/targets';
import { moveFoothold } from './footholds';
import type { Motion } from './motion';

/** A motion put somewhere else on level ground. */
export function placed(motion: Motion, placement: Placement): Motion {
  const by = placement.slice();
  let { repeat } = motion;
  if (repeat) {
    // What a round adds is seen from where the motion now stands.
    const moved = createPlacement(),
      back = createPlacement();
    inversePlacement(back, 0, by, 0);
    composePlacement(moved, 0, by, 0, repeat, 0);
    composePlacement(moved, 0, moved, 0, back, 0);
    repeat = moved;
  }
  return {
    ...motion,
    repeat,
    footholds: (from, to) => motion.footholds(from, to).map((h) => moveFoothold(h, by, 0)),
    place(t, out) {
      motion.place(t, out);
      composePlacement(out, 0, by, 0, out, 0);
    },
    pose(t, out, at) {
      motion.pose(t, out, at);
      placeRoot(out, at, at + 6, by, 0);
    },
    targets(t, out) {
      motion.targets(t, out);
      placeTargets(out, by, 0);
    },
  };
}
