import { identityRest, poseSize, type Skeleton } from '../../body/skeleton';
import type { Clip } from '../../clip/clip';
import { finish } from '../../math/finish';
import { sineCosineOfHalf } from '../../math/half-angle';
import { createPlacement } from '../../math/placement';
import type { BvhJoint, BvhPackage } from './package';

/** The motion of a BVH package, lengths × `unitMetres`. End Sites stay aside in `ends` (metres, null where none). */
export interface BvhMotion {
  readonly clip: Clip;
  readonly ends: readonly (readonly [number, number, number] | null)[];
}

/** Frames made between two looks at whether to go on. */
const STEP_FRAMES = 512;

/** The motion of a package at once. */
export function fromBvh(pkg: BvhPackage, unitMetres: number, name: string): BvhMotion {
  return finish(fromBvhBitByBit(pkg, unitMetres, name));
}

/** The same bit by bit; yields the part (0 to 1) that is made. */
export function* fromBvhBitByBit(pkg: BvhPackage, unitMetres: number, name: string): Generator<number, BvhMotion> {
  const { joints } = pkg;
  const skeleton = bvhSkeleton(joints, unitMetres);
  const size = poseSize(skeleton);
  const poses = new Float64Array(pkg.frames * size);
  const fill = filler(joints, skeleton, unitMetres);
  for (let f = 0; f < pkg.frames; f += STEP_FRAMES) {
    fill(pkg.values, poses, f, Math.min(pkg.frames, f + STEP_FRAMES));
    yield f / pkg.frames;
  }
  const clip: Clip = { name, skeleton, frames: pkg.frames, rate: frameRate(pkg.frameTime), loop: false, poses, loopTravel: createPlacement(), contacts: null };
  return { clip, ends: joints.map((j) => (j.end ? (j.end.map((v) => v * unitMetres) as unknown as [number, number, number]) : null)) };
}

/** The joints as a skeleton; the file's own zero is its rest. Joints with position channels move, and so do roots. */
export function bvhSkeleton(joints: readonly BvhJoint[], unitMetres: number): Skeleton {
  return {
    names: joints.map((j) => j.name),
    parents: Int32Array.from(joints, (j) => j.parent),
    offsets: Float64Array.from(joints.flatMap((j) => j.offset.map((v) => v * unitMetres))),
    rest: identityRest(joints.length),
    moving: Int32Array.from(joints.flatMap((joint, j) => (joint.parent < 0 || joint.channels.some((c) => c.endsWith('position')) ? [j] : []))),
  };
}

/** Axis of a channel, 0 to 2, plus 3 for a rotation. */
const channelCode = (channel: string): number => 'XYZ'.indexOf(channel[0]!) + (channel.endsWith('rotation') ? 3 : 0);

/**
 * Returns what turns rows `from` to `to` of numbers into poses. Position channels replace the offset, as assimp takes them; a
 * reader that adds them agrees where a root's offset is zero. Rotations follow each other in the order of the channels.
 */
function filler(joints: readonly BvhJoint[], skeleton: Skeleton, unit: number) {
  const size = poseSize(skeleton);
  const quats = skeleton.moving.length * 3;
  const count = joints.length;
  const first = new Int32Array(count + 1);
  joints.forEach((joint, j) => (first[j + 1] = first[j]! + joint.channels.length));
  const codes = Int8Array.from(joints.flatMap((j) => j.channels.map(channelCode)));
  const width = codes.length;
  const movingAt = Int32Array.from(joints, (_, j) => skeleton.moving.indexOf(j));
  const { offsets } = skeleton;
  const turn = new Float64Array(2);
  return (values: Float64Array, poses: Float64Array, from: number, to: number): void => {
    for (let f = from; f < to; f++) {
      const row = f * width,
        pose = f * size;
      for (let j = 0; j < count; j++) {
        const p = pose + movingAt[j]! * 3;
        if (movingAt[j]! >= 0) for (let k = 0; k < 3; k++) poses[p + k] = offsets[j * 3 + k]!;
        let x = 0,
          y = 0,
          z = 0,
          w = 1;
        for (let c = first[j]!; c < first[j + 1]!; c++) {
          const code = codes[c]!;
          const value = values[row + c]!;
          if (code < 3) {
            poses[p + code] = value * unit;
            continue;
          }
          if (value === 0) continue;
          sineCosineOfHalf(values, row + c, turn);
          const s = turn[0]!,
            o = turn[1]!;
          const a = x,
            b = y,
            d = z,
            e = w;
          if (code === 3) {
            x = a * o + e * s;
            y = b * o + d * s;
            z = d * o - b * s;
            w = e * o - a * s;
          } else if (code === 4) {
            x = a * o - d * s;
            y = b * o + e * s;
            z = d * o + a * s;
            w = e * o - b * s;
          } else {
            x = a * o + b * s;
            y = b * o - a * s;
            z = d * o + e * s;
            w = e * o - d * s;
          }
        }
        const q = pose + quats + j * 4;
        poses[q] = x;
        poses[q + 1] = y;
        poses[q + 2] = z;
        poses[q + 3] = w;
      }
    }
  };
}

/** Frames a second; a frame time written with few digits (0.0166667) means the whole number it is next to. */
function frameRate(frameTime: number): number {
  const rate = 1 / frameTime;
  return Math.abs(rate - Math.round(rate)) < 2e-4 * rate ? Math.round(rate) : rate;
}
