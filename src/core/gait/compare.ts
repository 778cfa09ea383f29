import { isSplit, readValue } from './access';
import { PARAMETER_LIST, type Channel, type Unit } from './parameters';
import type { GaitSpec } from './spec';

/** One number in which two gaits differ. */
export interface Difference {
  readonly path: string;
  readonly label: string;
  readonly unit: Unit;
  readonly side: 'left' | 'right' | null;
  /** Null where only the drawn curve differs. */
  readonly before: number | null;
  readonly after: number | null;
}

const SAME = 1e-9;

/** Every number in which `after` differs from `before`, in table order; both for the same legs. */
export function differences(before: GaitSpec, after: GaitSpec): Difference[] {
  const found: Difference[] = [];
  for (const entry of PARAMETER_LIST) {
    const { path, parameter: p } = entry;
    const split = isSplit(before, path) || isSplit(after, path);
    for (const side of split ? (['left', 'right'] as const) : (['left'] as const)) {
      const add = (part: string, label: string, unit: Unit, a: number | null, b: number | null) =>
        found.push({
          path: part ? `${path}.${part}` : path,
          label: part ? `${p.label}, ${label}` : p.label,
          unit,
          side: split ? side : null,
          before: a,
          after: b,
        });
      const a = readValue(before, entry, side),
        b = readValue(after, entry, side);
      if (p.kind === 'scalar') {
        if (Math.abs((a as number) - (b as number)) > SAME) add('', '', p.unit, a as number, b as number);
        continue;
      }
      const [x, y] = [a as Channel, b as Channel];
      const parts = [
        ['amount', 'amount', p.unit],
        ['offset', 'around', p.unit],
        ['delay', 'earlier by', 'phase'],
      ] as const;
      for (const [part, label, unit] of parts) if (Math.abs(x[part] - y[part]) > SAME) add(part, label, unit, x[part], y[part]);
      if (JSON.stringify(x.curve ?? null) !== JSON.stringify(y.curve ?? null)) add('curve', 'curve', p.unit, null, null);
    }
  }
  return found;
}
