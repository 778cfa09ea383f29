import type { Numbers } from './quaternion';

/** Rotation vector (axis × angle, rad, at most π long) of a unit quaternion. */
export function toRotationVector(out: Numbers, o: number, q: Numbers, i: number): void {
  const sign = q[i + 3]! < 0 ? -1 : 1;
  const s = Math.sqrt(q[i]! * q[i]! + q[i + 1]! * q[i + 1]! + q[i + 2]! * q[i + 2]!);
  // Near no turn the angle is twice the sine.
  const scale = s < 1e-12 ? 2 * sign : (2 * sign * Math.atan2(s, sign * q[i + 3]!)) / s;
  for (let k = 0; k < 3; k++) out[o + k] = scale * q[i + k]!;
}

/** Unit quaternion of a rotation vector. */
export function fromRotationVector(out: Numbers, o: number, v: Numbers, i: number): void {
  const angle = Math.sqrt(v[i]! * v[i]! + v[i + 1]! * v[i + 1]! + v[i + 2]! * v[i + 2]!);
  const scale = angle < 1e-12 ? 0.5 : Math.sin(angle / 2) / angle;
  const w = Math.cos(angle / 2);
  for (let k = 0; k < 3; k++) out[o + k] = scale * v[i + k]!;
  out[o + 3] = w;
}
