import { strFromU8 } from 'fflate';
import type { Sole } from '../body/body';
import { createWorldPose, forwardKinematics, poseSize, type Skeleton, type WorldPose } from '../body/skeleton';
import type { Clip } from '../clip/clip';
import { decodeBvh } from '../formats/bvh/decode';
import { fromBvh, type BvhMotion } from '../formats/bvh/to-clip';
import { decodeGlb } from '../formats/gltf/bytes';
import { fromGltf } from '../formats/gltf/read';
import { FormatFault, READ_LIMITS } from '../formats/limits';
import { setIdentity } from '../math/quaternion';
import { reportClip, type ClipReport } from '../measure/report';
import { findLegs, type Legs } from './find-legs';
import { asLoop } from './loop';

/** What `./nimbret check --json` prints. Fields that make no sense for a file are null. */
export interface CheckResult {
  readonly format: 'nimbret.check';
  readonly version: 1;
  readonly file: string;
  readonly clip: string;
  readonly frames: number;
  readonly rate: number;
  readonly unitMetres: number;
  readonly legLengthM: number;
  /** Frames of the file, from 0, both ends inside; the end of a loop's contact may lie in the next round (≥ frames). */
  readonly contacts: readonly { readonly foot: 'left' | 'right'; readonly from: number; readonly to: number }[];
  readonly slideMm: ClipReport['slideMm'];
  readonly sinkMm: number;
  readonly stretch: number;
  readonly seam: ClipReport['seam'];
  readonly travel: ClipReport['travel'];
  readonly timing: ClipReport['timing'];
}

/** Checks every clip in a BVH or GLB file. Throws FormatFault where the file cannot be read or has no two legs. */
export async function checkFile(bytes: Uint8Array, file: string): Promise<CheckResult[]> {
  const name = file.replace(/^.*[\\/]/, '');
  if (/\.bvh$/i.test(name)) return [checkBvh(bytes, name)];
  if (/\.glb$/i.test(name)) {
    const motion = fromGltf(await decodeGlb(bytes));
    return motion.clips.map((clip) => checkClip(clip, name, 1, legsOf(clip.skeleton, restWorld(clip.skeleton, motion.restRotations), [], motion.sole)));
  }
  throw new FormatFault('only .bvh and .glb files can be checked', name);
}

function checkBvh(bytes: Uint8Array, name: string): CheckResult {
  if (bytes.byteLength > READ_LIMITS.bytes) throw new FormatFault(`the file has ${bytes.byteLength} bytes; the limit is ${READ_LIMITS.bytes}`);
  const text = strFromU8(bytes);
  if (text.includes('\uFFFD') || text.includes('\0')) throw new FormatFault('the file is not UTF-8 text', name);
  const pkg = decodeBvh(text);
  const stem = name.replace(/\.bvh$/i, '');
  const raw = fromBvh(pkg, 1, stem);
  const unit = guessUnit(bvhLegs(raw).legLength);
  const motion = unit === 1 ? raw : fromBvh(pkg, unit, stem);
  return checkClip(motion.clip, name, unit, bvhLegs(motion));
}

const bvhLegs = (motion: BvhMotion): Legs => legsOf(motion.clip.skeleton, restWorld(motion.clip.skeleton, null), motion.ends, null);

function legsOf(skeleton: Skeleton, rest: WorldPose, ends: BvhMotion['ends'], sole: Sole | null): Legs {
  const legs = findLegs(skeleton, rest, ends, sole);
  if (!legs) throw new FormatFault('no left and right leg found: a foot or ankle joint named for each side, with a knee and a hip above it, is needed');
  return legs;
}

/** Units motion files are made in: metres, decimetres, centimetres, millimetres, inches. */
const UNITS = [1, 0.1, 0.01, 0.001, 0.0254];
/** Leg length (m) of a person of about 1.7 m. */
const USUAL_LEG_M = 0.84;

/** Metres per unit that make the leg most like a person's. */
export const guessUnit = (legLength: number): number =>
  UNITS.reduce((best, unit) =>
    Math.abs(Math.log((legLength * unit) / USUAL_LEG_M)) < Math.abs(Math.log((legLength * best) / USUAL_LEG_M)) - 1e-9 ? unit : best,
  );

/** World transforms of the rest pose; null rotations = none, as in BVH. */
function restWorld(skeleton: Skeleton, rotations: Float64Array | null): WorldPose {
  const pose = new Float64Array(poseSize(skeleton));
  const quats = skeleton.moving.length * 3;
  skeleton.moving.forEach((j, m) => pose.set(skeleton.offsets.subarray(j * 3, j * 3 + 3), m * 3));
  if (rotations) pose.set(rotations, quats);
  else for (let j = 0; j < skeleton.names.length; j++) setIdentity(pose, quats + j * 4);
  const world = createWorldPose(skeleton);
  forwardKinematics(skeleton, pose, 0, world);
  return world;
}

function checkClip(source: Clip, file: string, unitMetres: number, legs: Legs): CheckResult {
  const clip = asLoop(source, legs.feet);
  const report = reportClip(clip, legs.feet, legs.legLength);
  return {
    format: 'nimbret.check',
    version: 1,
    file,
    clip: clip.name,
    frames: clip.frames,
    rate: clip.rate,
    unitMetres,
    legLengthM: legs.legLength,
    contacts: report.contacts.map((c) => ({ foot: c.foot, from: Math.ceil(c.from - 1e-6), to: Math.floor(c.to + 1e-6) })),
    slideMm: report.slideMm,
    sinkMm: report.sinkMm,
    stretch: report.stretch,
    seam: report.seam,
    travel: report.travel,
    timing: report.timing,
  };
}
