import { createWorldPose, forwardKinematics, poseSize, withAncestors } from '../body/skeleton';
import type { Clip } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { acosClamped } from '../math/scalar';
import { carrierOf } from './lock';

/** How far something was moved at most (m, or rad), and at which frame. */
interface Most {
  readonly most: number;
  readonly frame: number;
}

/** What a lock did to a clip besides holding its feet. */
export interface Moved {
  /** The hips: on the whole and at most, m. */
  readonly hips: Most & { readonly mean: number };
  /** The ankle that was moved farthest, m, and the knee that was bent anew most, rad; which side. */
  readonly ankles: Most & { readonly foot: 'left' | 'right' };
  readonly knees: Most & { readonly foot: 'left' | 'right' };
  /** Hz above which what the lock moves was taken for shaking and left out; null where nothing was. */
  readonly calmHz: number | null;
}

/** An ankle that a lock moves farther than this (m) is a fault. */
export const ANKLE_FAULT_M = 0.06;

/** How far a lock moved hips, ankles and knees: of the clip as it travels, and locked. */
export function movedBy({ clip, roles, feet }: ClipFigure, locked: Clip, calm: number): Moved {
  const { skeleton, frames } = clip;
  const size = poseSize(skeleton);
  const carrier = carrierOf(skeleton, roles);
  const only = withAncestors(skeleton, [carrier, ...feet.map((f) => f.ankle)]);
  const [a, b] = [createWorldPose(skeleton), createWorldPose(skeleton)];
  const apart = (j: number) => Math.hypot(...[0, 1, 2].map((k) => a.positions[j * 3 + k]! - b.positions[j * 3 + k]!));
  let [sum, hips]: [number, Most] = [0, { most: 0, frame: 0 }];
  let ankles: Moved['ankles'] = { most: 0, frame: 0, foot: 'left' },
    knees = ankles;
  for (let f = 0; f < frames; f++) {
    forwardKinematics(skeleton, clip.poses, f * size, a, only);
    forwardKinematics(skeleton, locked.poses, f * size, b, only);
    const own = apart(carrier);
    sum += own;
    if (own > hips.most) hips = { most: own, frame: f };
    for (const { name, hip, knee, ankle } of feet) {
      const moved = apart(ankle);
      if (moved > ankles.most) ankles = { most: moved, frame: f, foot: name };
      const bent = Math.abs(bend(a.positions, hip, knee, ankle) - bend(b.positions, hip, knee, ankle));
      if (bent > knees.most) knees = { most: bent, frame: f, foot: name };
    }
  }
  return { hips: { ...hips, mean: sum / frames }, ankles, knees, calmHz: calm === Infinity ? null : calm };
}

function bend(p: Float64Array, hip: number, knee: number, ankle: number): number {
  let [dot, u, v] = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    const [x, y] = [p[knee * 3 + k]! - p[hip * 3 + k]!, p[ankle * 3 + k]! - p[knee * 3 + k]!];
    dot += x * y;
    u += x * x;
    v += y * y;
  }
  return acosClamped(dot / Math.sqrt(u * v));
}
