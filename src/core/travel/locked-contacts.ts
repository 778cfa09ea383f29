import type { ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { seenOn } from './analysis';
import { exactWhere } from './exact-contacts';
import type { Lock } from './lock';
import { recordedParts } from './recorded-parts';
import { traceSoles } from './trace';

/** How a clip is looked at: its floor (m), the first frame of its motion, above which Hz it shakes. */
interface Looks {
  readonly floor: number;
  readonly first: number;
  readonly calm: number;
}

/**
 * Contacts of a figure whose feet were locked: those that the lock holds as it holds them; what it left as the feet show now, of
 * `given` contacts or, where they are null, as they are seen. Those of made clips (`calm` Infinity) are the lock's.
 */
export function lockedContacts(figure: ClipFigure, given: readonly ClipContact[] | null, lock: Lock, how: Looks): ClipContact[] {
  if (how.calm === Infinity) return lock.contacts.slice();
  const shown = given ? recordedParts(figure, given, how) : seenOn(figure, how.first, how.calm);
  return exactWhere(traceSoles(figure.clip, figure.feet), shown, lock.contacts, how.first);
}
