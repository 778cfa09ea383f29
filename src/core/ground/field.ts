import { encodeHeights } from './relief';
import { HEIGHT_LIMIT_M, PLACE_LIMIT_M, type GroundFeature } from './spec';

/** What a height field is but for its id, name and heading. */
export type FieldShape = Pick<Extract<GroundFeature, { kind: 'field' }>, 'x' | 'z' | 'length' | 'breadth' | 'columns' | 'rows' | 'low' | 'high' | 'heights'>;

/** Most cells along a side that are made of something brought in. */
export const MADE_SIDE = 192;

/** A grid of heights (m), row by row ahead and left to right, as a field that begins at (x, z). */
export function fieldOfGrid(
  grid: ArrayLike<number>,
  columns: number,
  rows: number,
  at: { readonly x: number; readonly z: number; readonly length: number; readonly breadth: number },
): FieldShape {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < grid.length; i++) {
    low = Math.min(low, grid[i]!);
    high = Math.max(high, grid[i]!);
  }
  if (!(high - low > 1e-6)) high = low + 1e-3;
  return { ...at, columns, rows, low, high, heights: encodeHeights(grid, low, high) };
}

/** Longest side (m) and height (m from black to white) of a picture brought in; both are then changed by numbers. */
const PICTURE_M = 10;
const PICTURE_HEIGHT_M = 0.6;

/** A greyscale image, four bytes a pixel, as a field: its lower edge is where the figure comes from. Greys by Rec. 709. */
export function fieldOfPixels(data: ArrayLike<number>, columns: number, rows: number): FieldShape {
  const metre = PICTURE_M / Math.max(columns, rows);
  const grid = Float64Array.from({ length: columns * rows }, (_, i) => {
    const row = rows - 1 - Math.floor(i / columns),
      o = (row * columns + (i % columns)) * 4;
    return ((0.2126 * data[o]! + 0.7152 * data[o + 1]! + 0.0722 * data[o + 2]!) / 255) * PICTURE_HEIGHT_M;
  });
  // The smallest field is half a metre along a side.
  const least = (cells: number) => Math.max(LEAST_SIDE_M, cells * metre);
  return fieldOfGrid(grid, columns, rows, { x: 0, z: 0, length: least(rows), breadth: least(columns) });
}
const LEAST_SIDE_M = 0.5;

/**
 * The ground of triangles seen from above: the highest surface in each cell; cells nothing covers lie as low as the lowest.
 * `points` x, y, z (m, Y up) a vertex, `corners` three a triangle. Throws RangeError where there is no surface to stand on.
 */
export function fieldOfTriangles(points: ArrayLike<number>, corners: ArrayLike<number>): FieldShape {
  let [x0, z0, x1, z1, lowest] = [Infinity, Infinity, -Infinity, -Infinity, Infinity];
  for (let i = 0; i + 2 < points.length; i += 3) {
    x0 = Math.min(x0, points[i]!);
    x1 = Math.max(x1, points[i]!);
    lowest = Math.min(lowest, points[i + 1]!);
    z0 = Math.min(z0, points[i + 2]!);
    z1 = Math.max(z1, points[i + 2]!);
  }
  const [breadth, length] = [x1 - x0, z1 - z0];
  if (!(breadth >= 0.5 && length >= 0.5 && breadth <= 2000 && length <= 2000 && Number.isFinite(lowest)))
    throw new RangeError('its surface must be half a metre to two kilometres long and broad, seen from above');
  const middle = (x0 + x1) / 2;
  if (Math.max(Math.abs(middle), Math.abs(z0)) > PLACE_LIMIT_M) throw new RangeError(`it must lie within ${PLACE_LIMIT_M} m of the origin`);
  const cell = Math.max(breadth, length) / (MADE_SIDE - 1);
  const columns = Math.max(2, Math.round(breadth / cell) + 1),
    rows = Math.max(2, Math.round(length / cell) + 1);
  const grid = new Float64Array(columns * rows).fill(-Infinity);
  const at = (v: number) => {
    const i = corners[v]! * 3;
    // Columns run from the left, which is +X.
    return [((x1 - points[i]!) / breadth) * (columns - 1), points[i + 1]!, ((points[i + 2]! - z0) / length) * (rows - 1)] as const;
  };
  for (let t = 0; t + 2 < corners.length; t += 3) {
    const [a, b, c] = [at(t), at(t + 1), at(t + 2)];
    const area = (b[0] - a[0]) * (c[2] - a[2]) - (c[0] - a[0]) * (b[2] - a[2]);
    if (Math.abs(area) < 1e-12) continue;
    const from = Math.max(0, Math.ceil(Math.min(a[0], b[0], c[0]) - 1e-9)),
      to = Math.min(columns - 1, Math.floor(Math.max(a[0], b[0], c[0]) + 1e-9));
    for (let col = from; col <= to; col++)
      for (
        let row = Math.max(0, Math.ceil(Math.min(a[2], b[2], c[2]) - 1e-9));
        row <= Math.min(rows - 1, Math.floor(Math.max(a[2], b[2], c[2]) + 1e-9));
        row++
      ) {
        const u = ((col - a[0]) * (c[2] - a[2]) - (c[0] - a[0]) * (row - a[2])) / area,
          v = ((b[0] - a[0]) * (row - a[2]) - (col - a[0]) * (b[2] - a[2])) / area;
        if (u < -1e-9 || v < -1e-9 || u + v > 1 + 1e-9) continue;
        const y = a[1] + u * (b[1] - a[1]) + v * (c[1] - a[1]);
        const k = row * columns + col;
        if (y > grid[k]!) grid[k] = y;
      }
  }
  const found = grid.reduce((low, v) => (v > -Infinity && v < low ? v : low), Infinity);
  if (!Number.isFinite(found)) throw new RangeError('it has no surface to stand on');
  const top = grid.reduce((high, v) => Math.max(high, v), -Infinity);
  if (found < -HEIGHT_LIMIT_M || top > HEIGHT_LIMIT_M)
    throw new RangeError(`its heights, ${found.toFixed(1)} to ${top.toFixed(1)} m, must lie within ${HEIGHT_LIMIT_M} m of the origin`);
  for (let k = 0; k < grid.length; k++) if (grid[k] === -Infinity) grid[k] = found;
  return fieldOfGrid(grid, columns, rows, { x: middle, z: z0, length, breadth });
}
