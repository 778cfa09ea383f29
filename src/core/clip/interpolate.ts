import { poseSize } from '../body/skeleton';
import { slerp } from '../math/quaternion';
import { readFrame, type Clip } from './clip';

/** Returns a reader of poses at fractional frames, interpolated as glTF 2.0 LINEAR: lerp of positions, slerp of rotations. */
export function createInterpolator(clip: Clip): (frame: number, out: Float64Array, at: number) => void {
  const size = poseSize(clip.skeleton);
  const moving = clip.skeleton.moving.length * 3;
  const pair = new Float64Array(2 * size);
  return (frame, out, at) => {
    const f = Math.floor(frame);
    const u = frame - f;
    readFrame(clip, f, pair, 0);
    if (u === 0) {
      for (let k = 0; k < size; k++) out[at + k] = pair[k]!;
      return;
    }
    readFrame(clip, f + 1, pair, size);
    for (let k = 0; k < moving; k++) out[at + k] = pair[k]! + (pair[size + k]! - pair[k]!) * u;
    for (let q = moving; q < size; q += 4) slerp(out, at + q, pair, q, pair, size + q, u);
  };
}
