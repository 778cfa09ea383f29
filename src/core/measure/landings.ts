import type { Side } from '../body/roles';
import { wrapPhase } from '../math/scalar';
import type { Motion } from '../motion/motion';

/** Phase (parts of a round, [0, 1)) of a foot's landing in a motion that repeats: of several, the one after its longest time in the air. */
export function landingPhase(motion: Motion, side: Side): number {
  const own = motion.contacts.filter((c) => c.side === side);
  const air = (i: number) => {
    const before = own[(i + own.length - 1) % own.length]!;
    return wrapPhase((own[i]!.from - before.to) / motion.duration);
  };
  let best = 0;
  for (let i = 1; i < own.length; i++) if (air(i) > air(best)) best = i;
  return own[best] ? wrapPhase(own[best].from / motion.duration) : 0;
}

/** Part of a repeating motion's round in which so many feet (0, 1 or 2) are on the ground, exactly, from its contacts. */
export function standingShare(motion: Motion, feet: number): number {
  const { duration } = motion;
  const marks = [...new Set([0, duration, ...motion.contacts.flatMap((c) => [c.from, c.to].map((t) => wrapPhase(t / duration) * duration))])].sort(
    (a, b) => a - b,
  );
  let share = 0;
  for (let i = 0; i + 1 < marks.length; i++) {
    const middle = (marks[i]! + marks[i + 1]!) / 2;
    const standing = new Set(motion.contacts.filter((c) => wrapPhase((middle - c.from) / duration) * duration < c.to - c.from).map((c) => c.side)).size;
    if (standing === feet) share += (marks[i + 1]! - marks[i]!) / duration;
  }
  return share;
}

/** Mean part of the round a foot stands. */
export function standingPart(motion: Motion, side: Side): number {
  return motion.contacts.filter((c) => c.side === side).reduce((sum, c) => sum + (c.to - c.from) / motion.duration, 0);
}
