import { identityRest, poseSize, type Skeleton } from '../../body/skeleton';
import type { Clip } from '../../clip/clip';
import { createPlacement } from '../../math/placement';
import { multiplyAxis, setIdentity } from '../../math/quaternion';
import { toRadians } from '../../math/scalar';
import type { BvhPackage } from './package';

/** The motion of a BVH package, lengths × `unitMetres`. End Sites stay aside in `ends` (metres, null where none). */
export interface BvhMotion {
  readonly clip: Clip;
  readonly ends: readonly (readonly [number, number, number] | null)[];
}

export function fromBvh(pkg: BvhPackage, unitMetres: number, name: string): BvhMotion {
  const { joints } = pkg;
  const moving = joints.flatMap((joint, j) => (joint.parent < 0 || joint.channels.some((c) => c.endsWith('position')) ? [j] : []));
  const skeleton: Skeleton = {
    names: joints.map((j) => j.name),
    parents: Int32Array.from(joints, (j) => j.parent),
    offsets: Float64Array.from(joints.flatMap((j) => j.offset.map((v) => v * unitMetres))),
    rest: identityRest(joints.length),
    moving: Int32Array.from(moving),
  };
  const size = poseSize(skeleton);
  const poses = new Float64Array(pkg.frames * size);
  const quats = moving.length * 3;
  const movingAt = joints.map((_, j) => moving.indexOf(j));
  let read = 0;
  for (let f = 0; f < pkg.frames; f++)
    joints.forEach((joint, j) => {
      const q = f * size + quats + j * 4;
      const p = f * size + movingAt[j]! * 3;
      setIdentity(poses, q);
      if (movingAt[j]! >= 0) for (let k = 0; k < 3; k++) poses[p + k] = skeleton.offsets[j * 3 + k]!;
      for (const channel of joint.channels) {
        const value = pkg.values[read++]!;
        const axis = 'XYZ'.indexOf(channel[0]!) as 0 | 1 | 2;
        // Position channels replace the offset, as assimp takes them; a reader that adds them agrees where a root's offset is zero.
        if (channel.endsWith('position')) poses[p + axis] = value * unitMetres;
        else multiplyAxis(poses, q, poses, q, axis, toRadians(value));
      }
    });
  const clip: Clip = { name, skeleton, frames: pkg.frames, rate: frameRate(pkg.frameTime), loop: false, poses, loopTravel: createPlacement(), contacts: null };
  return { clip, ends: joints.map((j) => (j.end ? (j.end.map((v) => v * unitMetres) as unknown as [number, number, number]) : null)) };
}

/** Frames a second; a frame time written with few digits (0.0166667) means the whole number it is next to. */
function frameRate(frameTime: number): number {
  const rate = 1 / frameTime;
  return Math.abs(rate - Math.round(rate)) < 2e-4 * rate ? Math.round(rate) : rate;
}
