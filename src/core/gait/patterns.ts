import { follow, structuredCloneGait } from './timing';
import type { GaitSpec } from './spec';
import { SIDES } from '../body/roles';
import { contactPhases, supportShare } from './contact-phases';
import { sidedGait } from './sides';

/** A way for the limbs to take turns: phases of legs and arms, and the hop of a skip, as parts of the stride. */
export interface PhasePattern {
  readonly key: string;
  readonly label: string;
  readonly about: string;
  readonly legs: readonly [left: number, right: number];
  readonly arms: readonly [left: number, right: number];
  readonly skip: number;
  /** Longest time on the ground with which the pattern still reads. */
  readonly mostDuty: number;
  /** Flights in one stride, where there are any. */
  readonly flights: 1 | 2;
}

/** Longest flight (s) that legs of one metre land without folding up; others ∝ √ℓ. */
const LONGEST_FLIGHT_S = 0.27;

export const PHASE_PATTERNS: readonly PhasePattern[] = [
  {
    key: 'alternate',
    label: 'In turn',
    about: 'Left and right half a stride apart, arms against the legs.',
    legs: [0, 0.5],
    arms: [0.5, 0],
    skip: 0,
    mostDuty: 0.85,
    flights: 2,
  },
  {
    key: 'gallop',
    label: 'Gallop',
    about: 'The right foot follows close after the left: one leg leads. A flight too long to land shortens the stride.',
    legs: [0, 0.28],
    arms: [0.5, 0.3],
    skip: 0,
    mostDuty: 0.42,
    flights: 1,
  },
  {
    key: 'skip',
    label: 'Skip',
    about: 'Every step hops once on the standing foot. Flights too long to land shorten the stride.',
    legs: [0, 0.5],
    arms: [0.5, 0],
    skip: 0.17,
    mostDuty: 0.5,
    flights: 2,
  },
  {
    key: 'hop',
    label: 'Hop',
    about: 'Both feet land and leave together. A flight too long to land shortens the stride.',
    legs: [0, 0],
    arms: [0.5, 0.5],
    skip: 0,
    mostDuty: 0.55,
    flights: 1,
  },
];

/**
 * The gait with its limbs taking turns in another way. Time on the ground is shortened where the pattern needs it, and the
 * stride, at equal speed, where its flights would get too long to land.
 */
export function withPattern(gait: GaitSpec, pattern: PhasePattern): GaitSpec {
  const next = structuredCloneGait(gait);
  const { timing } = next;
  [timing.leftLeg, timing.rightLeg] = pattern.legs;
  [timing.leftArm, timing.rightArm] = pattern.arms;
  timing.skip = pattern.skip;
  timing.dutyFactor = Math.min(timing.dutyFactor, pattern.mostDuty);
  delete next.right['timing.dutyFactor'];
  const { sides } = sidedGait({ ...next });
  const air = supportShare(
    SIDES.map((s) => contactPhases(sides[s], s)),
    0,
  );
  const most = (LONGEST_FLIGHT_S * Math.sqrt(gait.legLength) * pattern.flights) / Math.max(air, 1e-9);
  if (timing.strideTime > most) {
    timing.strideLength *= most / timing.strideTime;
    timing.strideTime = most;
  }
  follow(timing, 'speed');
  return next;
}

/** The pattern a gait has now, or undefined where it has phases of its own. */
export const patternOf = ({ timing }: GaitSpec): PhasePattern | undefined =>
  PHASE_PATTERNS.find((p) => p.legs[0] === timing.leftLeg && Math.abs(p.legs[1] - timing.rightLeg) < 1e-9 && p.skip > 0 === timing.skip > 0);
