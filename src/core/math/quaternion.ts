/**
 * Unit quaternions (x, y, z, w) inside flat number arrays, addressed by offset. Every function writes into a buffer the
 * caller owns; `out` may be the same place as an input.
 */
export type Numbers = Float64Array | Float32Array | number[];

export function setIdentity(out: Numbers, o: number): void {
  out[o] = out[o + 1] = out[o + 2] = 0;
  out[o + 3] = 1;
}

/** Rotation by `angle` radians about axis 0 = X, 1 = Y, 2 = Z. */
export function setAxis(out: Numbers, o: number, axis: 0 | 1 | 2, angle: number): void {
  out[o] = out[o + 1] = out[o + 2] = 0;
  out[o + axis] = Math.sin(angle / 2);
  out[o + 3] = Math.cos(angle / 2);
}

/** `setAxis` with the angle read from angles[k], so that no double crosses the call. */
export function setAxisFrom(out: Numbers, o: number, axis: 0 | 1 | 2, angles: Float64Array, k: number): void {
  const half = angles[k]! / 2;
  out[o] = out[o + 1] = out[o + 2] = 0;
  out[o + axis] = Math.sin(half);
  out[o + 3] = Math.cos(half);
}

/** out = a · b (b is applied first). */
export function multiply(out: Numbers, o: number, a: Numbers, i: number, b: Numbers, j: number): void {
  const ax = a[i]!,
    ay = a[i + 1]!,
    az = a[i + 2]!,
    aw = a[i + 3]!;
  const bx = b[j]!,
    by = b[j + 1]!,
    bz = b[j + 2]!,
    bw = b[j + 3]!;
  out[o] = aw * bx + ax * bw + ay * bz - az * by;
  out[o + 1] = aw * by - ax * bz + ay * bw + az * bx;
  out[o + 2] = aw * bz + ax * by - ay * bx + az * bw;
  out[o + 3] = aw * bw - ax * bx - ay * by - az * bz;
}

/** out = conj(a) · b: the rotation that takes frame a to frame b, seen from a. */
export function multiplyConjugate(out: Numbers, o: number, a: Numbers, i: number, b: Numbers, j: number): void {
  const ax = -a[i]!,
    ay = -a[i + 1]!,
    az = -a[i + 2]!,
    aw = a[i + 3]!;
  const bx = b[j]!,
    by = b[j + 1]!,
    bz = b[j + 2]!,
    bw = b[j + 3]!;
  out[o] = aw * bx + ax * bw + ay * bz - az * by;
  out[o + 1] = aw * by - ax * bz + ay * bw + az * bx;
  out[o + 2] = aw * bz + ax * by - ay * bx + az * bw;
  out[o + 3] = aw * bw - ax * bx - ay * by - az * bz;
}

/** out = a rotated about its own axis 0 = X, 1 = Y, 2 = Z by `angle` radians (a · axis rotation). */
export function multiplyAxis(out: Numbers, o: number, a: Numbers, i: number, axis: 0 | 1 | 2, angle: number): void {
  ANGLE[0] = angle;
  multiplyAxisFrom(out, o, a, i, axis, ANGLE, 0);
}
const ANGLE = new Float64Array(1);

/** `multiplyAxis` with the angle read from angles[k], so that no double crosses the call. */
export function multiplyAxisFrom(out: Numbers, o: number, a: Numbers, i: number, axis: 0 | 1 | 2, angles: Float64Array, k: number): void {
  const half = angles[k]! / 2;
  const s = Math.sin(half),
    c = Math.cos(half);
  const x = a[i]!,
    y = a[i + 1]!,
    z = a[i + 2]!,
    w = a[i + 3]!;
  if (axis === 0) {
    out[o] = x * c + w * s;
    out[o + 1] = y * c + z * s;
    out[o + 2] = z * c - y * s;
    out[o + 3] = w * c - x * s;
  } else if (axis === 1) {
    out[o] = x * c - z * s;
    out[o + 1] = y * c + w * s;
    out[o + 2] = z * c + x * s;
    out[o + 3] = w * c - y * s;
  } else {
    out[o] = x * c + y * s;
    out[o + 1] = y * c - x * s;
    out[o + 2] = z * c + w * s;
    out[o + 3] = w * c - z * s;
  }
}

/** out[o..o+2] = the vector at v[j..j+2] turned by quaternion q. */
export function rotateFrom(out: Numbers, o: number, q: Numbers, i: number, v: Numbers, j: number): void {
  const x = q[i]!,
    y = q[i + 1]!,
    z = q[i + 2]!,
    w = q[i + 3]!;
  const vx = v[j]!,
    vy = v[j + 1]!,
    vz = v[j + 2]!;
  const tx = 2 * (y * vz - z * vy);
  const ty = 2 * (z * vx - x * vz);
  const tz = 2 * (x * vy - y * vx);
  out[o] = vx + w * tx + y * tz - z * ty;
  out[o + 1] = vy + w * ty + z * tx - x * tz;
  out[o + 2] = vz + w * tz + x * ty - y * tx;
}

/** out[o..o+2] = vector v turned by quaternion q. */
export function rotate(out: Numbers, o: number, q: Numbers, i: number, vx: number, vy: number, vz: number): void {
  const x = q[i]!,
    y = q[i + 1]!,
    z = q[i + 2]!,
    w = q[i + 3]!;
  const tx = 2 * (y * vz - z * vy);
  const ty = 2 * (z * vx - x * vz);
  const tz = 2 * (x * vy - y * vx);
  out[o] = vx + w * tx + y * tz - z * ty;
  out[o + 1] = vy + w * ty + z * tx - x * tz;
  out[o + 2] = vz + w * tz + x * ty - y * tx;
}

/** Spherical interpolation along the shorter arc, as glTF 2.0 prescribes for LINEAR rotation samplers. */
export function slerp(out: Numbers, o: number, a: Numbers, i: number, b: Numbers, j: number, u: number): void {
  let dot = a[i]! * b[j]! + a[i + 1]! * b[j + 1]! + a[i + 2]! * b[j + 2]! + a[i + 3]! * b[j + 3]!;
  const sign = dot < 0 ? -1 : 1;
  dot = Math.min(1, dot * sign);
  const angle = Math.acos(dot);
  // Below this angle sin(angle) loses digits and the chord is as good as the arc.
  const near = angle < 1e-4;
  const s = near ? 1 : Math.sin(angle);
  const p = near ? 1 - u : Math.sin((1 - u) * angle) / s;
  const q = (near ? u : Math.sin(u * angle) / s) * sign;
  for (let k = 0; k < 4; k++) out[o + k] = p * a[i + k]! + q * b[j + k]!;
  normalise(out, o);
}

function normalise(out: Numbers, o: number): void {
  const n = Math.sqrt(out[o]! * out[o]! + out[o + 1]! * out[o + 1]! + out[o + 2]! * out[o + 2]! + out[o + 3]! * out[o + 3]!);
  if (!(n > 0)) return setIdentity(out, o);
  for (let k = 0; k < 4; k++) out[o + k] = out[o + k]! / n;
}

/** Angle in radians between two orientations, 0..π. */
export function angleBetween(a: Numbers, i: number, b: Numbers, j: number): number {
  // The chord is exact for small angles, where acos of a dot product near 1 loses half the digits.
  let plus = 0,
    minus = 0;
  for (let k = 0; k < 4; k++) {
    plus += (a[i + k]! + b[j + k]!) ** 2;
    minus += (a[i + k]! - b[j + k]!) ** 2;
  }
  return 4 * Math.asin(Math.min(1, Math.sqrt(Math.min(plus, minus)) / 2));
}

/**
 * Orientation whose X axis is at axes[k..k+2] and whose Y axis at axes[k+3..k+5] (unit, perpendicular), written as a
 * quaternion. Source: matrix to quaternion by the largest diagonal term (Shepperd 1978).
 */
export function setFromAxesAt(out: Numbers, o: number, axes: Numbers, k: number): void {
  const nx = axes[k]!,
    ny = axes[k + 1]!,
    nz = axes[k + 2]!,
    yx = axes[k + 3]!,
    yy = axes[k + 4]!,
    yz = axes[k + 5]!;
  const zx = ny * yz - nz * yy,
    zy = nz * yx - nx * yz,
    zz = nx * yy - ny * yx;
  const trace = nx + yy + zz;
  if (trace > 0) {
    const s = Math.sqrt(trace + 1) * 2;
    out[o] = (yz - zy) / s;
    out[o + 1] = (zx - nz) / s;
    out[o + 2] = (ny - yx) / s;
    out[o + 3] = s / 4;
  } else if (nx > yy && nx > zz) {
    const s = Math.sqrt(1 + nx - yy - zz) * 2;
    out[o] = s / 4;
    out[o + 1] = (yx + ny) / s;
    out[o + 2] = (zx + nz) / s;
    out[o + 3] = (yz - zy) / s;
  } else if (yy > zz) {
    const s = Math.sqrt(1 + yy - nx - zz) * 2;
    out[o] = (yx + ny) / s;
    out[o + 1] = s / 4;
    out[o + 2] = (zy + yz) / s;
    out[o + 3] = (zx - nz) / s;
  } else {
    const s = Math.sqrt(1 + zz - nx - yy) * 2;
    out[o] = (zx + nz) / s;
    out[o + 1] = (zy + yz) / s;
    out[o + 2] = s / 4;
    out[o + 3] = (ny - yx) / s;
  }
}
