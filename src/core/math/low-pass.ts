/** Two passes, there and back, lower the cut-off of one: this brings it to where it was asked for. */
const TWO_PASSES = 1 / (Math.SQRT2 - 1) ** 0.25;

/**
 * Butterworth low-pass of second order, run forward and backward so that nothing is late: the smoothing biomechanics uses
 * (D. A. Winter, Biomechanics and Motor Control of Human Movement, from memory of it). Filters `count` numbers of `values`
 * in place, from `at` on, `stride` apart; `cutoff` and `rate` in Hz, below half the rate, or nothing is changed.
 */
export function lowPass(values: Float64Array, at: number, stride: number, count: number, cutoff: number, rate: number): void {
  if (!(cutoff < 0.49 * rate) || count < 3) return;
  const wc = Math.tan((Math.PI * cutoff) / rate) * TWO_PASSES;
  const a0 = (wc * wc) / (1 + Math.SQRT2 * wc + wc * wc);
  const k3 = (2 * a0) / (wc * wc);
  const b1 = k3 - 2 * a0,
    b2 = 1 - 2 * a0 - k3;
  // Mirrored about its end points the row goes on as it came, so that its ends are not pulled.
  const margin = Math.min(count - 1, Math.ceil((1.5 * rate) / cutoff));
  const n = count + 2 * margin;
  const row = new Float64Array(n);
  const read = (i: number) => values[at + i * stride]!;
  for (let i = 0; i < n; i++) {
    const k = i - margin;
    row[i] = k < 0 ? 2 * read(0) - read(-k) : k >= count ? 2 * read(count - 1) - read(2 * (count - 1) - k) : read(k);
  }
  for (const step of [1, -1]) {
    let i = step > 0 ? 0 : n - 1;
    let x1 = row[i]!,
      x2 = x1,
      y1 = x1,
      y2 = x1;
    for (; i >= 0 && i < n; i += step) {
      const x = row[i]!;
      const y = a0 * (x + 2 * x1 + x2) + b1 * y1 + b2 * y2;
      x2 = x1;
      x1 = x;
      y2 = y1;
      y1 = y;
      row[i] = y;
    }
  }
  for (let i = 0; i < count; i++) values[at + i * stride] = row[margin + i]!;
}
