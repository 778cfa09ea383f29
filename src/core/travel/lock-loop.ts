import { contactWithin, movedContact, type ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { unrolled } from '../clip/unroll';
import { createPlacement, inversePlacement, placeRoot } from '../math/placement';
import { createLock, type Lock, type LockOptions } from './lock';

/** Rounds a loop is locked in, so that the middle one knows no ends. */
const ROUNDS = 3;

/** The lock of a clip: of a loop, that of its middle round among its neighbours, which is the same each round. */
export function lockOf(figure: ClipFigure, contacts: readonly ClipContact[], options: LockOptions): Lock {
  const { clip } = figure;
  if (!clip.loop) return createLock(figure, contacts, options);
  const n = clip.frames;
  const last = ROUNDS * n - 1;
  const long = Array.from({ length: ROUNDS + 2 }, (_, r) => contacts.map((c) => movedContact(c, (r - 1) * n)))
    .flat()
    .filter((c) => c.to > 0 && c.from < last)
    .map((c): ClipContact => contactWithin(c, 0, last));
  const lock = createLock({ ...figure, clip: unrolled(clip, ROUNDS) }, long, options);
  const { skeleton } = clip;
  const quats = skeleton.moving.length * 3;
  const roots = [...skeleton.parents].flatMap((p, j) => (p < 0 ? [j] : []));
  const back = createPlacement();
  inversePlacement(back, 0, clip.loopTravel, 0);
  return {
    hips: lock.hips.slice(n * 3, 2 * n * 3),
    contacts: lock.contacts.filter((c) => c.from >= n && c.from < 2 * n).map((c) => ({ ...c, ...movedContact(c, -n) })),
    pose(f, out, at) {
      lock.pose(n + f, out, at);
      // The middle round is one loop farther on.
      for (const j of roots) placeRoot(out, at + skeleton.moving.indexOf(j) * 3, at + quats + j * 4, back, 0);
    },
  };
}
