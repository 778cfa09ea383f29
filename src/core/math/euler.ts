/**
 * Quaternions from angles about axes, straight into their four numbers: angles in radians at angles[k], angles[k + 1], …
 * in the order in which the name has the axes (Y X Z: first letter outermost). Doubles come through arrays, so none is boxed.
 */

export function setYxz(out: Float64Array, o: number, angles: Float64Array, k: number): void {
  const y = angles[k]! / 2,
    x = angles[k + 1]! / 2,
    z = angles[k + 2]! / 2;
  const sy = Math.sin(y),
    cy = Math.cos(y),
    sx = Math.sin(x),
    cx = Math.cos(x),
    sz = Math.sin(z),
    cz = Math.cos(z);
  // Y X, then Z.
  const ax = cy * sx,
    ay = sy * cx,
    az = -sy * sx,
    aw = cy * cx;
  out[o] = ax * cz + ay * sz;
  out[o + 1] = ay * cz - ax * sz;
  out[o + 2] = az * cz + aw * sz;
  out[o + 3] = aw * cz - az * sz;
}

export function setYzx(out: Float64Array, o: number, angles: Float64Array, k: number): void {
  const y = angles[k]! / 2,
    z = angles[k + 1]! / 2,
    x = angles[k + 2]! / 2;
  const sy = Math.sin(y),
    cy = Math.cos(y),
    sz = Math.sin(z),
    cz = Math.cos(z),
    sx = Math.sin(x),
    cx = Math.cos(x);
  const ax = sy * sz,
    ay = sy * cz,
    az = cy * sz,
    aw = cy * cz;
  out[o] = ax * cx + aw * sx;
  out[o + 1] = ay * cx + az * sx;
  out[o + 2] = az * cx - ay * sx;
  out[o + 3] = aw * cx - ax * sx;
}

export function setYz(out: Float64Array, o: number, angles: Float64Array, k: number): void {
  const y = angles[k]! / 2,
    z = angles[k + 1]! / 2;
  const sy = Math.sin(y),
    cy = Math.cos(y),
    sz = Math.sin(z),
    cz = Math.cos(z);
  out[o] = sy * sz;
  out[o + 1] = sy * cz;
  out[o + 2] = cy * sz;
  out[o + 3] = cy * cz;
}

export function setXzx(out: Float64Array, o: number, angles: Float64Array, k: number): void {
  const sum = (angles[k]! + angles[k + 2]!) / 2,
    difference = (angles[k]! - angles[k + 2]!) / 2,
    z = angles[k + 1]! / 2;
  const sz = Math.sin(z),
    cz = Math.cos(z);
  out[o] = cz * Math.sin(sum);
  out[o + 1] = -sz * Math.sin(difference);
  out[o + 2] = sz * Math.cos(difference);
  out[o + 3] = cz * Math.cos(sum);
}
