/**
 * Joint angles of level walking at free speed, degrees over percent of stride. Values from memory of Winter (Biomechanics
 * and Motor Control of Human Movement) and Perry & Burnfield (Gait Analysis); people differ by ±5–6° along them.
 */
export const WALKING_CURVES = {
  hip: [
    [0, 27],
    [12, 23],
    [30, 5],
    [50, -11],
    [62, -2],
    [75, 20],
    [87, 29],
    [95, 28],
  ],
  knee: [
    [0, 4],
    [13, 18],
    [40, 5],
    [50, 12],
    [62, 40],
    [72, 60],
    [85, 32],
    [96, 3],
  ],
  ankle: [
    [0, 0],
    [7, -6],
    [30, 6],
    [46, 10],
    [55, 0],
    [62, -17],
    [72, -6],
    [80, 0],
    [95, 1],
  ],
} as const;

export type CurvePoints = readonly (readonly [percent: number, degrees: number])[];

/** One standard deviation between people along the walking curves, degrees. */
export const BETWEEN_PEOPLE_DEG = 6;

/** Smooth periodic curve through the points (cubic with finite-difference tangents); percent in, degrees out. */
export function curveAt(points: CurvePoints, percent: number): number {
  const n = points.length;
  const at = (i: number): readonly [number, number] => {
    const k = ((i % n) + n) % n;
    return [points[k]![0] + 100 * Math.floor(i / n), points[k]![1]];
  };
  const p = ((percent % 100) + 100) % 100;
  let i = n - 1;
  while (i >= 0 && points[i]![0] > p) i--;
  const [x0, y0] = at(i),
    [x1, y1] = at(i + 1);
  const slope = (a: readonly [number, number], b: readonly [number, number]) => (b[1] - a[1]) / (b[0] - a[0]);
  const m0 = slope(at(i - 1), at(i + 1)) * (x1 - x0),
    m1 = slope(at(i), at(i + 2)) * (x1 - x0);
  const u = (p - x0) / (x1 - x0);
  const d = y1 - y0;
  return y0 + u * (m0 + u * (3 * d - 2 * m0 - m1 + u * (m0 + m1 - 2 * d)));
}

/** Root mean square difference in degrees, after taking out a constant offset of at most `offset` degrees. */
export function rmsAgainst(points: CurvePoints, angleDeg: (percent: number) => number, offset = 0): number {
  const diffs = Array.from({ length: 100 }, (_, i) => angleDeg(i) - curveAt(points, i));
  const shift = allowedShift(diffs, offset);
  return Math.sqrt(diffs.reduce((a, b) => a + (b - shift) ** 2, 0) / diffs.length);
}

/** The constant part of the differences, as far as `most` allows it to be taken out. */
export function allowedShift(diffs: readonly number[], most: number): number {
  const mean = diffs.reduce((a, b) => a + b, 0) / diffs.length;
  return Math.max(-most, Math.min(most, mean));
}
