import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { readFrame, type Clip, type ClipContact } from '../clip/clip';
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
