import { expect, it } from 'vitest';
import { directionName, directionWord } from './names';

it('directions are called by the nearest of eight, with their degrees behind', () => {
  expect([0, 45, 90, 135, 180, -135, -90, -45, -180, 360].map(directionWord)).toEqual([
    'ahead',
    'ahead left',
    'left',
    'back left',
    'back',
    'back right',
    'right',
    'ahead right',
    'back',
    'ahead',
  ]);
  expect([directionWord(20), directionWord(25), directionWord(-20)]).toEqual(['ahead', 'ahead left', 'ahead']);
  expect([directionName(-45), directionName(90, true)]).toEqual(['ahead right, -45°', 'left, 90°, twin']);
});
