import { describeIssue } from '@/core/formats/json/decode';
import { KINDS, type Item, type ItemKind } from '@/core/project/kinds';
import { jsonOf, type ItemRow } from './models';
import { Problem } from './problem';

/** Reads a spec of a kind through its schema; what does not fit is answered with every fault. */
export function readSpec(kind: ItemKind, input: unknown): Item['spec'] {
  const parsed = KINDS[kind].schema.safeParse(input);
  if (!parsed.success) throw new Problem(422, 'Not valid', parsed.error.issues.map(describeIssue).join('; '));
  return parsed.data;
}

/** A row as the item it holds, brought to the present version of its format. Throws Problem where it cannot be read. */
export function itemOf(row: ItemRow): Item {
  const item = itemIfWhole(row);
  if (!item)
    throw new Problem(500, 'Stored data not readable', `The stored ${KINDS[row.kind].label} "${row.name}" does not fit its schema. Nothing was changed.`);
  return item;
}

/** The same; null where it cannot be read. */
export function itemIfWhole(row: ItemRow): Item | null {
  try {
    const parsed = KINDS[row.kind].schema.safeParse(jsonOf(row.spec));
    return parsed.success ? { id: row.id, kind: row.kind, version: row.version, spec: parsed.data } : null;
  } catch {
    return null;
  }
}
