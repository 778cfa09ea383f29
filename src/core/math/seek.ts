/** Largest i in [0, count-1] with times[i * stride] <= t; 0 when t lies before the first. Times ascend. */
export function seekIndex(times: Float64Array, count: number, t: number, stride = 1): number {
  let lo = 0,
    hi = count - 1;
  while (lo < hi) {
    const mid = (lo + hi + 1) >> 1;
    if (times[mid * stride]! <= t) lo = mid;
    else hi = mid - 1;
  }
  return lo;
}
