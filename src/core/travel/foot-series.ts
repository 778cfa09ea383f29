import type { FootModel } from '../body/foot-model';
import { createWorldPose, forwardKinematics, poseSize, withAncestors } from '../body/skeleton';
import { createFrameReader, type Clip } from '../clip/clip';
import { lowPass } from '../math/low-pass';
import { rotateFrom } from '../math/quaternion';
import { wrapAngle } from '../math/scalar';
import { footFrame, soleAngles, type FootFrame } from '../body/foot-frame';

/** Hz above which a foot's angles and place are taken for shaking. */
export const CALM_HZ = 9;
/** Time (s) a loop is looked at beyond its ends, so that smoothing does not see them. */
const ROUND_S = 0.5;

/** One foot through a clip: what it does at each picture, and the same without shaking. Metres, rad, world frame. */
export interface FootSeries {
  readonly foot: FootModel;
  readonly frame: FootFrame;
  /** Of ankle, then toes: place 3 and rotation 4 of the ankle, rotation 4 of the toes; 11 numbers a picture, as recorded. */
  readonly raw: Float64Array;
  /** Heading (counted on over turns), pitch and roll of the sole; heading and pitch of the toes; ANGLES numbers a picture, calmed. */
  readonly angles: Float64Array;
  /** Ankle, heel, ball and tip, PLACES numbers a picture, calmed. */
  readonly places: Float64Array;
}

export const RAW = 11;
export const ANGLES = 5;
export const PLACES = 12;
/** Angles that go round. */
const TURNS = [0, 2, 3];

/**
 * Reads a foot through a clip. `first`: the first frame that belongs to the motion; `cutoff` (Hz): what is quicker is shaking,
 * Infinity for motions that do not shake.
 */
export function footSeries(clip: Clip, foot: FootModel, first = 0, cutoff = CALM_HZ): FootSeries {
  const { frames, rate, skeleton, loop } = clip;
  const frame = footFrame(skeleton, foot);
  const margin = loop ? Math.min(frames, Math.ceil(ROUND_S * rate)) : 0;
  const n = frames + 2 * margin;
  const read = createFrameReader(clip);
  const pose = new Float64Array(poseSize(skeleton));
  const world = createWorldPose(skeleton);
  const only = withAncestors(skeleton, [foot.ankle, foot.toes]);
  const raw = new Float64Array(n * RAW),
    angles = new Float64Array(n * ANGLES),
    places = new Float64Array(n * PLACES);
  const toes = new Float64Array(3);
  const [heel, ball, tip] = [foot.heel, foot.ball, foot.tip].map((p) => Float64Array.from(p)) as [Float64Array, Float64Array, Float64Array];
  for (let i = 0; i < n; i++) {
    if (margin === 0) forwardKinematics(skeleton, clip.poses, i * pose.length, world, only);
    else {
      read(i - margin, pose, 0);
      forwardKinematics(skeleton, pose, 0, world, only);
    }
    const { positions, rotations } = world;
    for (let k = 0; k < 3; k++) raw[i * RAW + k] = positions[foot.ankle * 3 + k]!;
    for (let k = 0; k < 4; k++) {
      raw[i * RAW + 3 + k] = rotations[foot.ankle * 4 + k]!;
      raw[i * RAW + 7 + k] = rotations[foot.toes * 4 + k]!;
    }
    const a = i * ANGLES;
    soleAngles(rotations, foot.ankle * 4, frame.sole, angles, a);
    soleAngles(rotations, foot.toes * 4, frame.toes, toes, 0);
    angles[a + 3] = toes[0]!;
    angles[a + 4] = toes[1]!;
    if (i > 0) for (const k of TURNS) angles[a + k] = angles[a - ANGLES + k]! + wrapAngle(angles[a + k]! - angles[a - ANGLES + k]!);
    const o = i * PLACES;
    rotateFrom(places, o + 3, rotations, foot.ankle * 4, heel, 0);
    rotateFrom(places, o + 6, rotations, foot.toes * 4, ball, 0);
    rotateFrom(places, o + 9, rotations, foot.toes * 4, tip, 0);
    for (let k = 0; k < 3; k++) {
      const ankle = positions[foot.ankle * 3 + k]!;
      places[o + k] = ankle;
      places[o + 3 + k] = places[o + 3 + k]! + ankle;
      for (const point of [6, 9]) places[o + point + k] = places[o + point + k]! + positions[foot.toes * 3 + k]!;
    }
  }
  for (let k = 0; k < ANGLES; k++) lowPass(angles, first * ANGLES + k, ANGLES, n - first, cutoff, rate);
  for (let k = 0; k < PLACES; k++) lowPass(places, first * PLACES + k, PLACES, n - first, cutoff, rate);
  const own = (values: Float64Array, size: number) => (margin === 0 ? values : values.slice(margin * size, (margin + frames) * size));
  return { foot, frame, raw: own(raw, RAW), angles: own(angles, ANGLES), places: own(places, PLACES) };
}
