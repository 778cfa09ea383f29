import { ARM_TARGET, armAt, FOOT_TARGET, footAt, TARGET, type Targets } from '../solve/targets';
import type { Motion } from './motion';

/** How far (m) a deck has gone at a time: x and z to out[0], out[1]. */
export type Deck = (t: number, out: Float64Array) => void;

/** A motion on a deck or belt that moves: figure and footholds go along with it. */
export function carried(motion: Motion, deck: Deck): Motion {
  const by = new Float64Array(2);
  return {
    ...motion,
    onGround: motion,
    deck,
    place(t, out) {
      motion.place(t, out);
      deck(t, by);
      out[0] = out[0]! + by[0]!;
      out[2] = out[2]! + by[1]!;
    },
    pose(t, out, at) {
      motion.pose(t, out, at);
      deck(t, by);
      out[at] = out[at]! + by[0]!;
      out[at + 2] = out[at + 2]! + by[1]!;
    },
    targets(t, out) {
      motion.targets(t, out);
      deck(t, by);
      moveTargets(out, by);
    },
  };
}

const PLACES = [TARGET.root, TARGET.hips, ...([0, 1] as const).flatMap((s) => [footAt(s) + FOOT_TARGET.x, armAt(s) + ARM_TARGET.palm])];

function moveTargets(targets: Targets, by: Float64Array): void {
  for (const k of PLACES) {
    targets[k] = targets[k]! + by[0]!;
    targets[k + 2] = targets[k + 2]! + by[1]!;
  }
}
