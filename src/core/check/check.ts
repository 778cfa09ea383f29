import { strFromU8 } from 'fflate';
import { findLegs, type Legs } from '../body/find-legs';
import type { Skeleton } from '../body/skeleton';
import type { Sole } from '../body/sole';
import type { Clip } from '../clip/clip';
import { decodeBvh } from '../formats/bvh/decode';
import { fromBvh, type BvhMotion } from '../formats/bvh/to-clip';
import { decodeGlb } from '../formats/gltf/bytes';
import { fromGltf } from '../formats/gltf/read';
import { buildGround } from '../ground/build';
import type { GroundSpec } from '../ground/spec';
import { assertFinite, FormatFault, READ_LIMITS } from '../formats/limits';
import { toDegrees } from '../math/scalar';
import { reportingClip, type ClipReport } from '../measure/report';
import type { Skin } from '../measure/skin';
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
  readonly kneeSnapDegPerS2: number;
  /** Least and largest vertical acceleration of the hips. */
  readonly hipsAccelerationMps2: readonly [number, number];
  /** Least and largest vertical load, parts of the weight; null for a skeleton without the joints it takes. */
  readonly load: readonly [number, number] | null;
  /** Deepest overlap of legs, or of arms with trunk and thighs, as the skin shows it; null where there is no skin. */
  readonly overlapMm: number | null;
  readonly timing: ClipReport['timing'];
}

/** Checks every clip in a BVH or GLB file against a ground; without one against what the file tells, or level ground. Throws FormatFault where the file cannot be read or has no two legs. */
export async function checkFile(bytes: Uint8Array, file: string, ground?: GroundSpec): Promise<CheckResult[]> {
  const work = checkingFile(bytes, file, ground);
  for (;;) {
    const { done, value } = await work.next();
    if (done) return value;
  }
}

/** The same bit by bit. */
export async function* checkingFile(bytes: Uint8Array, file: string, ground?: GroundSpec): AsyncGenerator<undefined, CheckResult[]> {
  const name = file.replace(/^.*[\\/]/, '');
  const results: CheckResult[] = [];
  if (/\.bvh$/i.test(name)) {
    const { clip, unit, legs } = readBvh(bytes, name);
    results.push(yield* checkingClip(clip, name, unit, legs, null, ground));
  } else if (/\.glb$/i.test(name)) {
    const motion = fromGltf(await decodeGlb(bytes));
    for (const clip of motion.clips)
      results.push(yield* checkingClip(clip, name, 1, legsOf(clip.skeleton, [], motion.sole), motion.skin, ground ?? motion.grounds.get(clip.name)));
  } else throw new FormatFault('only .bvh and .glb files can be checked', name);
  return results;
}

function readBvh(bytes: Uint8Array, name: string): { clip: Clip; unit: number; legs: Legs } {
  if (bytes.byteLength > READ_LIMITS.bytes) throw new FormatFault(`the file has ${bytes.byteLength} bytes; the limit is ${READ_LIMITS.bytes}`);
  const text = strFromU8(bytes);
  if (text.includes('\uFFFD') || text.includes('\0')) throw new FormatFault('the file is not UTF-8 text', name);
  const pkg = decodeBvh(text);
  const stem = name.replace(/\.bvh$/i, '');
  const raw = fromBvh(pkg, 1, stem);
  const unit = guessUnit(bvhLegs(raw).legLength);
  const motion = unit === 1 ? raw : fromBvh(pkg, unit, stem);
  return { clip: motion.clip, unit, legs: bvhLegs(motion) };
}

const bvhLegs = (motion: BvhMotion): Legs => legsOf(motion.clip.skeleton, motion.ends, null);

function legsOf(skeleton: Skeleton, ends: BvhMotion['ends'], sole: Sole | null): Legs {
  const legs = findLegs(skeleton, ends, sole);
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

function* checkingClip(source: Clip, file: string, unitMetres: number, legs: Legs, skin: Skin | null, ground?: GroundSpec): Generator<undefined, CheckResult> {
  const clip = asLoop(source, legs.feet);
  if (!(legs.legLength > 1e-4 && legs.legLength < READ_LIMITS.metres))
    throw new FormatFault(`the legs are ${legs.legLength} long; nothing can be measured by them`, clip.name);
  const report = yield* reportingClip(clip, legs.feet, legs.legLength, { ...(skin ? { skin } : {}), ...(ground ? { ground: buildGround(ground) } : {}) });
  const result: CheckResult = {
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
    kneeSnapDegPerS2: toDegrees(report.kneeSnap),
    hipsAccelerationMps2: report.hipsAcceleration,
    load: report.load,
    overlapMm: report.crossing ? Math.max(report.crossing.legsMm, report.crossing.armsMm) : null,
    timing: report.timing,
  };
  assertFinite(result, clip.name);
  return result;
}
