import { poseSize } from '../body/skeleton';
import { composePlacement, createPlacement, inversePlacement, placeRoot } from '../math/placement';
import type { Clip } from './clip';

/** A clip as it is seen from the floor under it: where that moves, its roots go and turn less by as much. */
export function onDeck(clip: Clip): Clip {
  const { deck, ...still } = clip;
  if (!deck) return clip;
  const { skeleton, frames } = clip;
  const size = poseSize(skeleton);
  const quats = skeleton.moving.length * 3;
  const poses = clip.poses.slice();
  const back = createPlacement();
  for (let f = 0; f < frames; f++) {
    inversePlacement(back, 0, deck, f * 4);
    for (const [m, joint] of skeleton.moving.entries())
      if (skeleton.parents[joint]! < 0) placeRoot(poses, f * size + m * 3, f * size + quats + joint * 4, back, 0);
  }
  return { ...still, poses };
}

/** The deck of a clip whose travel (x, z, yaw a frame) is taken out of it: under it the floor goes back where it went ahead. */
export function deckInPlace(travel: ArrayLike<number>, deck: Float64Array | undefined): Float64Array {
  const frames = travel.length / 3;
  const under = new Float64Array(frames * 4);
  const stood = createPlacement();
  for (let f = 0; f < frames; f++) {
    stood.set([travel[f * 3]!, 0, travel[f * 3 + 1]!, travel[f * 3 + 2]!]);
    inversePlacement(under, f * 4, stood, 0);
    if (deck) composePlacement(under, f * 4, under, f * 4, deck, f * 4);
  }
  return under;
}

/** From where to where a floor goes, m (x and z), and how far from its start at most. */
export function deckWay(deck: ArrayLike<number>): { goes: [number, number]; farthest: number } {
  const from = (i: number, k: number) => deck[i + k]! - deck[k]!;
  let farthest = 0;
  for (let i = 0; i < deck.length; i += 4) farthest = Math.max(farthest, Math.hypot(from(i, 0), from(i, 2)));
  return { goes: [from(deck.length - 4, 0), from(deck.length - 4, 2)], farthest };
}
