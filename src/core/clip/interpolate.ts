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
  return (frame, out, at) => {
    const f = Math.floor(frame);
    const u = frame - f;
    readFrame(f, pair, 0);
    if (u === 0) {
      for (let k = 0; k < size; k++) out[at + k] = pair[k]!;
      return;
    }
    readFrame(f + 1, pair, size);
    for (let k = 0; k < moving; k++) out[at + k] = pair[k]! + (pair[size + k]! - pair[k]!) * u;
    if (only) for (let i = 0; i < only.length; i++) slerp(out, at + moving + only[i]! * 4, pair, moving + only[i]! * 4, pair, size + moving + only[i]! * 4, u);
    else for (let q = moving; q < size; q += 4) slerp(out, at + q, pair, q, pair, size + q, u);
  };
}
