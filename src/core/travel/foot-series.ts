import type { FootModel } from '../body/foot-model';
import { createWorldPose, forwardKinematics, poseSize, withAncestors } from '../body/skeleton';
import { createFrameReader, type Clip } from '../clip/clip';
import { lowPass } from '../math/low-pass';
import { multiply, rotateFrom } from '../math/quaternion';
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
  /** The same without shaking. */
  readonly calm: Float64Array;
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
  for (let i = 0; i < n; i++) {
    if (margin === 0) forwardKinematics(skeleton, clip.poses, i * pose.length, world, only);
    else {
      read(i - margin, pose, 0);
      forwardKinematics(skeleton, pose, 0, world, only);
    }
    const o = i * RAW;
    for (let k = 0; k < 3; k++) raw[o + k] = world.positions[foot.ankle * 3 + k]!;
    for (let k = 0; k < 4; k++) {
      raw[o + 3 + k] = world.rotations[foot.ankle * 4 + k]!;
      raw[o + 7 + k] = world.rotations[foot.toes * 4 + k]!;
    }
    // A rotation and its negative are the same: the sign that goes on.
    if (i > 0) for (const q of [o + 3, o + 7]) if (dot4(raw, q, raw, q - RAW) < 0) for (let k = 0; k < 4; k++) raw[q + k] = -raw[q + k]!;
  }
  const calm = raw.slice();
  for (let k = 0; k < RAW; k++) lowPass(calm, first * RAW + k, RAW, n - first, cutoff, rate);
  readCalm(calm, frame, angles, places, n);
  const own = (values: Float64Array, size: number) => (margin === 0 ? values : values.slice(margin * size, (margin + frames) * size));
  return { foot, frame, raw: own(raw, RAW), calm: own(calm, RAW), angles: own(angles, ANGLES), places: own(places, PLACES) };
}

/** Angles and places of sole and toes at each calmed picture; the heel, the toes' hinge and what hangs on it are fixed to the ankle. */
function readCalm(calm: Float64Array, frame: FootFrame, angles: Float64Array, places: Float64Array, n: number): void {
  const toes = new Float64Array(3),
    sole = new Float64Array(4),
    toesSole = new Float64Array(4),
    v = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    const o = i * RAW,
      a = i * ANGLES,
      p = i * PLACES;
    for (const q of [o + 3, o + 7]) {
      const l = Math.sqrt(dot4(calm, q, calm, q));
      for (let k = 0; k < 4; k++) calm[q + k] = calm[q + k]! / l;
    }
    soleAngles(calm, o + 3, frame.sole, angles, a);
    soleAngles(calm, o + 7, frame.toes, toes, 0);
    angles[a + 3] = toes[0]!;
    angles[a + 4] = toes[1]!;
    if (i > 0) for (const k of TURNS) angles[a + k] = angles[a - ANGLES + k]! + wrapAngle(angles[a + k]! - angles[a - ANGLES + k]!);
    multiply(sole, 0, calm, o + 3, frame.sole, 0);
    multiply(toesSole, 0, calm, o + 7, frame.toes, 0);
    for (let k = 0; k < 3; k++) places[p + k] = calm[o + k]!;
    addRotated(places, p + 3, places, p, sole, frame.heel, v);
    addRotated(places, p + 6, places, p, sole, frame.hinge, v);
    // Ball and tip hang on the hinge; the ball is written last, over it.
    addRotated(places, p + 9, places, p + 6, toesSole, frame.tip, v);
    addRotated(places, p + 6, places, p + 6, toesSole, frame.ball, v);
  }
}

const dot4 = (a: Float64Array, i: number, b: Float64Array, j: number): number =>
  a[i]! * b[j]! + a[i + 1]! * b[j + 1]! + a[i + 2]! * b[j + 2]! + a[i + 3]! * b[j + 3]!;

function addRotated(out: Float64Array, o: number, from: Float64Array, i: number, q: Float64Array, by: Float64Array, v: Float64Array): void {
  rotateFrom(v, 0, q, 0, by, 0);
  for (let k = 0; k < 3; k++) out[o + k] = from[i + k]! + v[k]!;
}
