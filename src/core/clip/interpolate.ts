import { poseSize } from '../body/skeleton';
import { slerp } from '../math/quaternion';
import { createFrameReader, type Clip } from './clip';

/**
 * Returns a reader of poses at fractional frames, interpolated as glTF 2.0 LINEAR: lerp of positions, slerp of rotations.
 * With `only`, rotations of the other joints are left as they are.
 */
export function createInterpolator(clip: Clip, only?: Int32Array): (frame: number, out: Float64Array, at: number) => void {
  const size = poseSize(clip.skeleton);
  const moving = clip.skeleton.moving.length * 3;
  const pair = new Float64Array(2 * size);
  const readFrame = createFrameReader(clip);
  const joints = only ?? Int32Array.from(clip.skeleton.names, (_, j) => j);
  const known = [NaN, NaN];
  // Neighbouring looks lie between the same two frames.
  const bring = (f: number) => {
    if (known[0] === f && known[1] === f + 1) return;
    if (known[1] === f) pair.copyWithin(0, size);
    else readFrame(f, pair, 0);
    readFrame(f + 1, pair, size);
    known[0] = f;
    known[1] = f + 1;
  };
  return (frame, out, at) => {
    const f = Math.floor(frame);
    const u = frame - f;
    bring(f);
    if (u === 0) {
      for (let k = 0; k < size; k++) out[at + k] = pair[k]!;
      return;
    }
    for (let k = 0; k < moving; k++) out[at + k] = pair[k]! + (pair[size + k]! - pair[k]!) * u;
    for (let i = 0; i < joints.length; i++) {
      const q = moving + joints[i]! * 4;
      slerp(out, at + q, pair, q, pair, size + q, u);
    }
  };
}
