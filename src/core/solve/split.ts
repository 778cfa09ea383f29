import { setIdentity, type Numbers } from '../math/quaternion';

/** Writes q turned by 1/parts of its angle, so that `parts` of them in a chain make q. Both in the caller's buffers. */
export function splitRotation(out: Numbers, o: number, q: Numbers, i: number, parts: number): void {
  const sign = q[i + 3]! < 0 ? -1 : 1;
  const w = Math.min(1, q[i + 3]! * sign);
  const sine = Math.sqrt(Math.max(0, 1 - w * w));
  if (sine < 1e-12) return setIdentity(out, o);
  const half = Math.atan2(sine, w) / parts;
  const k = (Math.sin(half) / sine) * sign;
  out[o] = q[i]! * k;
  out[o + 1] = q[i + 1]! * k;
  out[o + 2] = q[i + 2]! * k;
  out[o + 3] = Math.cos(half);
}
