import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { readFrame, type Clip, type ClipContact } from '../clip/clip';
import { angleBetween } from '../math/quaternion';
import { CONTACT_NUMBERS, contactPoints, type FootModel } from './foot-model';

/** Measures of a whole clip at its frames. */
export interface BodyMeasures {
  /** Deepest sole point under the ground, mm. */
  readonly sinkMm: number;
  /** Largest height of a standing foot's lowest point over the ground, mm. */
  readonly floatMm: number;
  /** Largest hip-ankle distance as part of the leg's length. */
  readonly stretch: number;
  /** Largest angular acceleration of a knee, rad/s². */
  readonly kneeSnap: number;
}

/** Walks through the frames once; ground at height `ground` (m). */
export function measureBody(clip: Clip, feet: readonly FootModel[], contacts: readonly ClipContact[], ground = 0): BodyMeasures {
  const pose = new Float64Array(poseSize(clip.skeleton));
  const world = createWorldPose(clip.skeleton);
  const points = new Float64Array(CONTACT_NUMBERS);
  const knees = feet.map(() => new Float64Array(clip.frames + 2));
  let sink = 0,
    float = 0,
    stretch = 0;
  const p = world.positions;
  const distance = (a: number, b: number) => Math.hypot(p[a * 3]! - p[b * 3]!, p[a * 3 + 1]! - p[b * 3 + 1]!, p[a * 3 + 2]! - p[b * 3 + 2]!);
  for (let f = -1; f <= clip.frames; f++) {
    readFrame(clip, f, pose, 0);
    forwardKinematics(clip.skeleton, pose, 0, world);
    feet.forEach((foot, i) => {
      contactPoints(foot, world, points, 0);
      const lowest = Math.min(points[1]!, points[4]!, points[7]!) - ground;
      sink = Math.max(sink, -lowest);
      if (contacts.some((c) => c.foot === foot.name && f >= c.from && f <= c.to)) float = Math.max(float, lowest);
      const thigh = distance(foot.hip, foot.knee),
        shank = distance(foot.knee, foot.ankle),
        span = distance(foot.hip, foot.ankle);
      stretch = Math.max(stretch, span / (thigh + shank));
      knees[i]![f + 1] = Math.PI - Math.acos(Math.min(1, Math.max(-1, (thigh * thigh + shank * shank - span * span) / (2 * thigh * shank))));
    });
  }
  let snap = 0;
  for (const knee of knees)
    for (let f = 1; f <= clip.frames; f++) {
      if (!clip.loop && (f === 1 || f === clip.frames)) continue;
      snap = Math.max(snap, Math.abs(knee[f + 1]! - 2 * knee[f]! + knee[f - 1]!) * clip.rate * clip.rate);
    }
  return { sinkMm: sink * 1000, floatMm: float * 1000, stretch, kneeSnap: snap };
}

/** Frames on each side that the velocity estimate at a frame looks at. */
const REACH = 3;

/** Jump from a loop's last frame to its first. Clips that do not loop have none. */
export interface Seam {
  /** Largest joint position jump in m: the closing picture against the first one moved on by the travel. */
  readonly positionM: number;
  /** Largest velocity jump of a joint, as a part of that joint's largest speed, beyond the largest jump inside the clip. */
  readonly velocityShare: number | null;
}

/**
 * Seam of a loop. `closing`, when given, is the pose that follows the last frame as computed or stored (so that an honest
 * difference can show); without it the loop closes on its own first frame and the position jump is 0 by definition.
 */
export function measureSeam(clip: Clip, closing?: Float64Array): Seam | null {
  if (!clip.loop) return null;
  const joints = clip.skeleton.names.length;
  const size = poseSize(clip.skeleton);
  const pose = new Float64Array(size);
  const place = (f: number): Float64Array => {
    const world = createWorldPose(clip.skeleton);
    readFrame(clip, f, pose, 0);
    forwardKinematics(clip.skeleton, pose, 0, world);
    return world.positions;
  };
  const positions = Array.from({ length: clip.frames + 2 * REACH }, (_, i) => place(i - REACH));
  let jump = 0;
  if (closing) {
    const world = createWorldPose(clip.skeleton);
    forwardKinematics(clip.skeleton, closing, 0, world);
    const next = place(clip.frames);
    for (let k = 0; k < joints * 3; k++) jump = Math.max(jump, Math.abs(world.positions[k]! - next[k]!));
    const quats = clip.skeleton.moving.length * 3;
    for (let j = 0; j < joints; j++) jump = Math.max(jump, angleBetween(pose, quats + j * 4, closing, quats + j * 4) * 0.1);
  }
  // Too few frames to tell the seam from the rest.
  if (clip.frames < 3 * REACH) return { positionM: jump, velocityShare: null };
  let share = 0;
  for (let j = 0; j < joints; j++) {
    const at = (f: number, k: number) => positions[f + REACH]![j * 3 + k]!;
    // Velocity after frame f against velocity before it, both by third-order one-sided differences.
    const change = (f: number): number => {
      const side = (s: 1 | -1, k: number) => (s * (-11 * at(f, k) + 18 * at(f + s, k) - 9 * at(f + 2 * s, k) + 2 * at(f + 3 * s, k))) / 6;
      return Math.hypot(side(1, 0) - side(-1, 0), side(1, 1) - side(-1, 1), side(1, 2) - side(-1, 2));
    };
    let fastest = 0,
      roughest = 0;
    for (let f = 0; f < clip.frames; f++) {
      fastest = Math.max(fastest, Math.hypot(at(f + 1, 0) - at(f, 0), at(f + 1, 1) - at(f, 1), at(f + 1, 2) - at(f, 2)));
      // Nearer to the seam the estimate itself looks across it.
      if (f >= REACH && f <= clip.frames - REACH) roughest = Math.max(roughest, change(f));
    }
    // Velocity changes from frame to frame everywhere; a seam is what it changes more there than anywhere else.
    if (fastest > 1e-9) share = Math.max(share, (change(0) - roughest) / fastest);
  }
  return { positionM: jump, velocityShare: Math.max(0, share) };
}
