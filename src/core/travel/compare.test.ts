import { describe, expect, it } from 'vitest';
import { compareTravel, nearestRelation, type TravelOf } from './compare';

const travel = (distance: number, directionDeg: number, turnDeg: number, seconds = 1): TravelOf => ({
  facts: {
    distance,
    displacement: distance,
    speed: distance / seconds,
    direction: (directionDeg * Math.PI) / 180,
    turn: (turnDeg * Math.PI) / 180,
    turnRate: 0,
  },
  seconds,
});
const nearest = (a: TravelOf, b: TravelOf) => nearestRelation(compareTravel(a, b));

describe('two travels held against each other', () => {
  it('opposite ones cancel: to the sides, ahead and back; what is missing is told', () => {
    expect(nearest(travel(1.2, 90, 0), travel(1.2, -90, 0))).toMatchObject({ relation: 'opposite', way: expect.closeTo(0, 9) });
    const { relation, way, time } = nearest(travel(1.2, 0, 0), travel(1.19, 180, 0, 1.1));
    expect([relation, way, time]).toEqual(['opposite', expect.closeTo(0.01, 9), expect.closeTo(0.1, 9)]);
  });

  it('turns to either side are mirror images, not opposite, as both go ahead', () => {
    const { relation, way, turn } = nearest(travel(1, 10, 45), travel(1, -10, -44));
    expect(relation).toBe('mirrored');
    expect(way).toBeLessThan(1e-12);
    expect(turn).toBeCloseTo(Math.PI / 180, 12);
  });

  it('equal ones are equal, also turned a whole round on', () => {
    expect(nearest(travel(1, 30, 20), travel(1, 30, 380))).toMatchObject({ relation: 'equal', turn: expect.closeTo(0, 9) });
  });
});
