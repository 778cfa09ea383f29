import { expect, it } from 'vitest';
import { createPlacement } from '../math/placement';
import { placed } from '../motion/placed';
import { walk } from '../motion/solved';
import { presetFor, shippedBody } from '../tests/cast';
import { createApart } from './apart';

const [marlo, pip] = [shippedBody('marlo'), shippedBody('pip')];
const one = walk('one', presetFor('walk', marlo), marlo, 6, 0);
const other = walk('other', presetFor('walk', pip), pip, 6, 1);

it('tells how far two figures are apart, the same both ways, and below 0 where they stand in each other', () => {
  const beside = placed(other, createPlacement(2, 0, 0, 0));
  const at = createApart(one, beside);
  // Side by side, two metres from middle to middle: what lies between is less by both their halves.
  expect(at(0)).toBeGreaterThan(1.2);
  expect(at(0)).toBeLessThan(1.8);
  for (const t of [0, 1.5, 3]) expect(createApart(beside, one)(t)).toBeCloseTo(at(t), 9);
  const nearer = createApart(one, placed(other, createPlacement(1.5, 0, 0, 0)));
  expect(at(0) - nearer(0)).toBeCloseTo(0.5, 2);
  expect(createApart(one, placed(other, createPlacement(0.1, 0, 0, 0)))(1)).toBeLessThan(0);
});
