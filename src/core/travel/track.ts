import { poseSize } from '../body/skeleton';
import type { Clip } from '../clip/clip';
import { composePlacement, createPlacement, inversePlacement, placeRoot, type Placement } from '../math/placement';

import type { Axes } from './names';

/** A travel through a clip: a placement (x, y, z, yaw; m, rad) a picture, and what one round of a loop adds. */
export interface Track {
  readonly places: Float64Array;
  readonly round: Placement;
}

/** A clip with its travel taken out and another put under it: motion = travel ∘ (old travel⁻¹ ∘ motion). Exact both ways. */
export function exchangeTravel(clip: Clip, out: Track, put: Track): Clip {
  if (out === put) return clip;
  const { skeleton, frames } = clip;
  const size = poseSize(skeleton);
  const quats = skeleton.moving.length * 3;
  const poses = clip.poses.slice();
  const by = createPlacement();
  const roots = [...skeleton.parents].flatMap((p, j) => (p < 0 ? [j] : []));
  for (let f = 0; f < frames; f++) {
    inversePlacement(by, 0, out.places, f * 4);
    composePlacement(by, 0, put.places, f * 4, by, 0);
    for (const j of roots) placeRoot(poses, f * size + skeleton.moving.indexOf(j) * 3, f * size + quats + j * 4, by, 0);
  }
  return { ...clip, poses, loopTravel: clip.loop ? exchangedRound(clip.loopTravel, out, put) : clip.loopTravel };
}

/** What a round adds after the exchange: the joints' own round seen from the travel that is taken out, put on the new one. */
function exchangedRound(loop: Placement, out: Track, put: Track): Placement {
  const round = createPlacement();
  // Frame N: put.round ∘ put₀ ∘ (out.round ∘ out₀)⁻¹ ∘ loop ∘ pose₀, seen from frame 0: put₀ ∘ out₀⁻¹ ∘ pose₀.
  const a = createPlacement();
  composePlacement(a, 0, out.round, 0, out.places, 0);
  inversePlacement(a, 0, a, 0);
  composePlacement(round, 0, put.places, 0, a, 0);
  composePlacement(round, 0, put.round, 0, round, 0);
  composePlacement(round, 0, round, 0, loop, 0);
  const b = createPlacement();
  composePlacement(b, 0, put.places, 0, inverted(out.places), 0);
  inversePlacement(b, 0, b, 0);
  composePlacement(round, 0, round, 0, b, 0);
  return round;
}

function inverted(places: Float64Array): Placement {
  const out = createPlacement();
  inversePlacement(out, 0, places, 0);
  return out;
}

/** A travel with only some of its axes: steps along and across the heading, up, and turns are kept or left out one by one. */
export function withAxes(track: Track, axes: Axes): Track {
  if (axes.forward && axes.sideways && axes.height && axes.turn) return track;
  const { places, round } = track;
  const frames = places.length / 4;
  const kept = new Float64Array(places.length);
  kept.set(places.subarray(0, 4));
  const step = (from: Float64Array, i: number, to: Float64Array, j: number, out: Float64Array, o: number) => {
    const dx = to[j]! - from[i]!,
      dz = to[j + 2]! - from[i + 2]!;
    // Seen from the heading half way, so that there and back are the same.
    const yaw = (from[i + 3]! + to[j + 3]!) / 2;
    const s = Math.sin(yaw),
      c = Math.cos(yaw);
    const forward = axes.forward ? dx * s + dz * c : 0,
      left = axes.sideways ? dx * c - dz * s : 0;
    const turned = out[o + 3]! + (axes.turn ? to[j + 3]! - from[i + 3]! : 0);
    const half = (out[o + 3]! + turned) / 2;
    const [hs, hc] = [Math.sin(half), Math.cos(half)];
    return [out[o]! + forward * hs + left * hc, out[o + 1]! + (axes.height ? to[j + 1]! - from[i + 1]! : 0), out[o + 2]! + forward * hc - left * hs, turned];
  };
  for (let f = 1; f < frames; f++) kept.set(step(places, (f - 1) * 4, places, f * 4, kept, (f - 1) * 4), f * 4);
  // The round's last step, from the last picture to the first of the next round.
  const next = createPlacement();
  composePlacement(next, 0, round, 0, places, 0);
  const end = createPlacement(...(step(places, (frames - 1) * 4, next, 0, kept, (frames - 1) * 4) as [number, number, number, number]));
  const first = createPlacement();
  inversePlacement(first, 0, kept, 0);
  composePlacement(end, 0, end, 0, first, 0);
  return { places: kept, round: end };
}

/** A travel that stays where another begins. */
export function stayingTrack({ places }: Track): Track {
  const still = new Float64Array(places.length);
  for (let at = 0; at < still.length; at += 4) still.set(places.subarray(0, 4), at);
  return { places: still, round: createPlacement() };
}
