import { wrapAngle } from '../math/scalar';
import type { TravelFacts } from './kinds';

/** How the travel of one clip is to be another's: the same, just the other way, or its mirror image. */
export type Relation = 'equal' | 'opposite' | 'mirrored';

/** By how much two clips miss being so related: displacement (m), turn (rad), and time (s), each at least 0. */
export interface Compared {
  readonly relation: Relation;
  readonly way: number;
  readonly turn: number;
  readonly time: number;
}

/** A clip's travel, and its time, s. */
export interface TravelOf {
  readonly facts: TravelFacts;
  readonly seconds: number;
}

/** Each relation's misses, equal, opposite, mirrored. Ways are seen from where each body faces at first. */
export function compareTravel(a: TravelOf, b: TravelOf): readonly Compared[] {
  const way = ({ facts: { displacement, direction } }: TravelOf) => [displacement * Math.sin(direction), displacement * Math.cos(direction)] as const;
  const [[al, af], [bl, bf]] = [way(a), way(b)];
  const time = Math.abs(a.seconds - b.seconds);
  const off = (relation: Relation, left: number, ahead: number, turn: number): Compared => ({
    relation,
    way: Math.hypot(left, ahead),
    turn: Math.abs(wrapAngle(turn)),
    time,
  });
  const [at, bt] = [a.facts.turn, b.facts.turn];
  return [off('equal', al - bl, af - bf, at - bt), off('opposite', al + bl, af + bf, at + bt), off('mirrored', al + bl, af - bf, at + bt)];
}

/** Two relations that miss by as much (m) are alike. */
const ALIKE_M = 1e-6;

/** The relation two clips come nearest to, the first of those alike: a radian of turn counts as a metre. */
export const nearestRelation = (all: readonly Compared[]): Compared => all.reduce((best, c) => (c.way + c.turn < best.way + best.turn - ALIKE_M ? c : best));
