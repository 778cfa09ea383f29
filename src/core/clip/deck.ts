import { poseSize } from '../body/skeleton';
import type { Clip } from './clip';

/** A clip as it is seen from the floor under it: where that moves, its roots go less by as much. */
export function onDeck(clip: Clip): Clip {
  const { deck, ...still } = clip;
  if (!deck) return clip;
  const { skeleton, frames } = clip;
  const size = poseSize(skeleton);
  const poses = clip.poses.slice();
  for (const [m, joint] of skeleton.moving.entries())
    if (skeleton.parents[joint]! < 0)
      for (let f = 0; f < frames; f++) {
        const at = f * size + m * 3;
        poses[at] = poses[at]! - deck[f * 2]!;
        poses[at + 2] = poses[at + 2]! - deck[f * 2 + 1]!;
      }
  return { ...still, poses };
}

/** From where to where a floor goes, m (x and z), and how far from its start at most. */
export function deckWay(deck: ArrayLike<number>): { goes: [number, number]; farthest: number } {
  const from = (i: number, k: number) => deck[i + k]! - deck[k]!;
  let farthest = 0;
  for (let i = 0; i < deck.length; i += 2) farthest = Math.max(farthest, Math.hypot(from(i, 0), from(i, 1)));
  return { goes: [from(deck.length - 2, 0), from(deck.length - 2, 1)], farthest };
}
