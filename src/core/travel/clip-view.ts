import type { Measured } from '../body/measured';
import { JOINT } from '../body/roles';
import { rotationAt } from '../body/skeleton';
import type { Clip, ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { composePlacement, createPlacement, repeatPlacement } from '../math/placement';
import { multiply, rotate } from '../math/quaternion';
import { lerp } from '../math/scalar';
import { clipMotion } from '../motion/clip-motion';
import type { Motion } from '../motion/motion';

/** What of a prepared clip it takes to show it. */
export interface ShownClip {
  /** The clip as it comes out. */
  readonly clip: Clip;
  readonly figure: Pick<ClipFigure, 'roles' | 'feet' | 'legLength'>;
  readonly contacts: readonly ClipContact[];
  /** Where its travel is, 4 numbers a picture, and the floor's level (m), which is shown as the ground. */
  readonly places: Float64Array;
  readonly floor: number;
}

/** A prepared clip as a motion of the body measured on its own skeleton: all that the walkway knows of. The root goes with the travel. */
export function clipView({ clip, contacts, places, floor }: ShownClip, { body, rig }: Measured): Motion {
  const level = { ...rig, take: levelled(rig.take, floor) };
  const base = clipMotion({ ...clip, contacts }, body, level);
  const q = rotationAt(body.skeleton, JOINT.root),
    hips = rotationAt(body.skeleton, JOINT.hips);
  const at = createPlacement();
  const { frames, loop, loopTravel } = clip;
  // The picture behind a loop's last is its first, one round on.
  const next = createPlacement(...(places.subarray((frames - 1) * 4, frames * 4) as unknown as [number, number, number, number]));
  if (loop) composePlacement(next, 0, loopTravel, 0, places, 0);
  const rounds = createPlacement();
  const place = (t: number, out: Float64Array) => {
    const frame = t * clip.rate;
    const round = loop ? Math.floor(frame / frames + 1e-12) : 0;
    const local = Math.min(loop ? frames - 1e-9 : frames - 1, Math.max(0, frame - round * frames));
    const f = Math.floor(local);
    const u = local - f;
    for (let k = 0; k < 4; k++) out[k] = lerp(places[f * 4 + k]!, f + 1 < frames ? places[f * 4 + 4 + k]! : next[k]!, u);
    out[1] = 0;
    if (round === 0) return;
    repeatPlacement(rounds, 0, loopTravel, 0, round);
    composePlacement(out, 0, rounds, 0, out, 0);
  };
  const turn = [0, 0, 0, 1],
    back = [0, 0, 0, 1],
    v = [0, 0, 0];
  return {
    ...base,
    place,
    pose(t, out, o) {
      base.pose(t, out, o);
      place(t, at);
      // The hips stay where they are; the root under them goes with the travel.
      const half = at[3]! / 2;
      turn[1] = Math.sin(half);
      turn[3] = Math.cos(half);
      back[1] = -turn[1]!;
      back[3] = turn[3]!;
      rotate(v, 0, back, 0, out[o]! + out[o + 3]! - at[0]!, out[o + 4]!, out[o + 2]! + out[o + 5]! - at[2]!);
      for (let k = 0; k < 3; k++) {
        out[o + k] = at[k]!;
        out[o + 3 + k] = v[k]!;
      }
      for (let k = 0; k < 4; k++) out[o + q + k] = turn[k]!;
      multiply(out, o + hips, back, 0, out, o + hips);
    },
  };
}

/** Poses with the floor at height 0. */
function levelled(take: Measured['rig']['take'], floor: number): Measured['rig']['take'] {
  return (pose, at, out, o) => {
    take(pose, at, out, o);
    out[o + 4] = out[o + 4]! - floor;
  };
}
