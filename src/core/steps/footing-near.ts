import type { Sole } from '../body/sole';
import type { Ground } from '../ground/ground';
import { solePlane } from '../ground/sole-plane';
import type { Foothold } from '../motion/motion';

/** How a sole lies. */
export type Lying = Pick<Foothold, 'x' | 'y' | 'z' | 'heading' | 'slopeX' | 'slopeZ'>;

/** Ground under the ball is at most so far (m) below the sole, and nothing stands so far into it. */
const FLAT_M = 0.03;
const SUNK_M = 0.004;

/** Whether the ball has ground under it and nothing stands into the sole. */
export function liesFlat(ground: Ground, { heelBack, ballAhead, tipAhead, breadth }: Sole, { x, y, z, heading, slopeX, slopeZ }: Lying): boolean {
  const over = (ahead: number, left: number): number => {
    const dx = Math.sin(heading) * ahead + Math.cos(heading) * left,
      dz = Math.cos(heading) * ahead - Math.sin(heading) * left;
    return y + slopeX * dx + slopeZ * dz - ground.height(x + dx, z + dz);
  };
  const half = breadth / 2;
  const ball = [over(ballAhead, half), over(ballAhead, -half)];
  return Math.max(...ball) < FLAT_M && Math.min(...ball, over(-heelBack, 0), over(tipAhead, 0)) > -SUNK_M;
}

/** The search goes out in rings so far (m) from each other, in so many directions, up to so far. */
const RING_M = 0.02;
const DIRECTIONS = 24;
const FARTHEST_M = 0.8;

/** The nearest place where a foot would find footing and lie flat, in words, seen from the foot; what says that there is none near. */
export function footingNear(ground: Ground, sole: Sole, lying: Lying): string {
  const { x, z, heading } = lying;
  for (let ring = 1; ring * RING_M <= FARTHEST_M + 1e-9; ring++)
    for (let k = 0; k < DIRECTIONS; k++) {
      const ahead = ring * RING_M * Math.cos((2 * Math.PI * k) / DIRECTIONS),
        left = ring * RING_M * Math.sin((2 * Math.PI * k) / DIRECTIONS);
      const px = x + Math.sin(heading) * ahead + Math.cos(heading) * left,
        pz = z + Math.cos(heading) * ahead - Math.sin(heading) * left;
      if (ground.footing(px, pz) && liesFlat(ground, sole, { x: px, z: pz, heading, ...solePlane(ground, sole, px, pz, heading) }))
        return `${[told(ahead, 'ahead', 'back'), told(left, 'left', 'right')].filter(Boolean).join(' and ')} would do`;
    }
  return `none within ${FARTHEST_M} m`;
}

const told = (by: number, more: string, less: string): string =>
  Math.abs(by) < RING_M / 2 ? '' : `${(Math.abs(by) * 1000).toFixed(0)} mm ${by > 0 ? more : less}`;
