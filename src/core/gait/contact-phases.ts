import { LEFT, type Side } from '../body/roles';
import type { GaitSpec } from './spec';

/** One time on the ground, in parts of the stride. */
export interface ContactPhase {
  readonly start: number;
  readonly duration: number;
}

/** Shortest contact (part of the stride) that a skip leaves on either side of its hop. */
const SHORTEST = 0.05;

/** A foot's contacts in one stride: one, or two around the hop of a skip. `gait` holds the values of that side. */
export function contactPhases(gait: GaitSpec, side: Side): ContactPhase[] {
  const { leftLeg, rightLeg, dutyFactor, skip } = gait.timing;
  const start = side === LEFT ? leftLeg : rightLeg;
  if (!(skip > 0)) return [{ start, duration: dutyFactor }];
  const duration = Math.max(SHORTEST, (dutyFactor - skip) / 2);
  return [
    { start, duration },
    { start: start + duration + skip, duration },
  ];
}

/** Part of the stride in which a number of feet (0, 1 or 2) is on the ground, from both sides' contacts. */
export function supportShare(contacts: readonly (readonly ContactPhase[])[], feet: number): number {
  const SAMPLES = 2000;
  let hits = 0;
  for (let i = 0; i < SAMPLES; i++) {
    const phase = (i + 0.5) / SAMPLES;
    const standing = contacts.filter((own) => own.some((c) => phase - c.start - Math.floor(phase - c.start) < c.duration)).length;
    if (standing === feet) hits++;
  }
  return hits / SAMPLES;
}
